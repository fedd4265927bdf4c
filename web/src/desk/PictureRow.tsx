/** The picture a parameter is fed from: shown, chosen, taken in, laid by hand on the letters. */
import { Move, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Feed } from '@wemlox/core/document';
import { PAINTED_TEXTURES } from '@wemlox/core/texture/paintedTextures';
import { textureKey, type TexturePreview } from '@wemlox/core/texture/texture';
import type { AssetLine } from '@wemlox/wire';
import { feedPicture, uploadPicture, type WornCoat } from '../actions/coats.ts';
import { seekPreview } from '../actions/pictures.ts';
import { api } from '../state/api.ts';
import { attempt } from '../state/notices.ts';
import { letGo, place, usePlacing, usePreviews } from '../state/pictures.ts';
import { PickMenu } from './PickMenu.tsx';

const FILES = '.png,.jpg,.jpeg,.webp,.exr';

function Small({ preview, name }: { preview: TexturePreview; name: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { small, width, height } = preview;
  useEffect(() => {
    const drawn = new ImageData(small.data, small.width, small.height);
    canvas.current!.getContext('2d')!.putImageData(drawn, 0, 0);
  }, [small]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`${name}, ${width} × ${height} pixels`}
      title={`${width} × ${height}`}
      width={small.width}
      height={small.height}
      className="h-14 max-w-24 rounded-xs object-contain"
    />
  );
}

export function PictureRow({ worn, feed }: { worn: WornCoat; feed: Feed }) {
  const { picture, coding } = feed;
  const preview = usePreviews((s) => s.known[textureKey(picture, coding)]);
  const placing = usePlacing((s) => s.placing?.feed === feed.id);
  const [uploads, setUploads] = useState<AssetLine[]>([]);
  /** Share of an upload that has been sent; null while none is under way. */
  const [sent, setSent] = useState<number | null>(null);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => seekPreview(feed), [feed]);
  useEffect(() => {
    void attempt('Uploaded pictures could not be listed', () => api.assets('picture')).then(
      (list) => list && setUploads(list),
    );
  }, [picture.id]);
  // the hands let go of a picture whose rows are gone
  useEffect(() => () => letGo(feed.id), [feed.id]);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setSent(0);
    await uploadPicture(worn, feed.id, file, setSent);
    setSent(null);
  };
  const choose = (id: string) => {
    const painted = PAINTED_TEXTURES.find((p) => p.id === id);
    const asset = uploads.find((a) => a.hash === id);
    if (painted) feedPicture(worn, feed.id, { source: 'painted', ...painted });
    else if (asset) feedPicture(worn, feed.id, { source: 'asset', id, name: asset.name });
  };
  return (
    <div
      className="flex items-center gap-2 py-1"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        e.stopPropagation();
        void take(e.dataTransfer.files[0]);
      }}
    >
      {preview ? (
        <Small preview={preview} name={picture.name} />
      ) : (
        <span className="quiet grid h-14 w-14 place-items-center text-xs">…</span>
      )}
      <div className="flex min-w-0 grow flex-col gap-1">
        <PickMenu
          label="Picture"
          text={picture.name}
          items={[...PAINTED_TEXTURES, ...uploads.map((a) => ({ id: a.hash, name: a.name }))]}
          onPick={choose}
        />
        <div className="flex gap-1">
          <button
            type="button"
            className="btn btn-xs grow px-1"
            disabled={sent !== null}
            onClick={() => input.current?.click()}
          >
            <Upload size={12} /> {sent === null ? 'From a file' : `${Math.round(sent * 100)} %`}
          </button>
          <button
            type="button"
            className={`btn btn-xs px-1 ${placing ? 'btn-primary' : ''}`}
            aria-pressed={placing}
            title="Drag it on a letter to move it, with Alt to turn it; the wheel sizes it"
            onClick={() => place(placing ? null : { ...worn, feed: feed.id })}
          >
            <Move size={12} /> By hand
          </button>
        </div>
        <input
          ref={input}
          type="file"
          accept={FILES}
          className="hidden"
          aria-label="Picture file"
          onChange={(e) => {
            void take(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </div>
    </div>
  );
}
