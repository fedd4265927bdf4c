/** Marks and handles of Set in the picture: the zero plane, letters that touch, tight bends and crowded tubes, and curves with their nodes. */
import { useRef } from 'react';
import type { Block, Camera, CurveNode } from '@wemlox/core/document';
import { courseOf } from '@wemlox/core/plane/curve';
import { bendBaseline, bendTube } from '@wemlox/core/edits';
import { useChosenBlock } from '../state/chosen.ts';
import { perform } from '../state/studio.ts';
import { useShot } from '../state/time.ts';
import type { BandBlock } from '../workers/messages.ts';
import type { FrameRect } from '../engine/draft.ts';
import { inPlane, inWorld, onStage } from './projection.ts';
import { useShown } from '../state/shown.ts';

/** Where marks stand on the stage. */
function marksOf(block: Block, shaped: BandBlock): { key: string; kind: string; at: number[] }[] {
  const { scale, letters } = shaped;
  const inBlock = (i: number, x: number, y: number, z: number) => {
    const l = letters[i];
    const [c, s] = [Math.cos(l.turn), Math.sin(l.turn)];
    return inWorld(block, (l.x + c * x - s * y) * scale, (l.y + s * x + c * y) * scale, z);
  };
  const touches = block.weld
    ? []
    : shaped.touches.map(([a, b]) => {
        const [left, right] = letters[a].x < letters[b].x ? [a, b] : [b, a];
        const at = inBlock(left, letters[left].advance, 0, shaped.reach[1]);
        const other = inBlock(right, 0, 0, shaped.reach[1]);
        const middle = at.map((v, k) => (v + other[k]) / 2);
        middle[1] += block.capHeight / 2;
        return { key: `touch ${a} ${b}`, kind: 'touch', at: middle };
      });
  const bends = letters.flatMap((l, i) =>
    (l.tube?.bends ?? []).map((b, k) => ({
      key: `bend ${i} ${k}`,
      kind: 'bend',
      at: inBlock(i, b.x, b.y, block.tube.standOff + block.tube.diameter / 2),
    })),
  );
  const crowded = letters.flatMap((l, i) =>
    (l.tube?.crowded ?? []).map(({ stroke, from, to }, k) => {
      const [middle, { x, y }] = [(from + to) >> 1, l.tube!.strokes[stroke]];
      const z = block.tube.standOff + block.tube.diameter / 2;
      return { key: `crowded ${i} ${k}`, kind: 'crowded', at: inBlock(i, x[middle], y[middle], z) };
    }),
  );
  return [...touches, ...bends, ...crowded];
}

/** Room between the ink and the drawn edge of the zero plane, as a share of the height of a capital. */
const PLANE_ROOM = 0.12;

/** Edge of the block's zero plane on the stage, from which its depth grows; null behind the camera. */
function zeroPlane(block: Block, shaped: BandBlock, camera: Camera, frame: FrameRect): string | null {
  if (!shaped.bounds) return null;
  const room = block.capHeight * PLANE_ROOM;
  const [x0, y0, x1, y1] = shaped.bounds.map((v, i) => v + (i < 2 ? -room : room));
  const corners = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ].map(([x, y]) => onStage(camera, frame, inWorld(block, x, y)));
  if (corners.some((c) => c === null)) return null;
  return corners.map((c) => `${c![0].toFixed(1)},${c![1].toFixed(1)}`).join(' ');
}

