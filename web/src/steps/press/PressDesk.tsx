/** Press: what leaves the studio. */
import { Clapperboard, Download, Send } from 'lucide-react';
import { hasAlpha, isMoving } from '@wemlox/wire';
import { useState } from 'react';
import { aspectOf } from '@wemlox/core/document';
import { moves } from '@wemlox/core/motion/seen';
import { framesOf } from '@wemlox/core/motion/span';
import { ChoiceRow, NumberRow, Section, SegmentRow, SwitchRow } from '../../desk/rows.tsx';
import { engine } from '../../engine/engine.ts';
import { FILM_KINDS } from '../../engine/filmFile.ts';
import { useShown } from '../../state/shown.ts';
import { downloadPicture } from '../../actions/files.ts';
import { makeFilm } from '../../actions/film.ts';
import { useFilming } from '../../state/filming.ts';
import { sendToPress, type PressSettings } from '../../state/press.ts';
import { useStudio } from '../../state/studio.ts';
import { useFrame, useShot } from '../../state/time.ts';

const FILES = [
  ['png', 'PNG, 8 bit', 'through the grade, with alpha'],
  ['png16', 'PNG, 16 bit', 'through the grade, with alpha'],
  ['jpeg', 'JPEG', 'through the grade, over black'],
  ['exr', 'OpenEXR, float', 'scene-linear, before the grade'],
] as const;

const FORMATS = [
  ['png8', 'PNG, 8 bit'],
  ['png16', 'PNG, 16 bit'],
  ['jpeg', 'JPEG'],
  ['exr-half', 'OpenEXR, half'],
  ['exr-float', 'OpenEXR, float'],
] as const;

const MOVING = [
  ['webm-vp9', 'WebM, VP9'],
  ['webm-av1', 'WebM, AV1'],
  ['mp4', 'MP4, H.264'],
  ['webp', 'WebP, moving'],
  ['gif', 'GIF, dithered'],
  ['gif-plain', 'GIF, not dithered'],
] as const;

const LARGEST = 16_384;

function Order() {
  const shot = useShot();
  const [typed, setWidth] = useState<number | null>(null);
  // a frame of its own says how large its pictures are
  const width = typed ?? (shot.frame === 'own' ? shot.frame_width : 1920);
  const aspect = aspectOf(shot);
  const frame = useFrame();
  const last = framesOf(shot) - 1;
  const differ = useStudio((s) => moves(s.project, shot));
  const [range, setRange] = useState<{ first: number; last: number } | null>(null);
  const within = (v: number) => Math.min(last, Math.max(0, Math.round(v)));
  const asked =
    range === null
      ? { first: frame, last: frame }
      : { first: within(range.first), last: within(Math.max(range.first, range.last)) };
  const [settings, set] = useState<Omit<PressSettings, 'width' | 'height' | 'first' | 'last'>>({
    samples: 512,
    format: 'png16',
    alpha: true,
    layers: false,
    denoise: 1,
    noise: 0,
  });
  const several = differ && asked.last > asked.first;
  const format = !several && isMoving(settings.format) ? 'png16' : settings.format;
  const height = Math.max(1, Math.round(width / aspect));
  const exr = format.startsWith('exr');
  const filming = useFilming((f) => f.now !== null);
  const kind = FILM_KINDS.find((k) => k === format);
  return (
    <Section title="To the press" aside={`${width} × ${height}`}>
      <NumberRow
        label="Width"
        unit="px"
        min={16}
        max={Math.min(LARGEST, Math.floor(LARGEST * aspect))}
        faderMax={3840}
        step={1}
        value={width}
        initial={shot.frame === 'own' ? shot.frame_width : 1920}
        onChange={(v) => setWidth(Math.round(v))}
      />
      <NumberRow
        label="Samples"
        min={1}
        max={65_536}
        faderMax={4096}
        step={1}
        digits={0}
        log
        value={settings.samples}
        initial={256}
        onChange={(v) => set({ ...settings, samples: Math.round(v) })}
      />
      <NumberRow
        label="Stop at noise"
        unit="%"
        min={0}
        max={100}
        faderMax={20}
        step={0.1}
        digits={1}
        value={settings.noise * 100}
        initial={0}
        hint="Squares of the picture stop there, before all samples are traced; 0 traces them all"
        onChange={(v) => set({ ...settings, noise: v / 100 })}
      />
      <NumberRow
        label="Cleaned"
        unit="%"
        min={0}
        max={100}
        step={1}
        digits={0}
        value={settings.denoise * 100}
        initial={100}
        hint="Share of the picture from which its noise is taken"
        onChange={(v) => set({ ...settings, denoise: v / 100 })}
      />
      {differ && (
        <SegmentRow
          label="Pictures"
          value={range === null ? 'one' : 'all'}
          options={[
            ['one', `This one, ${frame}`],
            ['all', 'Of the shot'],
          ]}
          onChange={(v) => setRange(v === 'all' ? { first: 0, last } : null)}
        />
      )}
      {differ && range !== null && (
        <>
          <NumberRow
            label="From picture"
            min={0}
            max={last}
            step={1}
            value={asked.first}
            initial={0}
            onChange={(v) => setRange({ ...range, first: Math.round(v) })}
          />
          <NumberRow
            label="To picture"
            min={0}
            max={last}
            step={1}
            value={asked.last}
            initial={last}
            onChange={(v) => setRange({ ...range, last: Math.round(v) })}
          />
        </>
      )}
      <ChoiceRow
        label="File"
        value={format}
        options={several ? [...FORMATS, ...MOVING] : FORMATS}
        onChange={(format) =>
          set({ ...settings, format, layers: settings.layers && format.startsWith('exr') })
        }
      />
      {hasAlpha(format) && (
        <SwitchRow
          label="Alpha where nothing is behind"
          value={settings.alpha}
          onChange={(alpha) => set({ ...settings, alpha })}
        />
      )}
      {exr && (
        <SwitchRow
          label="Albedo, normal, depth and each light"
          value={settings.layers}
          onChange={(layers) => set({ ...settings, layers })}
        />
      )}
      <button
        type="button"
        className="btn btn-primary btn-sm mt-2 w-full"
        onClick={() =>
          void sendToPress({
            ...settings,
            format,
            ...(differ ? asked : { first: 0, last: 0 }),
            width,
            height,
          })
        }
      >
        <Send size={13} /> Send to the press
      </button>
      {kind && (
        <button
          type="button"
          className="btn btn-sm mt-1.5 w-full"
          disabled={filming}
          title="Traced and encoded by this browser while the page is open, with all samples, cleaned wholly; what is open is black in it"
          onClick={() => void makeFilm({ ...settings, ...asked, kind, width, height })}
        >
          <Clapperboard size={13} /> Make it in this page
        </button>
      )}
    </Section>
  );
}

export function PressDesk() {
  const { samples, fresh } = useShown();
  const size = engine()?.pictureSize;
  return (
    <>
      <Order />
      <Section
        title="The picture on the stage"
        aside={fresh && size ? `${size.width} × ${size.height}, ${samples} samples` : 'not traced yet'}
      >
        {FILES.map(([kind, name, what]) => (
          <div key={kind} className="flex items-center justify-between py-1">
            <span>
              {name}
              <span className="quiet block text-xs">{what}</span>
            </span>
            <button
              type="button"
              className="btn btn-xs"
              disabled={!fresh}
              aria-label={`Download ${name}`}
              onClick={() => void downloadPicture(kind)}
            >
              <Download size={13} /> Download
            </button>
          </div>
        ))}
      </Section>
    </>
  );
}
