/** The line at the foot of the frame: which view, how many samples, how long still. */
import { useMemo } from 'react';
import { useChoice, useHandles } from '../state/choice.ts';
import { numberText } from '../state/language.ts';
import { useStudio } from '../state/studio.ts';
import { findingText } from '@wemlox/core/preflight/words';
import { blockName } from '@wemlox/core/document';
import { standOnFloor } from '../actions/blocks.ts';
import { sunkBlocks } from '@wemlox/core/preflight/sunk';
import { onlyNearly, type Nearly } from '@wemlox/core/finish/rasterised';
import { useCatch } from '../state/catching.ts';
import { useLook } from '../state/chosen.ts';
import { flipAt, useFlip } from '../state/flip.ts';
import { useShown } from '../state/shown.ts';
import { useFrame, useShot } from '../state/time.ts';

interface Place {
  left: number;
  top: number;
  width: number;
  height: number;
}

export function duration(seconds: number): string {
  if (seconds < 1) return 'under 1 s';
  if (seconds < 90) return `${Math.round(seconds)} s`;
  return `${Math.round(seconds / 60)} min`;
}

/** Type under the floor, with the one move that mends it. */
function SunkType() {
  const project = useStudio((s) => s.seen);
  const blocks = useShown((v) => v.blocks);
  const floor = project.pieces.find((p) => p.kind === 'floor' && p.on)?.at ?? null;
  const sunk = useMemo(() => sunkBlocks(project, blocks, floor), [project, blocks, floor]);
  return sunk.map(({ block, depth, letters, all }) => {
    const name = blockName(project.blocks.find((b) => b.id === block)!);
    const what = all || letters.length === 0 ? name : `${letters.slice(0, 8).join(' ')} of ${name}`;
    return (
      <span
        key={block}
        data-testid="sunk"
        className="pointer-events-auto flex w-fit items-center gap-2 rounded-sm bg-warning px-1.5 py-0.5 text-warning-content"
      >
        {what} reaches {numberText(depth * 1000, 0)} mm under the floor
        <button type="button" className="btn btn-xs" onClick={() => standOnFloor(block)}>
          Stand it on the floor
        </button>
      </span>
    );
  });
}

const NEARLY: Record<Nearly, string> = {
  glass: 'glass',
  bodies: 'light within bodies',
  strokes: 'brushed strokes',
  normals: 'normal maps',
  distances: 'distances',
  lights: 'what lights reach',
  depth: 'blur of depth',
  motion: 'blur of motion',
  shadows: 'shadows that are kept',
};

/** Names the draft, and what of the look's finishes it only comes near. */
function useDraftText(): string {
  const look = useLook();
  const shot = useShot();
  const { finishes, pieces } = useStudio((s) => s.seen);
  return useMemo(() => {
    const worn = new Set([...look.chart.map((rule) => rule.finish), ...pieces.map((p) => p.finish)]);
    const nearly = onlyNearly(
      finishes.filter((f) => worn.has(f.id)),
      look,
      shot,
      pieces,
    ).map((n) => NEARLY[n]);
    return nearly.length > 0 ? `Draft, ${nearly.join(', ')} only nearly` : 'Draft';
  }, [look, finishes, pieces, shot]);
}

/** What the flip-book shows of a picture. */
function flipText(frame: number): string {
  const picture = flipAt(frame);
  if (!picture) return `Picture ${frame} is not in the flip-book yet`;
  const { width, height } = picture.image;
  return `Flip-book, ${width} × ${height}, ${picture.samples} samples`;
}

export function Status({ place, step }: { place: Place; step: string | undefined }) {
  const { state, samples, secondsLeft, failure, findings, fresh, loss } = useShown();
  const { mode, samples: goal } = useChoice();
  const handles = useHandles();
  const grave = findings.filter((f) => f.grave).map(findingText);
  const draft = useDraftText();
  const why = useCatch((c) => c.why);
  const frame = useFrame();
  const flips = useFlip((f) => f.on) && step === 'frame';
  if (!handles) return null;
  const text =
    state === 'failed'
      ? failure
      : flips
        ? flipText(frame)
        : mode === 'draft'
          ? draft
          : state === 'done'
            ? `Traced ${samples} samples`
            : fresh && samples === 0
              ? 'First look'
              : fresh
                ? `Traced ${samples} of ${goal} samples, ${duration(secondsLeft)} left`
                : state === 'tracing'
                  ? 'Tracing the first sample'
                  : `${draft}, traced when your hands rest`;
  return (
    <>
      <div
        className="pointer-events-none absolute h-0.5 bg-primary"
        style={{
          left: place.left,
          top: place.top + place.height - 2,
          width:
            mode === 'traced' && fresh && state !== 'done' && !flips ? (place.width * samples) / goal : 0,
        }}
      />
      <div
        className="pointer-events-none absolute flex flex-col gap-1 px-3 pb-2 text-xs"
        style={{ left: place.left, bottom: `calc(100% - ${place.top + place.height}px)` }}
        aria-live="polite"
      >
        <SunkType />
        {why && <span className="w-fit rounded-sm bg-base-100/85 px-1.5 py-0.5">{why}</span>}
        {grave.map((p) => (
          <span key={p} className="w-fit max-w-lg rounded-sm bg-warning px-1.5 py-0.5 text-warning-content">
            {p}
          </span>
        ))}
        <span
          data-testid="status"
          className={`w-fit rounded-sm px-1.5 py-0.5 ${state === 'failed' ? 'bg-warning text-warning-content' : 'bg-black/60 text-white'}`}
        >
          {text}
        </span>
        {mode === 'traced' && fresh && loss > 0 && (
          <span className="w-fit rounded-sm bg-black/60 px-1.5 py-0.5 text-white">
            The limits on bounces lose {(loss * 100).toFixed(1)} % of the light
          </span>
        )}
      </div>
    </>
  );
}