/** A curve on the block's plane with its nodes and handles to drag. */
function Curve({
  block,
  nodes,
  closed,
  camera,
  frame,
  name,
  onChange,
}: {
  block: Block;
  nodes: CurveNode[];
  closed: boolean;
  camera: Camera;
  frame: FrameRect;
  name: string;
  onChange: (nodes: CurveNode[]) => void;
}) {
  const held = useRef<{ node: number; part: 'node' | 'in' | 'out' } | null>(null);
  const see = (x: number, y: number) => onStage(camera, frame, inWorld(block, x, y));
  const box = (e: React.MouseEvent) => e.currentTarget.closest('svg')!.getBoundingClientRect();
  const under = (e: React.MouseEvent) => {
    const { left, top } = box(e);
    return inPlane(camera, frame, block, e.clientX - left, e.clientY - top);
  };
  const course = courseOf(nodes, closed, block.capHeight / 500);
  const points = course.x.map((x, i) => see(x, course.y[i]));
  if (points.some((p) => p === null)) return null;
  const move = (e: React.PointerEvent) => {
    const at = under(e);
    if (!held.current || !at) return;
    const { node, part } = held.current;
    onChange(
      nodes.map((n, i) => {
        if (i !== node) return n;
        if (part === 'node') return { ...n, x: at[0], y: at[1] };
        const [hx, hy] = [at[0] - n.x, at[1] - n.y];
        // the handle across follows, unless Alt breaks the curve
        const other = part === 'in' ? [n.outX, n.outY] : [n.inX, n.inY];
        const reach = Math.hypot(...other);
        const l = Math.hypot(hx, hy) || 1;
        const [ox, oy] = e.altKey ? other : [(-hx / l) * reach, (-hy / l) * reach];
        return part === 'in'
          ? { ...n, inX: hx, inY: hy, outX: ox, outY: oy }
          : { ...n, outX: hx, outY: hy, inX: ox, inY: oy };
      }),
    );
  };
  const grip = (node: number, part: 'node' | 'in' | 'out') => ({
    className: 'pointer-events-auto cursor-move',
    onPointerDown: (e: React.PointerEvent) => {
      e.stopPropagation();
      if (part === 'node' && e.altKey && nodes.length > 2) {
        onChange(nodes.filter((_, i) => i !== node));
        return;
      }
      e.currentTarget.setPointerCapture(e.pointerId);
      held.current = { node, part };
    },
    onPointerMove: move,
    onPointerUp: () => {
      held.current = null;
    },
  });
  const insert = (e: React.MouseEvent) => {
    e.stopPropagation();
    const at = under(e);
    if (!at) return;
    // the node goes into the piece that runs nearest
    let best = 1;
    let least = Infinity;
    const pieces = closed ? nodes.length : nodes.length - 1;
    for (let k = 0; k < pieces; k++) {
      const piece = courseOf([nodes[k], nodes[(k + 1) % nodes.length]], false, block.capHeight / 500);
      piece.x.forEach((x, i) => {
        const d = Math.hypot(x - at[0], piece.y[i] - at[1]);
        if (d < least) [best, least] = [k + 1, d];
      });
    }
    const [p, q] = [nodes[best - 1], nodes[best % nodes.length]];
    const [dx, dy] = [(q.x - p.x) / 6, (q.y - p.y) / 6];
    const made = { x: at[0], y: at[1], inX: -dx, inY: -dy, outX: dx, outY: dy };
    onChange([...nodes.slice(0, best), made, ...nodes.slice(best)]);
  };
  const line = points.map((p) => `${p![0].toFixed(1)},${p![1].toFixed(1)}`).join(' ');
  return (
    <g role="group" aria-label={name} data-testid="stage-curve">
      <polyline
        points={line}
        fill="none"
        stroke="transparent"
        strokeWidth={12}
        className="pointer-events-auto cursor-copy"
        onDoubleClick={insert}
      />
      <polyline points={line} fill="none" stroke="var(--color-primary)" strokeWidth={1.5} />
      {nodes.map((n, i) => {
        const at = see(n.x, n.y);
        const before = see(n.x + n.inX, n.y + n.inY);
        const after = see(n.x + n.outX, n.y + n.outY);
        if (!at || !before || !after) return null;
        return (
          <g key={i} stroke="var(--color-primary)" fill="var(--color-base-200)">
            {(['in', 'out'] as const).map((part) => {
              const end = part === 'in' ? before : after;
              const off =
                !closed && ((part === 'in' && i === 0) || (part === 'out' && i === nodes.length - 1));
              if (off) return null;
              return (
                <g key={part}>
                  <line x1={at[0]} y1={at[1]} x2={end[0]} y2={end[1]} strokeWidth={1} />
                  <circle cx={end[0]} cy={end[1]} r={4} data-handle={`${i}/${part}`} {...grip(i, part)} />
                </g>
              );
            })}
            <rect
              x={at[0] - 5}
              y={at[1] - 5}
              width={10}
              height={10}
              strokeWidth={1.5}
              data-node={i}
              {...grip(i, 'node')}
            />
          </g>
        );
      })}
    </g>
  );
}

export function SetMarks({ frame }: { frame: FrameRect }) {
  const block = useChosenBlock();
  const { camera } = useShot();
  const shaped = useShown((v) => v.blocks.find((b) => b.block === block?.id));
  if (!block || frame.width <= 16) return null;
  const marks = shaped ? marksOf(block, shaped) : [];
  const plane = shaped ? zeroPlane(block, shaped, camera, frame) : null;
  const curves =
    block.form === 'tube' && block.tube.course === 'drawn'
      ? block.tube.drawn.map((stroke, i) => ({
          key: stroke.id,
          name: `Tube ${i + 1}`,
          nodes: stroke.nodes,
          closed: stroke.closed,
          set: (nodes: CurveNode[]) => perform((p) => bendTube(p, block.id, stroke.id, nodes)),
        }))
      : !block.drawing && block.baseline.kind === 'free'
        ? [
            {
              key: 'baseline',
              name: 'Baseline',
              nodes: block.baseline.nodes,
              closed: false,
              set: (nodes: CurveNode[]) => perform((p) => bendBaseline(p, block.id, nodes)),
            },
          ]
        : [];
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="set-marks">
      {plane && (
        // dark under light, so that it shows on any picture
        <g fill="none" strokeOpacity={0.6}>
          <polygon points={plane} stroke="black" />
          <polygon points={plane} stroke="white" strokeDasharray="4 4" data-testid="zero-plane" />
        </g>
      )}
      {marks.map(({ key, kind, at }) => {
        const seen = onStage(camera, frame, at);
        return (
          seen && (
            <circle
              key={key}
              cx={seen[0]}
              cy={seen[1]}
              r={kind === 'touch' ? 11 : 8}
              fill="none"
              stroke="var(--color-warning)"
              strokeWidth={2}
              data-mark={kind}
            />
          )
        );
      })}
      {curves.map(({ key, name, nodes, closed, set }) => (
        <Curve
          key={key}
          name={name}
          block={block}
          nodes={nodes}
          closed={closed}
          camera={camera}
          frame={frame}
          onChange={set}
        />
      ))}
    </svg>
  );
}
