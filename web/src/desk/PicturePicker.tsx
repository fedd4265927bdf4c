/** A picture of the document: shown small, chosen among those at hand, or taken in from a file. */
import { useEffect, useRef, type ReactNode } from 'react';
import type { PictureRef } from '@wemlox/core/document';
import {
  textureKey,
  type Coding,
  type PaintedTexture,
  type TexturePreview,
} from '@wemlox/core/texture/texture';
import { still } from '@wemlox/core/motion/footage';
import { isMovingFile, refOf, seekPreview } from '../actions/pictures.ts';
import { usePreviews } from '../state/pictures.ts';
import { FileButton } from './FileButton.tsx';
import { PickMenu } from './PickMenu.tsx';
import { useUploads } from './useUploads.ts';

const FILES = '.png,.jpg,.jpeg,.webp,.exr';
const MOVING = '.webm,.mp4,.zip';
/** Stands for no picture among those at hand. */
const NONE = '';

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

export function PicturePicker({
  label,
  picture,
  coding,
  painted,
  none,
  children,
  played,
  onPick,
}: {
  label: string;
  picture: PictureRef | null;
  coding: Coding;
  /** Wemlox's own that are offered. */
  painted: readonly PaintedTexture[];
  /** What having none is called, where that may be. */
  none?: string;
  /** What else is done with it. */
  children?: ReactNode;
  /** How it plays, where it moves. */
  played?: ReactNode;
  onPick: (picture: PictureRef | null) => void;
}) {
  const shown = picture && still(picture, 0);
  const preview = usePreviews((s) => (shown ? s.known[textureKey(shown, coding)] : undefined));
  const pictures = useUploads('picture');
  const films = useUploads('footage');
  const files = [...pictures.files, ...films.files];
  useEffect(() => {
    if (picture) seekPreview({ picture: still(picture, 0), coding });
  }, [picture, coding]);
  const upload = async (file: File) => {
    const asset = await (isMovingFile(file) ? films : pictures).take(file);
    if (asset) onPick(refOf(asset));
  };
  const choose = (id: string) => {
    const own = painted.find((p) => p.id === id);
    const asset = files.find((a) => a.hash === id);
    if (id === NONE) onPick(null);
    else if (own) onPick({ source: 'painted', id, name: own.name });
    else if (asset) onPick(refOf(asset));
  };
  return (
    <>
      <div
        className="flex items-center gap-2 py-1"
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          e.stopPropagation();
          const [file] = e.dataTransfer.files;
          if (file) void upload(file);
        }}
      >
        {!picture ? null : preview ? (
          <Small preview={preview} name={picture.name} />
        ) : (
          <span className="quiet grid h-14 w-14 place-items-center text-xs">…</span>
        )}
        <div className="flex min-w-0 grow flex-col gap-1">
          <PickMenu
            label={label}
            text={picture?.name ?? none ?? ''}
            items={[
              ...(none === undefined ? [] : [{ id: NONE, name: none }]),
              ...painted,
              ...files.map((a) => ({ id: a.hash, name: a.name })),
            ]}
            onPick={choose}
          />
          <div className="flex flex-wrap gap-1">
            <FileButton
              label={`${label} file`}
              text="From a file"
              accept={`${FILES},${MOVING}`}
              sent={films.sent ?? pictures.sent}
              onFile={(file) => void upload(file)}
            />
            {children}
          </div>
        </div>
      </div>
      {played}
    </>
  );
}
