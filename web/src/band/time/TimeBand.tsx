/** Time: what moves in the shot, each a row with its course and its keys; played, scrubbed, and keys in hand. */
import { Pause, Play, SkipBack } from 'lucide-react';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { grouped } from '@wemlox/core/motion/grouped';
import { motionsOf } from '@wemlox/core/motion/seen';
import { framesOf, lengthOf } from '@wemlox/core/motion/span';
import { secondsText, typedFrame } from '../../desk/typedFrame.ts';
import { goToFrame, useStudio } from '../../state/studio.ts';
import { foldGroup, stop, takeKeys, togglePlay, useFrame, useShot, useTime } from '../../state/time.ts';
import { FlipTools } from './FlipTools.tsx';
import { KeyTools } from './KeyTools.tsx';
import { MotionAdvice } from './MotionAdvice.tsx';
import { MotionRow, ROW_HEIGHT } from './MotionRow.tsx';
import { Ruler } from './Ruler.tsx';

const GROUP_HEIGHT = 18;
/** Width of the names, pixels. */
export const NAMES = 190;

function FrameField() {
  const frame = useFrame();
  const shot = useShot();
  const [typed, setTyped] = useState<string | null>(null);
  const n = framesOf(shot);
  const commit = () => {
    const meant = typed === null ? NaN : typedFrame(typed, shot.rate);
    if (Number.isFinite(meant)) {
      stop();
      goToFrame(meant);
    }
    setTyped(null);
  };
  return (
    <label className="flex items-baseline gap-1.5">
      <span className="sr-only">Picture</span>
      <input
        className="w-12 border-b border-(--line) bg-transparent text-right"
        aria-label="Picture of the shot"
        title="A number of pictures, or seconds with their sign: 36, 1.5 s"
        value={typed ?? frame}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setTyped(null);
        }}
      />
      <span className="quiet text-xs whitespace-nowrap">
        of {n}, {secondsText(frame / shot.rate)} of {secondsText(n / shot.rate)}
      </span>
    </label>
  );
}

export function TimeBand() {
  const project = useStudio((s) => s.project);
  const seenShot = useShot();
  const shot = project.shots.find((s) => s.id === seenShot.id) ?? seenShot;
  const playing = useTime((t) => t.playing);
  const frame = useStudio((s) => s.frame);
  const area = useRef<HTMLDivElement>(null);
  const [band, setBand] = useState<{ from: number; to: number } | null>(null);
  const motions = useMemo(() => {
    return motionsOf(project, {
      ...shot,
      tracks: shot.tracks.map((t) => ({ ...t, on: true })),
      moves: shot.moves.map((m) => ({ ...m, on: true })),
    });
  }, [project, shot]);
  const groups = useMemo(() => grouped(project, motions.keys()), [project, motions]);
  const folded = useTime((t) => t.folded);
  const height = groups.reduce(
    (sum, { of, addresses }) =>
      sum + GROUP_HEIGHT + (folded.includes(of) ? 0 : addresses.length * ROW_HEIGHT),
    0,
  );
  const length = lengthOf(shot);
  const shareAt = (event: React.PointerEvent) => {
    const { left, width } = area.current!.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - left - NAMES) / (width - NAMES)));
  };
  /** Takes the keys between two times in hand, of every row that is shown. */
  const takeBetween = (a: number, b: number) => {
    const [from, to] = [Math.min(a, b) * length, Math.max(a, b) * length];
    takeKeys(
      shot.tracks
        .filter(({ address }) => !folded.some((of) => address.startsWith(of)))
        .flatMap((t) =>
          t.keys.filter((k) => k.at >= from && k.at <= to).map((k) => ({ track: t.id, at: k.at })),
        ),
    );
  };
  return (
    <div className="flex h-full flex-col" data-testid="time">
      <div className="flex h-8 shrink-0 items-center gap-2 border-b border-(--line) px-3">
        <button
          type="button"
          className="btn btn-xs"
          aria-label="To the beginning"
          onClick={() => {
            stop();
            goToFrame(0);
          }}
        >
          <SkipBack size={13} />
        </button>
        <button
          type="button"
          className={`btn btn-xs ${playing ? 'btn-primary' : ''}`}
          aria-label={playing ? 'Stop' : 'Play'}
          aria-pressed={playing}
          title="P"
          onClick={togglePlay}
        >
          {playing ? <Pause size={13} /> : <Play size={13} />}
        </button>
        <FrameField />
        <FlipTools />
        <KeyTools />
        <span className="grow" />
        <MotionAdvice />
      </div>
      <div ref={area} className="relative min-h-0 grow overflow-y-auto overflow-x-hidden">
        <Ruler shot={seenShot} names={NAMES} />
        <div
          className="relative"
          style={{ minHeight: `calc(100% - 20px)` }}
          onPointerDown={(event) => {
            if (event.target !== event.currentTarget && !(event.target as HTMLElement).dataset.course) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            const at = shareAt(event);
            setBand({ from: at, to: at });
          }}
          onPointerMove={(event) => band && setBand({ ...band, to: shareAt(event) })}
          onPointerUp={() => {
            if (band) takeBetween(band.from, band.to);
            setBand(null);
          }}
        >
          {groups.map(({ of, name, owner, addresses }) => (
            <div key={of} role="group" aria-label={name}>
              <button
                type="button"
                className="quiet flex w-full cursor-pointer items-center gap-1 pl-1 text-left text-xs"
                style={{ height: GROUP_HEIGHT }}
                aria-expanded={!folded.includes(of)}
                onClick={() => foldGroup(of)}
              >
                {folded.includes(of) ? <ChevronRight size={11} /> : <ChevronDown size={11} />}
                {name}
                {folded.includes(of) && `, ${addresses.length}`}
              </button>
              {!folded.includes(of) &&
                addresses.map((address) => (
                  <MotionRow
                    key={address}
                    address={address}
                    motion={motions.get(address)!}
                    owner={owner}
                    shot={shot}
                    names={NAMES}
                  />
                ))}
            </div>
          ))}
          {motions.size === 0 && (
            <p className="quiet px-3 py-3">
              Nothing moves yet. Each row of a desk has a peg at its right: key it here, or let it swing,
              drift, wander, breathe or flicker by itself.
            </p>
          )}
          {band && Math.abs(band.to - band.from) > 0.002 && (
            <div
              className="pointer-events-none absolute top-0 bottom-0 border-x border-primary bg-primary/10"
              style={{
                left: `calc(${NAMES}px + (100% - ${NAMES}px) * ${Math.min(band.from, band.to)})`,
                width: `calc((100% - ${NAMES}px) * ${Math.abs(band.to - band.from)})`,
              }}
            />
          )}
        </div>
        <div
          className="pointer-events-none absolute top-0 w-px bg-primary"
          data-testid="playhead"
          style={{
            left: `calc(${NAMES}px + (100% - ${NAMES}px) * ${frame / framesOf(shot)})`,
            height: `max(100%, ${height + 20}px)`,
          }}
        />
      </div>
    </div>
  );
}
