/** Fonts that lie ready, each showing the artist's own word. */
import { Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { FontRef } from '@wemlox/core/document';
import { SHIPPED_FONTS, shippedRef } from '@wemlox/core/type/shippedFonts';
import { setFont } from '@wemlox/core/edits';
import { perform } from '../state/studio.ts';
import { api, assetUrl } from '../state/api.ts';
import type { AssetLine } from '@wemlox/wire';
import { useChosenBlock } from '../state/chosen.ts';
import { fontUrl } from '../workers/fontFiles.ts';
import { attempt, notify } from '../state/notices.ts';

const loaded = new Set<string>();

/** Makes a font usable in the page under a family of its own. */
function useFace(id: string, url: string | undefined): string {
  const family = `rack ${id}`;
  const [, setReady] = useState(loaded.has(id));
  useEffect(() => {
    if (!url || loaded.has(id)) return;
    loaded.add(id);
    const face = new FontFace(family, `url(${url})`);
    document.fonts.add(face);
    face.load().then(
      () => setReady(true),
      () => loaded.delete(id),
    );
  }, [id, url, family]);
  return family;
}

function Option({
  font,
  url,
  word,
  kind,
  chosen,
  onChoose,
}: {
  font: FontRef;
  url: string | undefined;
  word: string;
  kind: string;
  chosen: boolean;
  onChoose: () => void;
}) {
  const family = useFace(font.id, url);
  return (
    <button
      type="button"
      role="option"
      aria-selected={chosen}
      aria-label={`${font.name}, ${kind}`}
      className="flex h-12 cursor-pointer flex-col justify-center overflow-hidden px-1 text-left"
      onClick={onChoose}
    >
      <span
        className={`block truncate text-xl leading-7 ${chosen ? 'text-primary' : ''}`}
        style={{ fontFamily: `"${family}"` }}
      >
        {word}
      </span>
      <span className={`truncate text-xs ${chosen ? 'text-primary' : 'quiet'}`}>{font.name}</span>
    </button>
  );
}

export function FontRack() {
  const block = useChosenBlock();
  const [uploads, setUploads] = useState<AssetLine[]>([]);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    void attempt('Uploaded fonts could not be listed', () => api.assets('font')).then(
      (list) => list && setUploads(list),
    );
  }, []);
  if (!block) return null;
  if (block.drawing) return <p className="quiet p-3">A drawing has no font.</p>;
  const word = block.text.split('\n')[0].trim().slice(0, 12) || 'Word';
  const take = async (file: File | undefined) => {
    if (!file) return;
    const asset = await attempt(`${file.name} was not taken`, () => api.upload('font', file.name, file));
    if (!asset) return;
    setUploads((all) => [...all.filter((a) => a.hash !== asset.hash), asset]);
    perform((p) => setFont(p, block.id, { source: 'asset', id: asset.hash, name: asset.name }));
    notify('done', `The word is set in ${asset.name}`);
  };
  return (
    <div
      className="flex h-full flex-col px-3 py-2"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <div className="quiet flex items-center justify-between pb-1 text-xs">
        Fonts
        <button type="button" className="btn btn-xs" onClick={() => input.current?.click()}>
          <Upload size={12} /> TTF, OTF, WOFF, WOFF2
        </button>
        <input
          ref={input}
          type="file"
          accept=".ttf,.otf,.woff,.woff2"
          hidden
          data-testid="font-file"
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </div>
      <div
        role="listbox"
        aria-label="Fonts"
        className="grid min-h-0 grid-cols-2 content-start gap-x-2 overflow-y-auto"
      >
        {uploads.map((a) => (
          <Option
            key={a.hash}
            font={{ source: 'asset', id: a.hash, name: a.name }}
            url={assetUrl(a.hash)}
            word={word}
            kind="uploaded"
            chosen={block.font.id === a.hash}
            onChoose={() =>
              perform((p) => setFont(p, block.id, { source: 'asset', id: a.hash, name: a.name }))
            }
          />
        ))}
        {SHIPPED_FONTS.map((f) => (
          <Option
            key={f.id}
            font={shippedRef(f.id)}
            url={fontUrl(f.file)}
            word={word}
            kind={f.kind}
            chosen={block.font.id === f.id}
            onChoose={() => perform((p) => setFont(p, block.id, shippedRef(f.id)))}
          />
        ))}
      </div>
    </div>
  );
}
