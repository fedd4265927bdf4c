/** The stage from above and from the side: camera, what it takes in and what is sharp, type, pieces and lights, to drag. */
import { useMemo, useRef, useState } from 'react';
import { aspectOf, standing, type Piece } from '@wemlox/core/document';
import { setParameter, standLight } from '@wemlox/core/edits';
import { lightColour, placeLight } from '@wemlox/core/light/placing';
import { toHex } from '@wemlox/core/maths/colour';
import { placedCorners } from '@wemlox/core/scene/faces';
import { stands } from '@wemlox/core/stage/pieces';
import { ENDING } from '@wemlox/core/stage/sizing';
import { cameraFrame, centreOf } from '@wemlox/core/stage/camera';
import { sharpBetween } from '@wemlox/core/stage/lens';
import { currentLook } from '../../actions/document.ts';
import { moveCamera, placePiece } from '../../actions/stage.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { useLook } from '../../state/chosen.ts';
import { useShown } from '../../state/shown.ts';
import { perform, useStudio } from '../../state/studio.ts';
import { useShot } from '../../state/time.ts';
import { outlinePath } from './outlinePath.ts';

const WIDE = 300;
const HIGH = 176;
const ROOM = 1.12;
/** Steps of the arrow keys, pixels. */
const STEP = 4;

type Vec = readonly number[];
interface Side {
  name: string;
  /** World axes that go right and down, and their signs. */
  across: readonly [axis: number, sign: number];
  down: readonly [axis: number, sign: number];
}
const PLAN: Side = { name: 'From above', across: [0, 1], down: [2, 1] };
const ELEVATION: Side = { name: 'From the right', across: [2, -1], down: [1, -1] };

/** Kinds that are seen whole; of the others the drawing has where they are. */
const ends = ({ kind }: Piece) => ENDING.has(kind) || kind === 'model';

const hue = (rgb: Vec) => toHex(rgb.map((v) => v / Math.max(...rgb, 1e-6)));

/** A scale on which points fit: pixels of a world point, and back. */
function scaleOf(side: Side, points: readonly Vec[]) {
  const [a, b] = [side.across, side.down].map(([axis, sign]) => points.map((p) => p[axis] * sign));
  const [left, right, top, bottom] = [Math.min(...a), Math.max(...a), Math.min(...b), Math.max(...b)];
  const unit = Math.max((right - left) / WIDE, (bottom - top) / HIGH, 1e-3) * ROOM;
  const [cx, cy] = [(left + right) / 2, (top + bottom) / 2];
  return {
    unit,
    at: (p: Vec): [number, number] => [
      WIDE / 2 + (p[side.across[0]] * side.across[1] - cx) / unit,
      HIGH / 2 + (p[side.down[0]] * side.down[1] - cy) / unit,
    ],
  };
}

/** What is dragged goes by as much as the pointer does, along the two axes that are seen. */
const movedBy = (side: Side, unit: number, p: Vec, dx: number, dy: number): number[] => {
  const to = [...p];
  to[side.across[0]] += dx * unit * side.across[1];
  to[side.down[0]] += dy * unit * side.down[1];
  return to;
};

