/** Surrounds that lie ready: painted ones, uploads, and the present one unwrapped. */
import { Search, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Surround } from '@wemlox/core/document';
import { PAINTED_SURROUNDS, paintSurround } from '@wemlox/core/light/paintedSurrounds';
import { isMovingFile, playbackOf } from '../actions/pictures.ts';
import { keepSurround } from '../actions/surround.ts';
import { drawInRows, rowOf } from './inspecting.ts';
import { SurroundInspection } from './SurroundInspection.tsx';
import { Unwrapped } from './Unwrapped.tsx';
import { worldAt } from './unwrapping.ts';
import { useShown } from '../state/shown.ts';
import { chooseSurround } from '@wemlox/core/edits';
import { currentLook } from '../actions/document.ts';
import { perform } from '../state/studio.ts';
import type { AssetLine, SurroundLine } from '@wemlox/wire';
import { SURROUND_FILES, type SurroundFile } from '@wemlox/core/picture/files';
import { useUploads } from '../desk/useUploads.ts';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import { notify } from '../state/notices.ts';

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

/** What an uploaded surround looks like, small. */
function SmallSurround({ width, height, rgb }: SurroundLine['small']) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const bytes = atob(rgb);
    const data = new Uint8ClampedArray(width * height * 4).fill(255);
    for (let i = 0; i < width * height; i++)
      for (let c = 0; c < 3; c++) data[i * 4 + c] = bytes.charCodeAt(i * 3 + c);
    canvas.current!.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
  }, [width, height, rgb]);
  return (
    <canvas
      ref={canvas}
      width={width}
      height={height}
      className="h-5 w-10 shrink-0 bg-base-200"
      aria-hidden="true"
    />
  );
}

const factsInWords = ({ name, facts, tags }: AssetLine) =>
  [
    name,
    facts &&
      'mean' in facts &&
      `mean ${facts.mean.toPrecision(2)} nit, peak ${facts.peak.toPrecision(2)} nit, ${numberText(facts.stops, 1)} EV`,
    tags.join(', '),
  ]
    .filter(Boolean)
    .join(' · ');

export function SurroundRack() {
  const { surround } = useLook();
  const picture = useShown((v) => v.surround?.small);
  const facts = useShown((v) => v.surround?.facts);
  const { files: pictures, sent: sentPicture, take: upload, list } = useUploads('surround');
  const films = useUploads('footage');
  const files = [...pictures, ...films.files];
  const sent = films.sent ?? sentPicture;
  const [looking, setLooking] = useState(false);
  const [sought, setSought] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const keep = async (kind: SurroundFile) => {
    await keepSurround(kind);
    list();
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    const asset = await (isMovingFile(file) ? films.take : upload)(file);
    if (!asset) return;
    const { hash: id, name } = asset;
    const chosen = { source: 'picture' as const, id, name, plays: playbackOf(asset) };
    perform((p) => chooseSurround(p, currentLook(p).id, chosen));
    notify('done', `${asset.name} lights the type`);
  };
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const isSought = (name: string, tags: readonly string[] = []) => {
    const text = [name, ...tags].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  };
  const own = files.find((a) => surround.source === 'picture' && a.hash === surround.id);
  const option = (source: Surround['source'], id: string, name: string, asset?: AssetLine) => {
    const chosen = surround.source === source && surround.id === id;
    return (
      <button
        key={id}
        type="button"
        role="option"
        aria-selected={chosen}
        title={asset && factsInWords(asset)}
        className={`flex min-w-0 cursor-pointer items-center gap-1.5 px-1 py-0.5 text-left ${chosen ? 'text-primary' : ''}`}
        onClick={() => {
          const plays = asset && playbackOf(asset);
          perform((p) => chooseSurround(p, currentLook(p).id, { source, id, name, plays }));
        }}
      >
        {source === 'painted' && <Preview id={id} />}
        {asset?.facts && 'small' in asset.facts && <SmallSurround {...asset.facts.small} />}
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
            {SURROUND_FILES.map((kind) => (
              <button
                key={kind}
                type="button"
                className="btn btn-xs px-1"
                aria-label={`Keep the surround as .${kind}`}
                title={`Keep it, with its panels, among the surrounds (.${kind})`}
                onClick={() => void keep(kind)}
              >
                .{kind}
              </button>
            ))}
          </div>
          <button
            type="button"
            className="btn btn-xs w-fit px-1.5 whitespace-nowrap"
            title="A surround of your own: .hdr or .exr; or a PNG, JPEG or WebP, or a moving one (WebM, MP4, a zip of pictures), whose whites are brightened"
            disabled={sent !== null}
            onClick={() => input.current?.click()}
          >
            <Upload size={12} />{' '}
            {sent === null ? 'From a file' : sent < 1 ? `${Math.floor(sent * 100)} %` : 'Reading…'}
          </button>
        </div>
      </div>
      <input
        className="input input-xs mb-1 w-full shrink-0"
        type="search"
        aria-label="Find a surround by name or tag"
        placeholder="Find by name or tag"
        value={sought}
        onChange={(e) => setSought(e.target.value)}
      />
      <div
        role="listbox"
        aria-label="Surrounds"
        className="grid min-h-0 grid-cols-2 content-start overflow-y-auto"
      >
        {isSought('No surround') && option('none', 'none', 'No surround')}
        {files.filter((a) => isSought(a.name, a.tags)).map((a) => option('picture', a.hash, a.name, a))}
        {PAINTED_SURROUNDS.filter((p) => isSought(p.name)).map((p) => option('painted', p.id, p.name))}
      </div>
      <input
        ref={input}
        type="file"
        accept=".hdr,.exr,.png,.jpg,.jpeg,.webp,.webm,.mp4,.zip"
        hidden
        data-testid="surround-file"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      {looking && picture && facts && (
        <SurroundInspection
          picture={picture}
          facts={facts}
          file={own ?? null}
          onTagged={list}
          onClose={() => setLooking(false)}
        />
      )}
    </div>
  );
}
