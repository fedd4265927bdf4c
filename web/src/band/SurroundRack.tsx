/** Surrounds that lie ready: painted ones, uploads, and the present one unwrapped. */
import { Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { PAINTED_SURROUNDS } from '@wemlox/core/light/paintedSurrounds';
import { reduced, type SurroundPicture } from '@wemlox/core/light/surround';
import { toneMapped8 } from '@wemlox/core/picture/tone';
import { Sightlines } from './Sightlines.tsx';
import { useShown } from '../state/shown.ts';
import { chooseSurround } from '@wemlox/core/edits';
import { currentLook } from '../actions/document.ts';
import { perform } from '../state/studio.ts';
import { api } from '../state/api.ts';
import type { AssetLine } from '@wemlox/wire';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import { attempt, notify } from '../state/notices.ts';

const WIDE = 256;

/** The environment unwrapped, at its own exposure; turned as it stands behind the type. */
function Unwrapped({ picture, stops }: { picture: SurroundPicture; stops: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const { width, height, data } = reduced(picture, WIDE);
    const rgba = new Float32Array(width * height * 4).fill(1);
    for (let i = 0; i < width * height; i++) rgba.set(data.subarray(i * 3, i * 3 + 3), i * 4);
    Object.assign(canvas.current!, { width, height });
    const pixels = toneMapped8(rgba, { exposure: stops, view: 'soft' });
    canvas.current!.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
  }, [picture, stops]);
  return (
    <div className="relative h-[98px] w-[196px] shrink-0 overflow-hidden bg-base-200">
      <canvas ref={canvas} className="h-full w-full" aria-label="The surround, unwrapped" />
      <Sightlines />
    </div>
  );
}

export function SurroundRack() {
  const { surround } = useLook();
  const picture = useShown((v) => v.surround?.small);
  const facts = useShown((v) => v.surround?.facts);
  const [uploads, setUploads] = useState<AssetLine[]>([]);
  /** Share of an upload that has been sent; null while none is under way. */
  const [sent, setSent] = useState<number | null>(null);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    void attempt('Uploaded surrounds could not be listed', () => api.assets('surround')).then(
      (list) => list && setUploads(list),
    );
  }, []);
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
  const option = (source: 'painted' | 'picture', id: string, name: string) => {
    const chosen = surround.source === source && surround.id === id;
    return (
      <button
        key={id}
        type="button"
        role="option"
        aria-selected={chosen}
        className={`cursor-pointer truncate px-1 py-0.5 text-left ${chosen ? 'text-primary' : ''}`}
        onClick={() => perform((p) => chooseSurround(p, currentLook(p).id, { source, id, name }))}
      >
        {name}
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
        {picture && <Unwrapped picture={picture} stops={surround.stops} />}
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
          <button
            type="button"
            className="btn btn-xs w-fit"
            title="A surround of your own: .hdr or .exr"
            disabled={sent !== null}
            onClick={() => input.current?.click()}
          >
            <Upload size={12} />{' '}
            {sent === null ? '.hdr or .exr' : sent < 1 ? `${Math.floor(sent * 100)} %` : 'Reading…'}
          </button>
        </div>
      </div>
      <div
        role="listbox"
        aria-label="Surrounds"
        className="grid min-h-0 grid-cols-2 content-start overflow-y-auto"
      >
        {PAINTED_SURROUNDS.map((p) => option('painted', p.id, p.name))}
        {uploads.map((a) => option('picture', a.hash, a.name))}
      </div>
      <input
        ref={input}
        type="file"
        accept=".hdr,.exr"
        hidden
        data-testid="surround-file"
        onChange={(e) => void take(e.target.files?.[0])}
      />
    </div>
  );
}