function Handle({
  name,
  onMove,
  onTake,
  children,
}: {
  name: string;
  /** Told how far it goes, pixels of the drawing. */
  onMove: (dx: number, dy: number) => void;
  onTake?: () => void;
  children: React.ReactNode;
}) {
  const last = useRef<readonly [number, number] | null>(null);
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${name}: drag or use arrow keys to move`}
      className="cursor-move"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        last.current = [e.clientX, e.clientY];
        onTake?.();
      }}
      onPointerMove={(e) => {
        if (!last.current || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
        const scale = WIDE / e.currentTarget.ownerSVGElement!.getBoundingClientRect().width;
        onMove((e.clientX - last.current[0]) * scale, (e.clientY - last.current[1]) * scale);
        last.current = [e.clientX, e.clientY];
      }}
      onPointerUp={() => (last.current = null)}
      onKeyDown={(e) => {
        const by = {
          ArrowLeft: [-STEP, 0],
          ArrowRight: [STEP, 0],
          ArrowUp: [0, -STEP],
          ArrowDown: [0, STEP],
        }[e.key];
        if (!by) return;
        e.preventDefault();
        onMove(by[0], by[1]);
      }}
    >
      <title>{name}</title>
      {children}
    </g>
  );
}

/** The camera aimed at the same place, standing elsewhere. */
function standCamera(place: Vec): void {
  moveCamera('Move the camera', (c) => {
    const way = place.map((v, i) => v - c.target[i]);
    const distance = Math.hypot(...way);
    if (distance < 0.01) return c;
    return {
      ...c,
      distance,
      azimuth: Math.hypot(way[0], way[2]) > 1e-6 ? Math.atan2(way[0], way[2]) : c.azimuth,
      elevation: Math.asin(Math.min(1, Math.max(-1, way[1] / distance))),
    };
  });
}

function View({ side }: { side: Side }) {
  const shot = useShot();
  const look = useLook();
  const { blocks, pieces } = useStudio((s) => s.seen);
  const scene = useShown((v) => v.scene);
  const bounds = useShown((v) => v.bounds);
  const box = scene?.typeBox;
  const corners = useMemo(
    () => (scene ? placedCorners(scene, bounds) : new Map<string, Vec[]>()),
    [scene, bounds],
  );
  const chosen = useChoice((c) => c.light);
  const taken = useChoice((c) => c.piece);
  const { camera } = shot;
  const frame = cameraFrame(camera, aspectOf(shot));
  const centre = box ? centreOf(box) : [0, 0, 0];
  const lights = look.rig
    .filter((l) => 'stands' in l)
    .map((light) => ({
      light,
      place: placeLight(light, centre as [number, number, number]).position as Vec,
    }));
  const ending = standing(pieces).filter(
    (p) => ends(p) && !(p.kind === 'plate' && p.stands === 'frame') && corners.has(`piece/${p.id}`),
  );
  // lights far away must not make all else a dot
  const size = box ? Math.hypot(...box.max.map((v, i) => v - box.min[i])) : 1;
  const reach = 3 * Math.max(size, camera.distance);
  const near = (p: Vec) => p.map((v, i) => Math.min(centre[i] + reach, Math.max(centre[i] - reach, v)));
  const fit = scaleOf(side, [
    ...(box ? [box.min, box.max] : []),
    frame.position,
    camera.target,
    ...lights.map((l) => near(l.place)),
    ...ending.flatMap((p) => corners.get(`piece/${p.id}`)!.map(near)),
  ]);
  // the drawing keeps its scale while something is held
  const held = useRef<ReturnType<typeof scaleOf> | null>(null);
  const [holding, setHolding] = useState(false);
  if (!holding) held.current = fit;
  const { at, unit } = held.current!;
  const line = (a: Vec, b: Vec) => {
    const [[x1, y1], [x2, y2]] = [at(a), at(b)];
    return { x1, y1, x2, y2 };
  };
  const sideways = side === PLAN ? frame.right : frame.up;
  const half = side === PLAN ? frame.halfWidth : frame.halfHeight;
  /** A place along an edge of what the camera takes in. */
  const edge = (sign: number, depth: number): Vec =>
    frame.position.map(
      (v, i) => v + frame.forward[i] * depth + sideways[i] * sign * half * (frame.parallel ? 1 : depth),
    );
  const depths = camera.blurs && !frame.parallel ? sharpBetween(camera) : null;
  const far = camera.distance * 1.6;
  const [camX, camY] = at(frame.position);
  const [aimX, aimY] = at(camera.target);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full touch-none border border-(--line) bg-base-200"
      role="group"
      aria-label={side.name}
      data-testid={side === PLAN ? 'plan' : 'elevation'}
      onPointerDown={() => setHolding(true)}
      onPointerUp={() => setHolding(false)}
      onPointerCancel={() => setHolding(false)}
    >
      <text x={5} y={11} fontSize={9} fill="var(--quiet)">
        {side.name}
      </text>
      {standing(pieces)
        .filter((p) => !ends(p) && (!stands(p.kind) || side === ELEVATION))
        .map((p) => {
          const place = stands(p.kind) ? [0, p.at, 0] : [0, 0, p.at];
          const [x, y] = at(place);
          const across = stands(p.kind) || side === PLAN;
          return (
            <Handle
              key={p.id}
              name={p.name}
              onTake={() => choose({ piece: p.id })}
              onMove={(dx, dy) => {
                const to = movedBy(side, unit, place, dx, dy);
                perform((doc) => setParameter(doc, `pieces/${p.id}/at`, stands(p.kind) ? to[1] : to[2]));
              }}
            >
              {[8, 1].map((w) => (
                <line
                  key={w}
                  {...(across ? { x1: 0, x2: WIDE, y1: y, y2: y } : { x1: x, x2: x, y1: 0, y2: HIGH })}
                  stroke={w === 1 ? 'var(--quiet)' : 'transparent'}
                  strokeWidth={w}
                />
              ))}
            </Handle>
          );
        })}
      {ending.map((p) => (
        <Handle
          key={p.id}
          name={p.name}
          onTake={() => choose({ piece: p.id })}
          onMove={(dx, dy) =>
            placePiece(p.id, 'Move', (q) => ({ move: movedBy(side, unit, q.move, dx, dy) }))
          }
        >
          <path
            d={outlinePath(corners.get(`piece/${p.id}`)!.map(at))}
            fill="transparent"
            stroke={taken === p.id ? 'var(--color-primary)' : 'var(--color-base-content)'}
            strokeOpacity={0.7}
          />
        </Handle>
      ))}
      {blocks.map((b) => {
        const seen = corners.get(`block/${b.id}`);
        return (
          seen && (
            <Handle
              key={b.id}
              name={b.text || 'Drawing'}
              onTake={() => choose({ block: b.id })}
              onMove={(dx, dy) =>
                perform((doc) =>
                  setParameter(
                    doc,
                    `blocks/${b.id}/place/position`,
                    movedBy(side, unit, b.place.position, dx, dy),
                  ),
                )
              }
            >
              <path
                d={outlinePath(seen.map(at))}
                fill="var(--color-base-content)"
                fillOpacity={0.55}
                stroke="transparent"
                strokeWidth={6}
              />
            </Handle>
          )
        );
      })}
      {[-1, 1].map((s) => (
        <line key={s} {...line(edge(s, frame.parallel ? 0 : 1e-3), edge(s, far))} stroke="var(--quiet)" />
      ))}
      {depths &&
        [depths.near, Math.min(depths.far, far)].map((d, i) => (
          <line
            key={i}
            {...line(edge(-1, d), edge(1, d))}
            stroke="var(--color-primary)"
            strokeDasharray={i === 0 ? undefined : '3 2'}
          >
            <title>{i === 0 ? 'Sharp from here' : 'to here'}</title>
          </line>
        ))}
      {lights.map(({ light, place }) => {
        const [x, y] = at(place);
        return (
          <Handle
            key={light.id}
            name={light.name}
            onTake={() => choose({ light: light.id })}
            onMove={(dx, dy) => {
              const to = movedBy(side, unit, place, dx, dy).map((v, i) => v - centre[i]);
              perform((doc) => standLight(doc, currentLook(doc).id, light.id, to));
            }}
          >
            <circle
              cx={Math.min(WIDE - 6, Math.max(6, x))}
              cy={Math.min(HIGH - 6, Math.max(6, y))}
              r={5}
              fill={hue(lightColour({ ...light, strength: 1 }))}
              stroke={chosen === light.id ? 'var(--color-primary)' : 'var(--quiet)'}
              strokeWidth={2}
              opacity={light.on ? 1 : 0.35}
            />
          </Handle>
        );
      })}
      <Handle
        name="Aim of the camera"
        onMove={(dx, dy) =>
          moveCamera('Aim the camera', (c) => ({ ...c, target: movedBy(side, unit, c.target, dx, dy) }))
        }
      >
        <circle cx={aimX} cy={aimY} r={7} fill="transparent" />
        <path d={`M${aimX - 5} ${aimY}h10M${aimX} ${aimY - 5}v10`} stroke="var(--color-primary)" />
      </Handle>
      <Handle name="Camera" onMove={(dx, dy) => standCamera(movedBy(side, unit, frame.position, dx, dy))}>
        <circle
          cx={camX}
          cy={camY}
          r={6}
          fill="var(--color-base-100)"
          stroke="var(--color-base-content)"
          strokeWidth={1.5}
        />
        <circle cx={camX} cy={camY} r={2} fill="var(--color-base-content)" />
      </Handle>
    </svg>
  );
}

export function Overview() {
  return (
    <div className="grid gap-1.5">
      <View side={PLAN} />
      <View side={ELEVATION} />
    </div>
  );
}
