/** Brushes that say where the picture shall be brighter, darker, warmer or cooler, and what comes of it. */
import { Eraser, Sparkles } from 'lucide-react';
import type { WishKind } from '@wemlox/core/trace/wish';
import { findBalance, placeWished } from '../actions/wish.ts';
import { discardBalance } from '../state/light.ts';
import { endWishing, unmet, useWishing } from '../state/wishing.ts';

const BRUSHES: readonly (readonly [WishKind, string])[] = [
  ['brighter', 'Brighter'],
  ['darker', 'Darker'],
  ['warmer', 'Warmer'],
  ['cooler', 'Cooler'],
];

export function WishTools() {
  const wishing = useWishing();
  const { brush, strokes, granted, asking } = wishing;
  const short = unmet(wishing);
  if (brush === null)
    return (
      <button
        type="button"
        className="btn btn-xs ml-auto"
        title="Paint on the picture where it should be brighter, darker, warmer or cooler; the lights are found for it"
        onClick={() => useWishing.setState({ brush: 'brighter' })}
      >
        <Sparkles size={12} /> Wish
      </button>
    );
  return (
    <span className="ml-auto flex items-center gap-1" role="group" aria-label="Wishes">
      {short.length > 0 && (
        <>
          <span className="text-xs" role="status">
            {short.length === 1 ? 'One wish' : `${short.length} wishes`} no source reaches
          </span>
          <button
            type="button"
            className="btn btn-xs"
            title="Adds a light that is caught where the wish was painted"
            onClick={placeWished}
          >
            Place a light there
          </button>
        </>
      )}
      {granted && short.length === 0 && (
        <span className="quiet text-xs" role="status">
          Granted
        </span>
      )}
      {BRUSHES.map(([kind, name]) => (
        <button
          key={kind}
          type="button"
          className={`btn btn-xs px-1.5 ${brush === kind ? 'btn-primary' : ''}`}
          aria-pressed={brush === kind}
          title={`Paint where it should be ${name.toLowerCase()}`}
          onClick={() => useWishing.setState({ brush: kind })}
        >
          {name}
        </button>
      ))}
      <button
        type="button"
        className="btn btn-xs btn-primary"
        disabled={strokes.length === 0 || asking}
        onClick={() => void findBalance()}
      >
        {asking ? 'Finding…' : 'Find'}
      </button>
      <button
        type="button"
        className="btn btn-xs px-1.5"
        aria-label="Wish for nothing"
        title="Forget what was painted"
        onClick={() => {
          if (granted) discardBalance();
          endWishing();
        }}
      >
        <Eraser size={12} />
      </button>
    </span>
  );
}
