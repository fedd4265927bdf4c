/** Handles of the chosen piece, by which it is made wider, higher, deeper or larger. */
import { useRef } from 'react';
import { PIECE } from '@wemlox/core/document/parameters';
import { sizeHandles, type SizeHandle } from '@wemlox/core/stage/sizing';
import { set } from '../actions/document.ts';
import type { FrameRect } from '../engine/draft.ts';
import { useChoice } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';
import { useStudio } from '../state/studio.ts';
import { useShot } from '../state/time.ts';
import { onStage } from './projection.ts';

/** What an arrow key makes of a size. */
const KEYS: Readonly<Record<string, number>> = {
  ArrowUp: 1.02,
  ArrowRight: 1.02,
  ArrowDown: 1 / 1.02,
  ArrowLeft: 1 / 1.02,
};
/** Handles nearer to what stays cannot be told by where they are dragged, pixels. */
const NEAREST = 8;

type Place = readonly [number, number];

/** A handle as it was taken: from what stays to where it was grabbed, pixels. */
interface Held extends SizeHandle {
  a: Place;
  way: Place;
}

/** Room between a handle and the frame's edge, pixels. */
const MARGIN = 12;

/** How much of the way from a to b lies in the frame, at whose edge what goes on is taken; 0 where it begins outside. */
function withinFrame({ x, y, width, height }: FrameRect, a: Place, b: Place): number {
  const low = [x + MARGIN, y + MARGIN];
  const high = [x + width - MARGIN, y + height - MARGIN];
  let share = 1;
  for (const k of [0, 1]) {
    if (a[k] < low[k] || a[k] > high[k]) return 0;
    if (b[k] > high[k]) share = Math.min(share, (high[k] - a[k]) / (b[k] - a[k]));
    else if (b[k] < low[k]) share = Math.min(share, (a[k] - low[k]) / (a[k] - b[k]));
  }
  return share;
}

export function SizeMarks({ frame }: { frame: FrameRect }) {
  const { camera } = useShot();
  const id = useChoice((c) => c.piece);
  const piece = useStudio((s) => s.seen.pieces.find((p) => p.id === id && p.on));
  const box = useShown((v) => v.scene?.typeBox);
  const held = useRef<Held | null>(null);
  if (!piece || !box) return null;
  const marks = sizeHandles(piece, box).flatMap((handle) => {
    const [a, b] = [handle.from, handle.to].map((p) => onStage(camera, frame, p));
    const share = a && b ? withinFrame(frame, a, b) : 0;
    return a && b && share > 0 ? [{ handle, a, b, share }] : [];
  });
  const resize = (parameter: SizeHandle['parameter'], to: number) =>
    set(`pieces/${piece.id}/${parameter}`, Math.min(PIECE[parameter].max, Math.max(1e-6, to)));
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="size-marks"
      role="group"
      aria-label={`Sizes of ${piece.name}`}
    >
      {marks.map(({ handle, a, b, share }) => {
        const [dx, dy] = [(b[0] - a[0]) * share, (b[1] - a[1]) * share];
        const name = `${PIECE[handle.parameter].name} of ${piece.name}`;
        return (
          <g key={handle.parameter} stroke="var(--color-primary)">
            <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} strokeDasharray="2 4" strokeOpacity={0.7} />
            <rect
              x={a[0] + dx - 5}
              y={a[1] + dy - 5}
              width={10}
              height={10}
              tabIndex={0}
              role="button"
              aria-label={name}
              className="pointer-events-auto cursor-move"
              fill="var(--color-base-200)"
              strokeWidth={1.5}
              onPointerDown={(e) => {
                e.stopPropagation();
                e.currentTarget.setPointerCapture(e.pointerId);
                held.current = { ...handle, a, way: [dx, dy] };
              }}
              onPointerMove={(e) => {
                const of = held.current;
                if (of?.parameter !== handle.parameter) return;
                const stage = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
                const [x, y] = [e.clientX - stage.left - of.a[0], e.clientY - stage.top - of.a[1]];
                const far = Math.hypot(...of.way);
                if (far < NEAREST) return;
                const times = (x * of.way[0] + y * of.way[1]) / (far * far);
                resize(of.parameter, of.now * Math.max(NEAREST / far, times));
              }}
              onPointerUp={() => {
                held.current = null;
              }}
              onKeyDown={(e) => {
                const times = KEYS[e.key];
                if (!times) return;
                e.preventDefault();
                e.stopPropagation();
                resize(handle.parameter, handle.now * times);
              }}
            >
              <title>{name}</title>
            </rect>
          </g>
        );
      })}
    </svg>
  );
}
