/** Where wishes are painted: over the frame, while a brush is in hand. */
import { useRef } from 'react';
import type { WishKind } from '@wemlox/core/trace/wish';
import { useWishing } from '../state/wishing.ts';

const COLOURS: Record<WishKind, string> = {
  brighter: '#ffffff',
  darker: '#000000',
  warmer: '#ff9440',
  cooler: '#4aa3ff',
};
/** The brush's radius in heights of the picture, and the least way between two places of a stroke. */
const RADIUS = 0.055;
const STEP = 0.008;

export function WishPaint({
  place,
}: {
  place: { left: number; top: number; width: number; height: number };
}) {
  const { brush, strokes, granted } = useWishing();
  const painting = useRef(false);
  if (brush === null) return null;
  const at = (event: React.PointerEvent): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  };
  return (
    <svg
      role="img"
      aria-label={`Paint on the picture where it should be ${brush}`}
      data-testid="wish-paint"
      className="absolute cursor-crosshair touch-none"
      style={place}
      viewBox={`0 0 ${place.width} ${place.height}`}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        painting.current = true;
        const stroke = { kind: brush, places: [at(event)], radius: RADIUS };
        useWishing.setState({ strokes: [...strokes, stroke], granted: null });
      }}
      onPointerMove={(event) => {
        if (!painting.current) return;
        event.stopPropagation();
        const stroke = strokes.at(-1)!;
        const [x, y] = at(event);
        const [lx, ly] = stroke.places.at(-1)!;
        if (Math.hypot(x - lx, y - ly) < STEP) return;
        const longer = { ...stroke, places: [...stroke.places, [x, y] as const] };
        useWishing.setState({ strokes: [...strokes.slice(0, -1), longer] });
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
    </svg>
  );
}
