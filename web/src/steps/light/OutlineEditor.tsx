/** The outline of an area light, as it is seen from where it shines: corners are dragged, added and taken away. */
import { useRef, useState } from 'react';
import type { Corner, LightOf } from '@wemlox/core/document';
import { outlineLight } from '@wemlox/core/edits';
import { currentLook } from '../../actions/document.ts';
import { perform } from '../../state/studio.ts';

const SIDE = 132;
const MARGIN = 10;
const STEP = 0.02;

/** Regular and pointed shapes to begin with. */
const READY: readonly { name: string; corners: () => Corner[] }[] = [
  { name: 'Triangle', corners: () => around(3, [0.5]) },
  { name: 'Hexagon', corners: () => around(6, [0.5]) },
  { name: 'Star', corners: () => around(10, [0.5, 0.22]) },
];

const around = (count: number, radii: readonly number[]): Corner[] =>
  Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count;
    const radius = radii[i % radii.length];
    return { x: radius * Math.sin(angle), y: radius * Math.cos(angle) };
  });

export function OutlineEditor({ light }: { light: LightOf<'area'> }) {
  const svg = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState(0);
  const { outline, width, height } = light;
  const unit = SIDE / Math.max(width, height);
  const [w, h] = [width * unit, height * unit];
  const change = (corners: readonly Corner[], joins = false) =>
    perform((p) => outlineLight(p, currentLook(p).id, light.id, corners, joins));
  const placeOf = (e: { clientX: number; clientY: number }): Corner => {
    const box = svg.current!.getBoundingClientRect();
    return {
      x: (e.clientX - box.left - MARGIN - w / 2) / w,
      y: -(e.clientY - box.top - MARGIN - h / 2) / h,
    };
  };
  const moved = (i: number, to: Corner) =>
    change(
      outline.map((c, k) => (k === i ? to : c)),
      true,
    );
  const at = ({ x, y }: Corner) => [MARGIN + w / 2 + x * w, MARGIN + h / 2 - y * h] as const;
  const current = Math.min(chosen, outline.length - 1);
  return (
    <div className="flex gap-2 py-1">
      <svg
        ref={svg}
        width={w + 2 * MARGIN}
        height={h + 2 * MARGIN}
        className="shrink-0 touch-none"
        role="group"
        aria-label={`Outline of ${light.name}`}
      >
        <rect x={MARGIN} y={MARGIN} width={w} height={h} fill="none" stroke="var(--line)" />
        <polygon
          points={outline.map((c) => at(c).join(',')).join(' ')}
          fill="color-mix(in srgb, var(--color-primary) 30%, transparent)"
          fillRule="evenodd"
          stroke="var(--color-primary)"
        />
        {outline.map((corner, i) => {
          const [x, y] = at(corner);
          return (
            <circle
              key={i}
              cx={x}
              cy={y}
              r={i === current ? 6 : 5}
              className="cursor-move"
              role="button"
              tabIndex={0}
              aria-label={`Corner ${i + 1}: drag, or move with arrow keys`}
              fill="var(--color-base-100)"
              stroke="var(--color-primary)"
              strokeWidth={i === current ? 2.5 : 1.5}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                setChosen(i);
              }}
              onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && moved(i, placeOf(e))}
              onFocus={() => setChosen(i)}
              onKeyDown={(e) => {
                const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
                  e.key
                ];
                if (!by) return;
                e.preventDefault();
                moved(i, { x: corner.x + by[0] * STEP, y: corner.y + by[1] * STEP });
              }}
            />
          );
        })}
      </svg>
      <div className="flex min-w-0 grow flex-col items-stretch gap-1">
        {READY.map(({ name, corners }) => (
          <button key={name} type="button" className="btn btn-xs" onClick={() => change(corners())}>
            {name}
          </button>
        ))}
        <button
          type="button"
          className="btn btn-xs"
          title="Between the chosen corner and the next"
          onClick={() => {
            const [a, b] = [outline[current], outline[(current + 1) % outline.length]];
            change([
              ...outline.slice(0, current + 1),
              { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
              ...outline.slice(current + 1),
            ]);
            setChosen(current + 1);
          }}
        >
          Add a corner
        </button>
        <button
          type="button"
          className="btn btn-xs"
          disabled={outline.length <= 3}
          onClick={() => change(outline.filter((_, i) => i !== current))}
        >
          Take it away
        </button>
      </div>
    </div>
  );
}
