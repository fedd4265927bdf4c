/** Film → pixels: develops, tone-maps, compares and encodes, so that the page only has to put the result on screen. */
import 'reflect-metadata';
import type { Grade } from '@wemlox/core/document';
import { differenceOf } from '@wemlox/core/picture/compare';
import {
  encodeExr,
  encodePng,
  readLinearPicture,
  type LinearPicture,
  type PictureLayers,
} from '@wemlox/core/picture/files';
import { toneMapped8 } from '@wemlox/core/picture/tone';
import { developed, developedLayers, noiseOf, type Film } from '@wemlox/core/trace/film';
import type { DisplayOrder, DisplayReply, EncodeKind } from './messages.ts';

/** The last picture developed, linear. */
let picture: (LinearPicture & { film: Film; samples: number; noise: number }) | null = null;
/** Films of proofs that were looked at, by hash; the oldest go first. */
const proofs = new Map<string, LinearPicture>();
const MOST_PROOFS = 4;

const reply = (message: DisplayReply, transfer: Transferable[] = []) =>
  self.postMessage(message, { transfer });

function show(grade: Grade): void {
  if (!picture) return;
  const { width, height, samples, noise } = picture;
  const pixels = toneMapped8(picture.data, grade);
  reply({ type: 'shown', samples, noise, width, height, pixels }, [pixels.buffer]);
}

function encoded(kind: EncodeKind, grade: Grade, layers: PictureLayers | null): Uint8Array<ArrayBuffer> {
  if (kind === 'film') return encodeExr(picture!, 'half', layers!);
  return kind === 'exr' ? encodeExr(picture!) : encodePng(picture!, grade, kind === 'png16' ? 16 : 8);
}

function encode({ kinds, grade }: DisplayOrder & { type: 'encode' }): void {
  if (!picture) {
    reply({ type: 'encoded', files: null, samples: 0 });
    return;
  }
  const layers = kinds.includes('film') ? developedLayers(picture.film) : null;
  const files = Object.fromEntries(kinds.map((kind) => [kind, encoded(kind, grade, layers)]));
  reply(
    { type: 'encoded', files, samples: picture.samples },
    Object.values(files).map((f) => f.buffer),
  );
}

async function proofFilm(hash: string): Promise<LinearPicture> {
  const known = proofs.get(hash);
  if (known) return known;
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error(`the film could not be fetched (${response.status})`);
  const read = readLinearPicture(new Uint8Array(await response.arrayBuffer()));
  proofs.set(hash, read);
  if (proofs.size > MOST_PROOFS) proofs.delete(proofs.keys().next().value!);
  return read;
}

async function showProofs({ film, against, grade }: DisplayOrder & { type: 'proofs' }): Promise<void> {
  try {
    let shown = await proofFilm(film);
    let mean: number | null = null;
    if (against !== undefined) {
      const other = against === null ? picture : await proofFilm(against);
      if (!other) throw new Error('nothing is traced yet to compare with');
      ({ picture: shown, mean } = differenceOf(shown, other));
    }
    const { width, height } = shown;
    const pixels = toneMapped8(shown.data, grade);
    reply({ type: 'proofs', width, height, pixels, mean }, [pixels.buffer]);
  } catch (error) {
    reply({ type: 'refused', why: error instanceof Error ? error.message : String(error) });
  }
}

self.onmessage = ({ data }: MessageEvent<DisplayOrder>) => {
  if (data.type === 'film') {
    const { film, samples } = data;
    picture = {
      width: film.width,
      height: film.height,
      data: developed(film, samples),
      film,
      samples,
      noise: noiseOf(film, samples),
    };
    show(data.grade);
  } else if (data.type === 'grade') show(data.grade);
  else if (data.type === 'proofs') void showProofs(data);
  else encode(data);
};
