/** Film → pixels: develops, tone-maps and encodes, so that the page only has to put the result on screen. */
import 'reflect-metadata';
import type { Grade } from '@wemlox/core/src/document/index.ts';
import { encodeExr, encodePng } from '@wemlox/core/src/picture/files.ts';
import { toneMapped8 } from '@wemlox/core/src/picture/tone.ts';
import { developed, noiseOf } from '@wemlox/core/src/trace/film.ts';
import type { DisplayOrder, DisplayReply } from './messages.ts';

/** The last picture developed, linear. */
let picture: { width: number; height: number; data: Float32Array; samples: number; noise: number } | null =
  null;

const reply = (message: DisplayReply, transfer: Transferable[] = []) =>
  self.postMessage(message, { transfer });

function show(grade: Grade): void {
  if (!picture) return;
  const { width, height, samples, noise } = picture;
  const pixels = toneMapped8(picture.data, grade);
  reply({ type: 'shown', samples, noise, width, height, pixels }, [pixels.buffer]);
}

function encode({ kind, grade }: DisplayOrder & { type: 'encode' }): void {
  if (!picture) {
    reply({ type: 'encoded', bytes: null, samples: 0 });
    return;
  }
  const bytes = kind === 'exr' ? encodeExr(picture) : encodePng(picture, grade, kind === 'png16' ? 16 : 8);
  reply({ type: 'encoded', bytes, samples: picture.samples }, [bytes.buffer]);
}

self.onmessage = ({ data }: MessageEvent<DisplayOrder>) => {
  if (data.type === 'film') {
    const { film, samples } = data;
    picture = {
      width: film.width,
      height: film.height,
      data: developed(film, samples),
      samples,
      noise: noiseOf(film, samples),
    };
    show(data.grade);
  } else if (data.type === 'grade') show(data.grade);
  else encode(data);
};
