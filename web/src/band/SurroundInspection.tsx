/** The surround by itself: unwrapped or from inside, at any exposure, read off in stops under the pointer. */
import { useEffect, useRef, useState } from 'react';
import {
  inPicture,
  intoPicture,
  outOfPicture,
  type SurroundFacts,
  type SurroundPicture,
} from '@wemlox/core/light/surround';
import { cutTo, LONGEST_TAG, MOST } from '@wemlox/core/document';
import { frameOf, type Vec } from '@wemlox/core/light/placing';
import type { AssetLine } from '@wemlox/wire';
import { Dialog } from '../desk/Dialog.tsx';
import { api } from '../state/api.ts';
import { attempt } from '../state/notices.ts';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import { drawInRows, readOff, rowOf, type Inspection } from './inspecting.ts';
import { PanelMarks } from './PanelMarks.tsx';
import { Unwrapped } from './Unwrapped.tsx';

const INSIDE = { width: 720, height: 360 };
/** Half of the angle that the view from inside is high, as a tangent. */
const HALF = 0.6;
const STEP = 0.12;
const REACH = { low: -12, high: 12 };

/** What one sees who stands in the type and looks about. */
function FromInside({
  picture,
  inspection,
  onPoint,
}: {
  picture: SurroundPicture;
  inspection: Inspection;
  onPoint: (direction: readonly number[] | null) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { surround } = useLook();
  const { turn, tilt, roll } = surround;
  const [look, setLook] = useState({ azimuth: 0, elevation: 0 });
  const from = useRef<{ x: number; y: number; azimuth: number; elevation: number } | null>(null);
  const { stops, clips } = inspection;
  const { width, height } = INSIDE;
  const directionAt = (x: number, y: number) => {
    const [across, up] = [((2 * x) / width - 1) * HALF * (width / height), (1 - (2 * y) / height) * HALF];
    const [ca, sa, ce, se] = [
      Math.cos(look.azimuth),
      Math.sin(look.azimuth),
      Math.cos(look.elevation),
      Math.sin(look.elevation),
    ];
    // to the front, to the right of who looks there, and up
    const d = [ce * sa - across * ca - up * se * sa, se + up * ce, ce * ca + across * sa - up * se * ca];
    const l = Math.hypot(...d);
    return inPicture(intoPicture({ turn, tilt, roll }), d[0] / l, d[1] / l, d[2] / l);
  };
  const directionUnder = (event: React.PointerEvent) => {
    const { left, top, width: w, height: h } = canvas.current!.getBoundingClientRect();
    return directionAt(((event.clientX - left) / w) * width, ((event.clientY - top) / h) * height);
  };
  const placeOf = (direction: Vec) => {
    const d = outOfPicture(intoPicture({ turn, tilt, roll }), ...direction);
    const { away, right, up } = frameOf(look);
    const [ahead, across, high] = [away, right, up].map((v) => v[0] * d[0] + v[1] * d[1] + v[2] * d[2]);
    // who looks there from within has the light's right at the left
    const place = {
      across: (1 - across / ahead / (HALF * (width / height))) / 2,
      down: (1 - high / ahead / HALF) / 2,
    };
    return ahead > 0 && Math.abs(place.across - 0.5) <= 0.5 && Math.abs(place.down - 0.5) <= 0.5
      ? place
      : null;
  };
  useEffect(
    () =>
      drawInRows(canvas.current!, width, height, (row) =>
        rowOf(picture, { stops, clips }, width, row, (x, y) => directionAt(x + 0.5, y + 0.5)),
      ),
    // directionAt follows from these
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [picture, stops, clips, turn, tilt, roll, look],
  );
  const lookTo = (azimuth: number, elevation: number) =>
    setLook({ azimuth, elevation: Math.min(1.5, Math.max(-1.5, elevation)) });
  return (
    <div className="relative">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label="The surround from inside: drag or use arrow keys to look about"
        className="aspect-[2/1] w-full cursor-grab touch-none"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          from.current = { x: e.clientX, y: e.clientY, ...look };
        }}
        onPointerMove={(e) => {
          const { width: w, height: h } = e.currentTarget.getBoundingClientRect();
          onPoint(directionUnder(e));
          const start = from.current;
          if (start)
            lookTo(
              start.azimuth + ((e.clientX - start.x) / w) * 2.4,
              start.elevation + ((e.clientY - start.y) / h) * 1.2,
            );
        }}
        onPointerUp={() => (from.current = null)}
        onPointerLeave={() => onPoint(null)}
        onKeyDown={(e) => {
          const by = {
            ArrowLeft: [STEP, 0],
            ArrowRight: [-STEP, 0],
            ArrowUp: [0, STEP],
            ArrowDown: [0, -STEP],
          }[e.key];
          if (!by) return;
          e.preventDefault();
          lookTo(look.azimuth + by[0], look.elevation + by[1]);
        }}
      />
      <PanelMarks placeOf={placeOf} directionUnder={directionUnder} />
    </div>
  );
}

