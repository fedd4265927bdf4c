/**
 * A file of moving pictures that the browser itself encodes, picture by picture. What is open in them is black: to
 * encode opacity apart, the encoder's library starts a worker from text, which the studio's pages do not allow.
 */
import type { BufferTarget, CanvasSource, Output } from 'mediabunny';
import type { PictureSize } from '../workers/messages.ts';

/** Kinds of film that are made in the page, in the order in which they are tried where none is asked for. */
export const FILM_KINDS = ['webm-vp9', 'webm-vp8', 'webm-av1', 'mp4', 'mp4-hevc'] as const;
export type FilmKind = (typeof FILM_KINDS)[number];

const CODECS = {
  'webm-vp9': 'vp9',
  'webm-vp8': 'vp8',
  'webm-av1': 'av1',
  mp4: 'avc',
  'mp4-hevc': 'hevc',
} as const;

/** Half the pixels of colour: sides are even, and what is left over is cut off. */
const even = ({ width, height }: PictureSize): PictureSize => ({ width: width & ~1, height: height & ~1 });

export class FilmFile {
  private count = 0;

  private constructor(
    readonly ending: 'webm' | 'mp4',
    private readonly output: Output,
    private readonly target: BufferTarget,
    private readonly source: CanvasSource,
    private readonly context: OffscreenCanvasRenderingContext2D,
    private readonly rate: number,
  ) {}

  /**
   * @param size of its pictures, at least two pixels a side
   * @param rate pictures a second
   * @param kinds the first that the browser encodes is taken
   * @throws Error when the browser encodes none of the kinds
   */
  static async open(size: PictureSize, rate: number, kinds: readonly FilmKind[]): Promise<FilmFile> {
    const bunny = await import('mediabunny');
    const { width, height } = even(size);
    if (width === 0 || height === 0) throw new Error('a film’s pictures have at least two pixels a side');
    const quality = bunny.QUALITY_HIGH;
    const codec = await bunny.getFirstEncodableVideoCodec(
      kinds.map((kind) => CODECS[kind]),
      { width, height, quality },
    );
    const kind = FILM_KINDS.find((k) => CODECS[k] === codec);
    if (!codec || !kind)
      throw new Error(`this browser does not encode ${kinds.length > 1 ? 'films' : 'this kind of film'}`);
    const ending = kind.startsWith('webm') ? 'webm' : 'mp4';
    const target = new bunny.BufferTarget();
    const format = ending === 'webm' ? new bunny.WebMOutputFormat() : new bunny.Mp4OutputFormat();
    const output = new bunny.Output({ format, target });
    const canvas = new OffscreenCanvas(width, height);
    const source = new bunny.CanvasSource(canvas, { codec, quality });
    output.addVideoTrack(source, { frameRate: rate });
    await output.start();
    return new FilmFile(ending, output, target, source, canvas.getContext('2d')!, rate);
  }

  /** Appends a picture; resolves once the encoder takes the next. */
  async add(picture: ImageData): Promise<void> {
    const { context, rate } = this;
    const { width, height } = context.canvas;
    const layer = await createImageBitmap(picture);
    context.fillRect(0, 0, width, height);
    context.drawImage(layer, 0, 0);
    layer.close();
    await this.source.add(this.count++ / rate, 1 / rate);
  }

  /** Ends the file. @returns its bytes */
  async end(): Promise<Uint8Array<ArrayBuffer>> {
    await this.output.finalize();
    return new Uint8Array(this.target.buffer!);
  }

  /** Leaves it as it is. */
  async cancel(): Promise<void> {
    await this.output.cancel();
  }
}
