/** The stage: draft and traced picture in one place, the frame, and the hands in the picture. */
import { useDroppable } from '@dnd-kit/core';
import { useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { aspectOf } from '@wemlox/core/document';
import { choose, toggleAlone, useAlone, useChoice, useHandles } from '../state/choice.ts';
import { useShot } from '../state/time.ts';
import { CatchKeys } from './CatchKeys.tsx';
import { Compared } from './Compared.tsx';
import { PICTURE } from './drop.ts';
import { Draft, type FrameRect } from '../engine/draft.ts';
import { Engine, setEngine } from '../engine/engine.ts';
import { EdgeMarks } from './EdgeMarks.tsx';
import { FlipCanvas } from './FlipCanvas.tsx';
import { Guides } from './Guides.tsx';
import { useHands } from './hands.ts';
import { HoverMark } from './HoverMark.tsx';
import { useHoverOnStage } from './hover.ts';
import { Notices } from './Notices.tsx';
import { PaintMarks } from './PaintMarks.tsx';
import { RowMark } from './RowMark.tsx';
import { SharpMarks } from './SharpMarks.tsx';
import { SizeMarks } from './SizeMarks.tsx';
import { SetMarks } from './SetMarks.tsx';
import { WishPaint } from './WishPaint.tsx';
import { Status } from './Status.tsx';
import { useFlip } from '../state/flip.ts';
import { usePainting } from '../state/painting.ts';
import { useShown } from '../state/shown.ts';

/** Room round the frame, pixels. */
const MARGIN = 24;

function frameIn(width: number, height: number, aspect: number, clean: boolean): FrameRect {
  const margin = clean ? 0 : MARGIN;
  const w = Math.max(16, Math.min(width - 2 * margin, (height - 2 * margin) * aspect));
  const h = w / aspect;
  return {
    x: Math.round((width - w) / 2),
    y: Math.round((height - h) / 2),
    width: Math.round(w),
    height: Math.round(h),
  };
}

export function Stage() {
  const { step } = useParams();
  const stage = useRef<HTMLDivElement>(null);
  const drop = useDroppable({ id: PICTURE });
  const draftCanvas = useRef<HTMLCanvasElement>(null);
  const tracedCanvas = useRef<HTMLCanvasElement>(null);
  const [parts, setParts] = useState<{ draft: Draft; engine: Engine } | null>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const shot = useShot();
  const mode = useChoice((c) => c.mode);
  const handles = useHandles();
  const { alone } = useAlone();
  const fresh = useShown((v) => v.fresh);
  const state = useShown((v) => v.state);
  const samples = useShown((v) => v.samples);
  const frame = frameIn(size.width, size.height, aspectOf(shot), !handles);

  useEffect(() => {
    const draft = new Draft(draftCanvas.current!);
    const made = new Engine(draft, ({ pixels, size: { width, height } }) => {
      const canvas = tracedCanvas.current;
      if (!canvas || !pixels) return;
      if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
      canvas.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
    });
    setEngine(made);
    setParts({ draft, engine: made });
    stage.current!.dataset.driver = draft.driver;
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize({ width: Math.floor(width), height: Math.floor(height) });
    });
    watch.observe(stage.current!);
    return () => {
      watch.disconnect();
      setEngine(null);
      made.end();
      draft.end();
    };
  }, []);

  useEffect(() => {
    if (!parts || size.width === 0) return;
    parts.draft.resize(size.width, size.height, frame);
    parts.engine.resize(frame.width, frame.height);
    // frame follows from these
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [parts, size.width, size.height, frame.x, frame.y, frame.width, frame.height]);

  useHands(stage, parts?.draft ?? null, step ?? '');
  useHoverOnStage(stage, parts?.draft ?? null, step === 'finish');

  const paints = usePainting((p) => p.on !== null);
  const flips = useFlip((f) => f.on) && step === 'frame';
  const showTraced = mode === 'traced' && fresh && !flips;
  const place = { left: frame.x, top: frame.y, width: frame.width, height: frame.height };
  /** Where the picture is open it is hatched, less than what waits for a finish. */
  const open = { ...place, '--hatch': '6%' } as React.CSSProperties;
  return (
    <div
      ref={(node) => {
        stage.current = node;
        drop.setNodeRef(node);
      }}
      data-drop={PICTURE}
      className="relative h-full w-full touch-none overflow-hidden bg-base-200 select-none"
      data-testid="stage"
      data-state={state}
      data-samples={samples}
      role="application"
      aria-label="The picture. Drag to orbit, shift-drag to pan, wheel to dolly, click a letter to choose it."
      tabIndex={0}
    >
      <div className="hatched pointer-events-none absolute" style={open} />
      <canvas ref={draftCanvas} className="absolute inset-0 h-full w-full" data-testid="draft" />
      <canvas
        ref={tracedCanvas}
        data-testid="traced"
        className="hatched pointer-events-none absolute bg-base-200"
        style={{
          ...open,
          opacity: showTraced ? 1 : 0,
          transition: showTraced ? 'opacity 180ms' : 'opacity 60ms',
        }}
      />
      {step === 'frame' && <FlipCanvas place={open} />}
      <div
        className={`pointer-events-none absolute overflow-visible ${alone ? '' : 'border border-base-content/40'}`}
        style={{
          ...place,
          boxShadow: alone
            ? '0 0 0 4000px var(--color-base-200)'
            : handles
              ? '0 0 0 4000px color-mix(in srgb, var(--color-base-200) 55%, transparent)'
              : 'none',
        }}
      />
      <Guides place={place} />
      {step === 'frame' && handles && <SharpMarks frame={frame} />}
      {step === 'frame' && handles && <SizeMarks frame={frame} />}
      {step === 'frame' && handles && <EdgeMarks place={place} />}
      {step === 'set' && handles && <SetMarks frame={frame} />}
      {step === 'finish' && handles && !paints && <HoverMark frame={frame} />}
      {step === 'finish' && parts && <PaintMarks draft={parts.draft} size={size} />}
      {step === 'light' && <RowMark place={place} />}
      {step === 'light' && parts && <CatchKeys draft={parts.draft} />}
      {step === 'light' && <WishPaint place={place} />}
      <Compared place={place} />
      <Status place={place} step={step} />
      <Notices />
      {alone ? (
        <button
          type="button"
          className="btn btn-xs absolute top-1 right-1 opacity-0 hover:opacity-100 focus-visible:opacity-100"
          onClick={toggleAlone}
        >
          Back to the studio <kbd className="kbd kbd-xs">F</kbd>
        </button>
      ) : !handles ? (
        <button
          type="button"
          className="btn btn-xs btn-ghost absolute top-1 right-1"
          onClick={() => choose({ handles: true })}
        >
          Show handles <kbd className="kbd kbd-xs">H</kbd>
        </button>
      ) : null}
    </div>
  );
}