/** Words an uploaded surround is found by, with commas between them. */
function Tags({ file, onTagged }: { file: AssetLine; onTagged: () => void }) {
  const [typed, setTyped] = useState(file.tags.join(', '));
  const commit = async () => {
    const tags = [
      ...new Set(
        typed
          .split(',')
          .map((t) => cutTo(t.trim(), LONGEST_TAG))
          .filter(Boolean),
      ),
    ];
    if (tags.join() === file.tags.join()) return;
    const kept = await attempt('The tags were not kept', () =>
      api.tagAsset(file.hash, tags.slice(0, MOST.tags)),
    );
    if (!kept) return;
    setTyped(kept.tags.join(', '));
    onTagged();
  };
  return (
    <label className="mt-1 flex items-center gap-2">
      <span className="quiet whitespace-nowrap">Found by</span>
      <input
        className="input input-xs grow"
        aria-label="Tags of the surround"
        placeholder="harbour, dusk, soft"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => void commit()}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
    </label>
  );
}

export function SurroundInspection({
  picture,
  facts,
  file,
  onTagged,
  onClose,
}: {
  picture: SurroundPicture;
  facts: SurroundFacts;
  /** The uploaded file it is, whose tags are changed here. */
  file: AssetLine | null;
  onTagged: () => void;
  onClose: () => void;
}) {
  const { surround } = useLook();
  const [inside, setInside] = useState(false);
  const [inspection, setInspection] = useState<Inspection>({ stops: surround.stops, clips: true });
  const [under, setUnder] = useState<readonly number[] | null>(null);
  const read = under && readOff(picture, under);
  const overMean = read && read.stops - Math.log2(Math.max(1e-9, facts.mean));
  return (
    <Dialog title={surround.name} wide onClose={onClose}>
      <div className="mb-2 flex items-center gap-1.5">
        {(
          [
            ['Unwrapped', false],
            ['From inside', true],
          ] as const
        ).map(([name, value]) => (
          <button
            key={name}
            type="button"
            className={`btn btn-xs ${inside === value ? 'btn-primary' : ''}`}
            aria-pressed={inside === value}
            onClick={() => setInside(value)}
          >
            {name}
          </button>
        ))}
      </div>
      {inside ? (
        <FromInside picture={picture} inspection={inspection} onPoint={setUnder} />
      ) : (
        <Unwrapped picture={picture} inspection={inspection} width={720} onPoint={setUnder} />
      )}
      <div className="mt-2 flex items-center gap-3">
        <label className="flex grow items-center gap-2">
          <span className="quiet whitespace-nowrap">Looked at with</span>
          <input
            type="range"
            className="fader"
            style={
              {
                '--filled': `${((inspection.stops - REACH.low) / (REACH.high - REACH.low)) * 100}%`,
              } as React.CSSProperties
            }
            aria-label="Exposure the surround is looked at with, stops"
            min={REACH.low}
            max={REACH.high}
            step={0.1}
            value={inspection.stops}
            onDoubleClick={() => setInspection({ ...inspection, stops: surround.stops })}
            onChange={(e) => setInspection({ ...inspection, stops: Number(e.target.value) })}
          />
          <span className="w-14 text-right whitespace-nowrap">{numberText(inspection.stops, 1)} EV</span>
        </label>
        <label className="flex items-center gap-1.5 whitespace-nowrap">
          <input
            type="checkbox"
            className="toggle toggle-xs"
            checked={inspection.clips}
            onChange={(e) => setInspection({ ...inspection, clips: e.target.checked })}
          />
          Mark what is clipped
        </label>
      </div>
      <p className="quiet mt-1 min-h-5 text-xs" data-testid="surround-readout">
        {read
          ? `${read.nits.toPrecision(3)} nit under the pointer: ${overMean! >= 0 ? '+' : ''}${numberText(overMean!, 1)} EV over the mean, ${numberText(Math.log2(Math.max(1e-9, facts.peak)) - read.stops, 1)} EV under the peak`
          : `Mean ${facts.mean.toPrecision(3)} nit, peak ${facts.peak.toPrecision(3)} nit, range ${numberText(facts.stops, 1)} EV`}
      </p>
      {file && <Tags file={file} onTagged={onTagged} />}
      <button type="button" className="btn btn-sm mt-2" onClick={onClose}>
        Close
      </button>
    </Dialog>
  );
}
