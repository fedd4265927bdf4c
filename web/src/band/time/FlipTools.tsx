/** The flip-book's tools: on and off, where it begins and ends, how far it is. */
import { BookOpen, ChevronFirst, ChevronLast, Film, X } from 'lucide-react';
import { framesOf } from '@wemlox/core/motion/span';
import { saveFlip } from '../../actions/film.ts';
import { numberText } from '../../state/language.ts';
import { clearFlipEnds, flipEnds, flipKey, setFlipEnd, useFlip, useFlipEnds } from '../../state/flip.ts';
import { useStudio } from '../../state/studio.ts';
import { useFrame, useShot } from '../../state/time.ts';

export function FlipTools() {
  const { on, pictures, pace, failure } = useFlip();
  const ends = useFlipEnds((f) => f.ends);
  const shot = useShot();
  const frame = useFrame();
  const { first, last } = flipEnds();
  const all = last - first + 1;
  const project = useStudio((s) => s.project);
  const made = [...pictures].filter(([f, p]) => f >= first && f <= last && p.of === project).length;
  return (
    <>
      <button
        type="button"
        className={`btn btn-xs ${on ? 'btn-primary' : ''}`}
        aria-pressed={on}
        title="Traces all pictures small, while the hands rest, and plays them"
        onClick={() => useFlip.setState({ on: !on, failure: null })}
      >
        <BookOpen size={13} /> Flip-book
      </button>
      {on && (
        <>
          {(
            [
              ['first', 'Begin the flip-book here', ChevronFirst],
              ['last', 'End the flip-book here', ChevronLast],
            ] as const
          ).map(([which, what, Icon]) => (
            <button
              key={which}
              type="button"
              className="btn btn-ghost btn-xs px-1"
              aria-label={what}
              title={what}
              onClick={() => setFlipEnd(which, frame)}
            >
              <Icon size={14} />
            </button>
          ))}
          {ends[flipKey()] && (
            <button
              type="button"
              className="btn btn-ghost btn-xs px-1"
              aria-label="Flip-book of the whole shot"
              title={`Of the whole shot, ${framesOf(shot)} pictures`}
              onClick={clearFlipEnds}
            >
              <X size={13} />
            </button>
          )}
          <button
            type="button"
            className="btn btn-ghost btn-xs px-1"
            aria-label="Save the flip-book as a film"
            title={
              made < all
                ? 'As a film, once all of it is there'
                : 'Save it as a film; what is open is black in it'
            }
            disabled={made < all}
            onClick={() => void saveFlip()}
          >
            <Film size={14} />
          </button>
          <span className="quiet text-xs whitespace-nowrap" role="status" data-testid="flip-status">
            {failure ??
              `${made} of ${all}${pace && made < all ? `, ${numberText(pace, pace < 10 ? 1 : 0)} a minute` : ''}`}
          </span>
        </>
      )}
    </>
  );
}

/** What of the flip-book is there, along the ruler. */
export function FlipStrip({ frames }: { frames: number }) {
  const { on, pictures } = useFlip();
  useFlipEnds((f) => f.ends);
  const project = useStudio((s) => s.project);
  const { first, last } = flipEnds();
  if (!on) return null;
  const share = (f: number) => `${(f / frames) * 100}%`;
  return (
    <div className="pointer-events-none absolute inset-x-0 bottom-0 h-[3px]" aria-hidden="true">
      <div
        className="absolute h-full bg-base-content/15"
        style={{ left: share(first), width: share(last - first + 1) }}
      />
      {[...pictures].map(([f, { samples, of }]) => (
        <div
          key={f}
          className="absolute h-full bg-primary"
          style={{ left: share(f), width: share(1), opacity: of !== project ? 0.2 : samples > 4 ? 1 : 0.5 }}
        />
      ))}
    </div>
  );
}
