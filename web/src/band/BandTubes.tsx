/** A letter's tubes in the band: their lines, painted and crowded stretches, and tight bends. Drag along one to paint a stretch out. */
import { pointer } from 'd3';
import { useRef, useState } from 'react';
import type { TubeFacts } from '@wemlox/core/solid/tube';
import { useChosenBlock } from '../state/chosen.ts';
import { clearPaint, paintTube } from '@wemlox/core/edits';
import { perform } from '../state/studio.ts';

/** A press that moves less than this is a click, thousandths of an em. */
export const CLICK = 6;

/** Share of a stroke's length nearest to a point. */
function shareAt({ x, y }: TubeFacts['strokes'][number], px: number, py: number): number {
  const length = [0];
  for (let i = 1; i < x.length; i++)
    length.push(length[i - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]));
  const whole = length[length.length - 1] || 1;
  let best = 0;
  let least = Infinity;
  for (let i = 1; i < x.length; i++) {
    const [dx, dy] = [x[i] - x[i - 1], y[i] - y[i - 1]];
    const l2 = dx * dx + dy * dy || 1;
    const t = Math.min(1, Math.max(0, ((px - x[i - 1]) * dx + (py - y[i - 1]) * dy) / l2));
    const d = Math.hypot(px - x[i - 1] - t * dx, py - y[i - 1] - t * dy);
    if (d < least) [best, least] = [(length[i - 1] + t * Math.sqrt(l2)) / whole, d];
  }
  return best;
}

const pointsOf = (x: number[], y: number[]) =>
  x.map((v, i) => `${v.toFixed(1)},${(-y[i]).toFixed(1)}`).join(' ');

export function BandTubes({
  letter,
  tube,
  blockId,
  width,
}: {
  /** Identifier of the letter. */
  letter: string;
  tube: TubeFacts;
  blockId: string;
  /** Diameter, thousandths of an em. */
  width: number;
}) {
  const block = useChosenBlock();
  const press = useRef<{ stroke: number; from: number } | null>(null);
  const [preview, setPreview] = useState<{ stroke: number; from: number; to: number } | null>(null);
  const at = (event: React.PointerEvent, stroke: number) => {
    const [px, py] = pointer(event.nativeEvent, (event.currentTarget as Element).parentElement);
    return shareAt(tube.strokes[stroke], px, -py);
  };
  const stretch = (stroke: number, from: number, to: number) => {
    const { x, y } = tube.strokes[stroke];
    const n = x.length - 1;
    const [a, b] = [Math.floor(Math.min(from, to) * n), Math.ceil(Math.max(from, to) * n)];
    return pointsOf(x.slice(a, b + 1), y.slice(a, b + 1));
  };
  const painted = [
    ...(block?.tube.paintOuts.filter((p) => p.letter === letter && tube.strokes[p.stroke]) ?? []),
    ...(preview ? [preview] : []),
  ];
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      {tube.strokes.map((stroke, i) => (
        <polyline
          key={i}
          points={pointsOf(stroke.x, stroke.y)}
          stroke="var(--color-base-content)"
          strokeWidth={width}
          className="cursor-crosshair"
          data-stroke={`${letter}/${i}`}
          onPointerDown={(e) => {
            e.stopPropagation();
            e.currentTarget.setPointerCapture(e.pointerId);
            press.current = { stroke: i, from: at(e, i) };
          }}
          onPointerMove={(e) => {
            if (press.current) setPreview({ ...press.current, to: at(e, i) });
          }}
          onPointerUp={(e) => {
            const start = press.current;
            press.current = null;
            setPreview(null);
            if (!start) return;
            const to = at(e, i);
            if (Math.abs(to - start.from) * stroke.length < CLICK)
              perform((p) => clearPaint(p, blockId, letter, i, to));
            else perform((p) => paintTube(p, blockId, letter, i, start.from, to));
          }}
        />
      ))}
      {painted.map((p, i) => (
        <polyline
          key={`p${i}`}
          points={stretch(p.stroke, p.from, p.to)}
          stroke="var(--color-base-300)"
          strokeWidth={width * 0.62}
          pointerEvents="none"
        />
      ))}
      {tube.crowded.map(({ stroke, from, to }, i) => (
        <polyline
          key={`c${i}`}
          points={pointsOf(
            tube.strokes[stroke].x.slice(from, to + 1),
            tube.strokes[stroke].y.slice(from, to + 1),
          )}
          stroke="var(--color-warning)"
          strokeWidth={width * 0.5}
          pointerEvents="none"
        />
      ))}
      {tube.bends.map((b, i) => (
        <circle
          key={`b${i}`}
          cx={b.x}
          cy={-b.y}
          r={width * 0.9 + 8}
          stroke="var(--color-warning)"
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
          pointerEvents="none"
        />
      ))}
    </g>
  );
}
