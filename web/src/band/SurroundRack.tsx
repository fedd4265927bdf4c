/** Surrounds that lie ready: painted ones, uploads, and the present one unwrapped. */
import { Save, Search, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Surround } from '@wemlox/core/document';
import { PAINTED_SURROUNDS, paintSurround } from '@wemlox/core/light/paintedSurrounds';
import { keepSurround } from '../actions/surround.ts';
import { drawInRows, rowOf } from './inspecting.ts';
import { SurroundInspection } from './SurroundInspection.tsx';
import { Unwrapped } from './Unwrapped.tsx';
import { worldAt } from './unwrapping.ts';
import { useShown } from '../state/shown.ts';
import { chooseSurround } from '@wemlox/core/edits';
import { currentLook } from '../actions/document.ts';
import { perform } from '../state/studio.ts';
import { api } from '../state/api.ts';
import type { AssetLine } from '@wemlox/wire';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import { attempt, notify } from '../state/notices.ts';

const TINY = { width: 40, height: 20 };

/** What a painted surround looks like, small. */
function Preview({ id }: { id: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    // one after the other, when there is time
    const due = requestIdleCallback(() => {
      const picture = paintSurround(id, 2 * TINY.width);
      drawInRows(canvas.current!, TINY.width, TINY.height, (row) =>
        rowOf(picture, { stops: 0, clips: false }, TINY.width, row, (x, y) =>
          worldAt((x + 0.5) / TINY.width, (y + 0.5) / TINY.height),
        ),
      );
    });
    return () => cancelIdleCallback(due);
  }, [id]);
  return <canvas ref={canvas} className="h-5 w-10 shrink-0 bg-base-200" aria-hidden="true" />;
}

export function SurroundRack() {
  const { surround } = useLook();
  const picture = useShown((v) => v.surround?.small);
  const facts = useShown((v) => v.surround?.facts);
  const [uploads, setUploads] = useState<AssetLine[]>([]);
  /** Share of an upload that has been sent; null while none is under way. */
  const [sent, setSent] = useState<number | null>(null);
  const [looking, setLooking] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => list(), []);
  const list = () =>
    void attempt('Uploaded surrounds could not be listed', () => api.assets('surround')).then(
      (found) => found && setUploads(found),
    );
  const keep = async () => {
    await keepSurround();
    list();
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    setSent(0);
    const asset = await attempt(`${file.name} was not taken`, () =>
      api.upload('surround', file.name, file, setSent),
    );
    setSent(null);
    if (!asset) return;
    setUploads((all) => [...all.filter((a) => a.hash !== asset.hash), asset]);
    perform((p) =>
      chooseSurround(p, currentLook(p).id, { source: 'picture', id: asset.hash, name: asset.name }),
    );
    notify('done', `${asset.name} lights the type`);
  };
  const option = (source: Surround['source'], id: string, name: string) => {
    const chosen = surround.source === source && surround.id === id;
    return (
      <button
        key={id}
        type="button"
        role="option"
        aria-selected={chosen}
        className={`flex min-w-0 cursor-pointer items-center gap-1.5 px-1 py-0.5 text-left ${chosen ? 'text-primary' : ''}`}
        onClick={() => perform((p) => chooseSurround(p, currentLook(p).id, { source, id, name }))}
      >
        {source === 'painted' && <Preview id={id} />}
        <span className="truncate">{name}</span>
      </button>
    );
  };
  return (
    <div
      className="flex h-full flex-col px-4 py-2"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <div className="flex gap-2 pb-1.5">
        {picture && (
          <div className="w-[204px] shrink-0">
            <Unwrapped picture={picture} inspection={{ stops: surround.stops, clips: false }} width={256} />
          </div>
        )}
        <div className="flex min-w-0 flex-1 flex-col justify-between">
          {facts && (
            <ul
              aria-label="Facts of the surround"
              className="quiet grid content-start gap-0.5 text-xs whitespace-nowrap"
            >
              <li>mean {facts.mean.toPrecision(2)} nit</li>
              <li>peak {facts.peak.toPrecision(2)} nit</li>
              <li>range {numberText(facts.stops, 1)} EV</li>
            </ul>
          )}
          <div className="flex gap-1">
            <button
              type="button"
              className="btn btn-xs px-1.5"
              aria-label="Look at the surround by itself"
              title="Look at it by itself"
              disabled={!picture}
              onClick={() => setLooking(true)}
            >
              <Search size={12} />
            </button>
            <button
              type="button"
              className="btn btn-xs px-1.5"
              aria-label="Keep the surround as a file"
              title="Keep it, with its panels, among the surrounds (.exr)"
              onClick={() => void keep()}
            >
              <Save size={12} />
            </button>
          </div>
          <button
            type="button"
            className="btn btn-xs w-fit px-1.5 whitespace-nowrap"
            title="A surround of your own: .hdr or .exr; or a PNG, JPEG or WebP, whose whites are brightened"
            disabled={sent !== null}
            onClick={() => input.current?.click()}
          >
            <Upload size={12} />{' '}
            {sent === null ? '.hdr, .exr' : sent < 1 ? `${Math.floor(sent * 100)} %` : 'Reading…'}
          </button>
        </div>
      </div>
      <div
        role="listbox"
        aria-label="Surrounds"
        className="grid min-h-0 grid-cols-2 content-start overflow-y-auto"
      >
        {option('none', 'none', 'No surround')}
        {PAINTED_SURROUNDS.map((p) => option('painted', p.id, p.name))}
        {uploads.map((a) => option('picture', a.hash, a.name))}
      </div>
      <input
        ref={input}
        type="file"
        accept=".hdr,.exr,.png,.jpg,.jpeg,.webp"
        hidden
        data-testid="surround-file"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      {looking && picture && facts && (
        <SurroundInspection picture={picture} facts={facts} onClose={() => setLooking(false)} />
      )}
    </div>
  );
}
