/** The ruler of the shot: seconds and pictures; dragged or stepped through, the picture follows. */
import { ticks } from 'd3';
import { useRef } from 'react';
import type { Shot } from '@wemlox/core/document';
import { framesOf } from '@wemlox/core/motion/span';
import { FlipStrip } from './FlipTools.tsx';
import { goToFrame, useStudio } from '../../state/studio.ts';
import { stepFrames, stop } from '../../state/time.ts';

/** Marks with a number, about so many. */
const NUMBERED = 12;

export function Ruler({ shot, names }: { shot: Shot; names: number }) {
  const line = useRef<HTMLDivElement>(null);
  const frame = useStudio((s) => Math.floor(s.frame));
  const n = framesOf(shot);
  const seconds = ticks(0, n / shot.rate, NUMBERED);
  const go = (event: React.PointerEvent) => {
    const { left, width } = line.current!.getBoundingClientRect();
    stop();
    goToFrame(Math.floor(((event.clientX - left) / width) * n));
  };
  return (
    <div className="sticky top-0 z-10 flex h-5 bg-base-100">
      <div className="quiet shrink-0 pl-3 text-xs leading-5" style={{ width: names }}>
        seconds
      </div>
      <div
        ref={line}
        role="slider"
        tabIndex={0}
        aria-label="Time"
        aria-valuemin={0}
        aria-valuemax={n - 1}
        aria-valuenow={frame}
        aria-valuetext={`picture ${frame} of ${n}`}
        className="relative grow cursor-col-resize touch-none border-b border-(--line)"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          go(event);
        }}
        onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && go(event)}
        onKeyDown={(event) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -10, PageDown: 10 }[event.key];
          if (by !== undefined) stepFrames(by);
          else if (event.key === 'Home') goToFrame(0);
          else if (event.key === 'End') goToFrame(n - 1);
          else return;
          event.preventDefault();
        }}
      >
        {seconds.map((s) => (
          <span
            key={s}
            className="quiet absolute top-0 h-full border-l border-(--line) pl-1 text-[10px] leading-5"
            style={{ left: `${((s * shot.rate) / n) * 100}%` }}
          >
            {Number(s.toFixed(2))}
          </span>
        ))}
        <FlipStrip frames={n} />
      </div>
    </div>
  );
}
