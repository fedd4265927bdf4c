/** The way from a key to the next: its curve with two handles, and those that lie ready. */
import { useRef } from 'react';
import type { Key } from '@wemlox/core/document';
import { easedShare, READY_WAYS } from '@wemlox/core/motion/easing';
import { changeKeys } from '../../actions/motion.ts';

const SIDE = 120;
/** Room above and below, as a share of the way. */
const ROOM = 0.5;
const STEP = 0.05;
const POINTS = 48;

const x = (v: number) => v * SIDE;
const y = (v: number) => ((1 + ROOM - v) / (1 + 2 * ROOM)) * SIDE;

function Handle({ k, which }: { k: Key; which: 1 | 2 }) {
  const [hx, hy] = which === 1 ? [k.x1, k.y1] : [k.x2, k.y2];
  const [fx, fy] = which === 1 ? [0, 0] : [1, 1];
  const set = (px: number, py: number) =>
    changeKeys(which === 1 ? { ease: 'eased', x1: px, y1: py } : { ease: 'eased', x2: px, y2: py });
  return (
    <>
      <line x1={x(fx)} y1={y(fy)} x2={x(hx)} y2={y(hy)} stroke="var(--quiet)" />
      <circle
        cx={x(hx)}
        cy={y(hy)}
        r={5}
        role="slider"
        tabIndex={0}
        aria-label={which === 1 ? 'How it sets off' : 'How it lands'}
        aria-valuenow={Number(hy.toFixed(2))}
        aria-valuetext={`${hx.toFixed(2)} across, ${hy.toFixed(2)} up`}
        fill="var(--color-base-100)"
        stroke="var(--color-primary)"
        strokeWidth={2}
        className="cursor-move"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => {
          if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
          const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
          const [px, py] = [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height];
          set(Math.min(1, Math.max(0, px)), 1 + ROOM - py * (1 + 2 * ROOM));
        }}
        onKeyDown={(e) => {
          const by = {
            ArrowLeft: [-STEP, 0],
            ArrowRight: [STEP, 0],
            ArrowUp: [0, STEP],
            ArrowDown: [0, -STEP],
          }[e.key];
          if (!by) return;
          e.preventDefault();
          set(hx + by[0], hy + by[1]);
        }}
      />
    </>
  );
}

export function WayEditor({ of }: { of: Key }) {
  const box = useRef<SVGSVGElement>(null);
  const course = Array.from({ length: POINTS + 1 }, (_, i) => {
    const u = i / POINTS;
    return `${i === 0 ? 'M' : 'L'}${x(u)} ${y(easedShare(of, u))}`;
  }).join('');
  return (
    <div className="flex items-start gap-3 pt-1">
      <svg
        ref={box}
        viewBox={`0 0 ${SIDE} ${SIDE}`}
        className="w-32 shrink-0 touch-none overflow-visible border border-(--line)"
        role="group"
        aria-label="Way to the next key"
      >
        <line x1={0} x2={SIDE} y1={y(0)} y2={y(0)} stroke="var(--line)" />
        <line x1={0} x2={SIDE} y1={y(1)} y2={y(1)} stroke="var(--line)" />
        <path d={course} fill="none" stroke="var(--color-base-content)" strokeWidth={1.5} />
        {of.ease === 'eased' && (
          <>
            <Handle k={of} which={1} />
            <Handle k={of} which={2} />
          </>
        )}
      </svg>
      <div className="grid grow grid-cols-1 gap-x-2" role="radiogroup" aria-label="Ways that lie ready">
        {READY_WAYS.map(({ id, name, way }) => {
          const is =
            of.ease === way.ease &&
            (of.ease !== 'eased' ||
              (of.x1 === way.x1 && of.y1 === way.y1 && of.x2 === way.x2 && of.y2 === way.y2));
          return (
            <button
              key={id}
              type="button"
              role="radio"
              aria-checked={is}
              className={`cursor-pointer text-left text-xs ${is ? 'text-primary' : ''}`}
              onClick={() => changeKeys(way)}
            >
              {name}
            </button>
          );
        })}
      </div>
    </div>
  );
}
