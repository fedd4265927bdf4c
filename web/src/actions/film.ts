/** The flip-book as a film, encoded in the page by the browser itself. */
import type { Quality } from 'mediabunny';
import { flipEnds, useFlip } from '../state/flip.ts';
import { attempt } from '../state/notices.ts';
import { shotOf, useStudio } from '../state/studio.ts';
import { currentLook } from './document.ts';
import { download } from './files.ts';

/** Files that are tried in this order: the first whose pictures the browser encodes. */
const WEBM = ['vp9', 'vp8', 'av1'] as const;
const MP4 = ['avc', 'hevc'] as const;

/** The pictures of the flip-book between its ends, in their order; null while one of them is not there. */
function flipFilm(): ImageData[] | null {
  const { project } = useStudio.getState();
  const { pictures } = useFlip.getState();
  const { first, last } = flipEnds();
  const all: ImageData[] = [];
  for (let frame = first; frame <= last; frame++) {
    const picture = pictures.get(frame);
    if (picture?.of !== project) return null;
    all.push(picture.image);
  }
  return all;
}

/** @throws Error when the browser encodes none of the kinds of film there are */
async function encoded(
  pictures: readonly ImageData[],
  rate: number,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; ending: 'webm' | 'mp4' }> {
  const bunny = await import('mediabunny');
  // half the pixels of colour: sides are even
  const [width, height] = [pictures[0].width & ~1, pictures[0].height & ~1];
  const quality: Quality = bunny.QUALITY_HIGH;
  const asked = { width, height, quality };
  const webm = await bunny.getFirstEncodableVideoCodec([...WEBM], asked);
  const codec = webm ?? (await bunny.getFirstEncodableVideoCodec([...MP4], asked));
  if (!codec) throw new Error('this browser encodes no films');
  const target = new bunny.BufferTarget();
  const format = webm ? new bunny.WebMOutputFormat() : new bunny.Mp4OutputFormat();
  const output = new bunny.Output({ format, target });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const source = new bunny.CanvasSource(canvas, { codec, quality });
  output.addVideoTrack(source, { frameRate: rate });
  await output.start();
  for (const [i, picture] of pictures.entries()) {
    // what is open is black: films made here have no opacity, those of the press do
    const layer = await createImageBitmap(picture);
    context.fillRect(0, 0, width, height);
    context.drawImage(layer, 0, 0);
    layer.close();
    await source.add(i / rate, 1 / rate);
  }
  await output.finalize();
  return { bytes: new Uint8Array(target.buffer!), ending: webm ? 'webm' : 'mp4' };
}

/** Saves the flip-book as a film. */
export async function saveFlip(): Promise<void> {
  const pictures = flipFilm();
  if (!pictures || pictures.length === 0) return;
  const { seen: project } = useStudio.getState();
  const shot = shotOf(project);
  const film = await attempt('The flip-book could not be saved as a film', () =>
    encoded(pictures, shot.rate),
  );
  if (!film) return;
  const name = `${project.name}, ${currentLook(project).name}, ${shot.name}.${film.ending}`;
  download(film.bytes, name, `video/${film.ending}`);
}
