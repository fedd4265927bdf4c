/** Two pairs of edges over the picture, to be laid along what is parallel in a plate. */
import { useRef } from 'react';
import type { FramePoint, LinePair } from '@wemlox/core/stage/vanishing';
import { moveEdge } from '../actions/matching.ts';
import { useMatching } from '../state/matching.ts';

interface Place {
  left: number;
  top: number;
  width: number;
  height: number;
}

const COLOURS = ['var(--color-primary)', 'var(--color-warning)'];
const NAMES = ['First pair', 'Second pair'];
/** Step of an arrow key, in half widths of the frame. */
const STEP = 0.005;
const KEYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, STEP],
  ArrowDown: [0, -STEP],
};
/** How far a line goes on beyond its ends, in its lengths. */
const BEYOND = 3;

export function EdgeMarks({ place }: { place: Place }) {
  const { on, pairs } = useMatching();
  const held = useRef<{ pair: number; line: number; end: number } | null>(null);
  if (!on) return null;
  const { width: w, height: h } = place;
  const see = ({ across, up }: FramePoint) => [((across + 1) / 2) * w, ((1 - up) / 2) * h] as const;
  const end = (pair: number, line: number, k: number, point: FramePoint) => {
    const [x, y] = see(point);
    const name = `${NAMES[pair]}, edge ${line + 1}, end ${k + 1}`;
    return (
      <circle
        key={name}
        cx={x}
        cy={y}
        r={7}
        tabIndex={0}
        role="button"
        aria-label={name}
        className="pointer-events-auto cursor-move"
        fill="var(--color-base-200)"
        fillOpacity={0.6}
        stroke={COLOURS[pair]}
        strokeWidth={2}
        onPointerDown={(e) => {
          e.stopPropagation();
          e.currentTarget.setPointerCapture(e.pointerId);
          held.current = { pair, line, end: k };
        }}
        onPointerMove={(e) => {
          if (!held.current) return;
          const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
          moveEdge(held.current, {
            across: ((e.clientX - box.left) / w) * 2 - 1,
            up: 1 - ((e.clientY - box.top) / h) * 2,
          });
        }}
        onPointerUp={() => {
          held.current = null;
        }}
        onKeyDown={(e) => {
          const by = KEYS[e.key];
          if (!by) return;
          e.preventDefault();
          e.stopPropagation();
          moveEdge({ pair, line, end: k }, { across: point.across + by[0], up: point.up + by[1] });
        }}
      >
        <title>{name}</title>
      </circle>
    );
  };
  return (
    <svg
      className="pointer-events-none absolute overflow-visible"
      style={place}
      viewBox={`0 0 ${w} ${h}`}
      data-testid="edge-marks"
      role="group"
      aria-label="Edges of the plate"
    >
      {pairs.map((pair: LinePair, p) =>
        pair.map(([a, b], l) => {
          const [[x1, y1], [x2, y2]] = [see(a), see(b)];
          const [dx, dy] = [(x2 - x1) * BEYOND, (y2 - y1) * BEYOND];
          return (
            <g key={`${p} ${l}`} stroke={COLOURS[p]}>
              <line
                x1={x1 - dx}
                y1={y1 - dy}
                x2={x2 + dx}
                y2={y2 + dy}
                strokeDasharray="3 5"
                strokeOpacity={0.5}
              />
              <line x1={x1} y1={y1} x2={x2} y2={y2} strokeWidth={1.5} />
              {end(p, l, 0, a)}
              {end(p, l, 1, b)}
            </g>
          );
        }),
      )}
    </svg>
  );
}
