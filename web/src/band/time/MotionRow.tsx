/** One thing that moves: its name, the course of its value over the shot, and its keys. */
import { Eye, EyeOff, X } from 'lucide-react';
import { useMemo } from 'react';
import type { Shot } from '@wemlox/core/document';
import { motionName } from '@wemlox/core/edits';
import { numbersAt, type Motion } from '@wemlox/core/motion/seen';
import { lengthOf } from '@wemlox/core/motion/span';
import { set } from '../../actions/document.ts';
import { moveKeys, removeKeysInHand, removeMove, standStill } from '../../actions/motion.ts';
import { secondsText } from '../../desk/typedFrame.ts';
import { useStudio } from '../../state/studio.ts';
import { isInHand, takeKeys, useTime } from '../../state/time.ts';

export const ROW_HEIGHT = 22;
/** Places at which a course is looked up, across the row. */
const PLACES = 240;
const HIGH = 16;

/** The course of a value over the shot: a line for each of its numbers, 0 … 1 across and HIGH down. */
function courses(motion: Motion, shot: Shot): string[] {
  const length = lengthOf(shot);
  const all = Array.from({ length: PLACES + 1 }, (_, i) =>
    numbersAt(motion, (i / PLACES) * length * 0.9999, shot),
  );
  const flat = all.flat();
  const [low, high] = [Math.min(...flat), Math.max(...flat)];
  const y = (v: number) => (high > low ? (1 - (v - low) / (high - low)) * (HIGH - 2) + 1 : HIGH / 2);
  return all[0].map((_, c) => all.map((v, i) => `${i === 0 ? 'M' : 'L'}${i} ${y(v[c]).toFixed(2)}`).join(''));
}

export function MotionRow({
  address,
  motion,
  owner,
  shot,
  names,
}: {
  address: string;
  motion: Motion;
  /** What it belongs to, which stands over its row. */
  owner: string;
  shot: Shot;
  names: number;
}) {
  const project = useStudio((s) => s.project);
  const chosen = useTime((t) => t.row === address);
  const inHand = useTime((t) => t.keys);
  const lines = useMemo(() => courses(motion, shot), [motion, shot]);
  const length = lengthOf(shot);
  const name = motionName(project, address);
  const { track, moves } = motion;
  const owners = [
    ...(track ? [`shots/${shot.id}/tracks/${track.id}`] : []),
    ...moves.map((m) => `shots/${shot.id}/moves/${m.id}`),
  ];
  const on = [...(track ? [track] : []), ...moves].some(
    (m) => (shot.tracks.find((t) => t.id === m.id) ?? shot.moves.find((o) => o.id === m.id))?.on,
  );
  const drag = useMemo(() => ({ x: 0, at: 0, moving: false }), []);
  return (
    <div
      className={`flex items-center border-b border-(--line) ${on ? '' : 'opacity-50'}`}
      style={{ height: ROW_HEIGHT }}
      role="group"
      aria-label={name}
    >
      <div className="flex shrink-0 items-center gap-1 pr-1 pl-3" style={{ width: names }}>
        <button
          type="button"
          className={`min-w-0 grow cursor-pointer truncate text-left text-xs ${chosen ? 'text-primary' : ''}`}
          aria-pressed={chosen}
          aria-label={name}
          title={name}
          onClick={() => useTime.setState({ row: address })}
        >
          {name.endsWith(` of ${owner}`) ? name.slice(0, -` of ${owner}`.length) : name}
        </button>
        <button
          type="button"
          className="cursor-pointer"
          aria-label={`${name}: ${on ? 'hold still for now' : 'move again'}`}
          onClick={() => owners.forEach((owner) => set(`${owner}/on`, !on))}
        >
          {on ? <Eye size={12} /> : <EyeOff size={12} />}
        </button>
        <button
          type="button"
          className="cursor-pointer opacity-50 hover:opacity-100 focus-visible:opacity-100"
          aria-label={`${name}: no longer moves`}
          onClick={() => {
            for (const move of moves) removeMove(move.id);
            if (track) standStill(track.id);
          }}
        >
          <X size={12} />
        </button>
      </div>
      <div className="relative h-full grow" data-course="1">
        <svg
          viewBox={`0 0 ${PLACES} ${HIGH}`}
          preserveAspectRatio="none"
          className="pointer-events-none absolute inset-x-0 top-[3px] h-4 w-full"
          aria-hidden="true"
        >
          {lines.map((d, i) => (
            <path
              key={i}
              d={d}
              fill="none"
              stroke={chosen ? 'var(--color-primary)' : 'var(--quiet)'}
              strokeWidth={1}
              opacity={chosen ? 1 : 0.7}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </svg>
        {track?.keys.map((key) => {
          const held = isInHand(inHand, track.id, key.at);
          return (
            <button
              key={key.at}
              type="button"
              className="absolute top-0 flex h-full w-3 -translate-x-1/2 cursor-ew-resize items-center justify-center"
              style={{ left: `${(key.at / length) * 100}%` }}
              aria-label={`Key of ${name} at ${secondsText(key.at)}: drag or use arrow keys to move`}
              aria-pressed={held}
              onPointerDown={(event) => {
                event.stopPropagation();
                event.currentTarget.setPointerCapture(event.pointerId);
                if (!held) takeKeys([{ track: track.id, at: key.at }], event.shiftKey);
                useTime.setState({ row: address });
                Object.assign(drag, { x: event.clientX, at: key.at, moving: true });
              }}
              onPointerMove={(event) => {
                if (!drag.moving || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
                const { width } = event.currentTarget.parentElement!.getBoundingClientRect();
                const to =
                  Math.round((drag.at + ((event.clientX - drag.x) / width) * length) * shot.rate) / shot.rate;
                moveKeys(Math.max(0, to) - key.at);
              }}
              onPointerUp={() => (drag.moving = false)}
              onFocus={() => !held && !drag.moving && takeKeys([{ track: track.id, at: key.at }])}
              onKeyDown={(event) => {
                const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
                if (by !== undefined) moveKeys((event.shiftKey ? 10 * by : by) / shot.rate);
                else if (event.key === 'Delete' || event.key === 'Backspace') removeKeysInHand();
                else return;
                event.preventDefault();
                event.stopPropagation();
              }}
            >
              <span className={`peg peg-moves peg-set ${held ? 'peg-held' : ''}`} />
            </button>
          );
        })}
      </div>
    </div>
  );
}
