/** Where wishes are painted: over the frame, while a brush is in hand. */
import { useEffect, useRef, useState } from 'react';
import type { WishKind } from '@wemlox/core/trace/wish';
import { useWishing } from '../state/wishing.ts';
import { keyBrush } from './keyBrush.ts';

const COLOURS: Record<WishKind, string> = {
  brighter: '#ffffff',
  darker: '#000000',
  warmer: '#ff9440',
  cooler: '#4aa3ff',
};
/** The brush's radius in heights of the picture, and the least way between two places of a stroke. */
const RADIUS = 0.055;
const STEP = 0.008;

type Place = readonly [number, number];

function beginStroke(kind: WishKind, at: Place): void {
  const { strokes } = useWishing.getState();
  useWishing.setState({ strokes: [...strokes, { kind, places: [at], radius: RADIUS }], granted: null });
}

/** Leads the last stroke on to a place, where that is some way on. */
function leadOn(to: Place): void {
  const { strokes } = useWishing.getState();
  const stroke = strokes.at(-1)!;
  const [lx, ly] = stroke.places.at(-1)!;
  if (Math.hypot(to[0] - lx, to[1] - ly) < STEP) return;
  useWishing.setState({ strokes: [...strokes.slice(0, -1), { ...stroke, places: [...stroke.places, to] }] });
}

export function WishPaint({
  place,
}: {
  place: { left: number; top: number; width: number; height: number };
}) {
  const { brush, strokes, granted } = useWishing();
  const painting = useRef(false);
  const layer = useRef<SVGSVGElement>(null);
  /** Where keys have led the brush. */
  const [led, setLed] = useState<Place | null>(null);
  useEffect(() => {
    const element = layer.current;
    if (!element || brush === null) return;
    const share = (x: number, y: number): Place => [x / element.clientWidth, y / element.clientHeight];
    return keyBrush(element, {
      moved: (x, y) => setLed(share(x, y)),
      paints: (x, y, begins) => (begins ? beginStroke(brush, share(x, y)) : leadOn(share(x, y))),
      ended: () => undefined,
    });
  }, [brush]);
  if (brush === null) return null;
  const at = (event: React.PointerEvent): Place => {
    const box = event.currentTarget.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  };
  return (
    <svg
      ref={layer}
      role="application"
      aria-roledescription="Painting"
      aria-label={`Paint on the picture where it should be ${brush}. Arrows move the brush, Space paints while it is held`}
      tabIndex={0}
      onBlur={() => setLed(null)}
      data-testid="wish-paint"
      className="absolute cursor-crosshair touch-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-primary"
      style={place}
      viewBox={`0 0 ${place.width} ${place.height}`}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        painting.current = true;
        beginStroke(brush, at(event));
      }}
      onPointerMove={(event) => {
        if (!painting.current) return;
        event.stopPropagation();
        leadOn(at(event));
      }}
      onPointerUp={(event) => {
        event.stopPropagation();
        painting.current = false;
      }}
    >
      {strokes.map(({ kind, places, radius }, i) => (
        <polyline
          key={i}
          points={[...places, places.at(-1)!]
            .map(([x, y], k) => `${x * place.width + (k === places.length ? 0.01 : 0)},${y * place.height}`)
            .join(' ')}
          fill="none"
          stroke={COLOURS[kind]}
          // once there is something to see the paint steps back
          strokeOpacity={granted ? 0.08 : 0.4}
          strokeWidth={2 * radius * place.height}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
      {led && (
        <circle
          cx={led[0] * place.width}
          cy={led[1] * place.height}
          r={RADIUS * place.height}
          fill="none"
          stroke="white"
          strokeWidth={1}
          style={{ filter: 'drop-shadow(0 0 1px black)' }}
        />
      )}
    </svg>
  );
}
