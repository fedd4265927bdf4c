/** A picture that is painted on: grey, dabbed with a round brush. */

/** Dabs of a stroke lie so close, in radii of the brush; a place farther off than that many begins another. */
const DAB = 0.25;
const LEAP = 8;
/** Least radius of a dab, pixels. */
const LEAST = 0.5;

export interface Brush {
  /** How bright it paints, 0 … 1. */
  amount: number;
  /** Share of its radius over which it fades. */
  soft: number;
}

export class PaintSheet {
  /** The SHA-256 of the picture as it is kept. */
  hash: string;
  private readonly canvas: OffscreenCanvas;
  private readonly context: OffscreenCanvasRenderingContext2D;
  /** The last dab of the stroke under way, pixels. */
  private last: readonly [number, number] | null = null;

  /** @param width in pixels */
  private constructor(hash: string, width: number, height: number) {
    this.hash = hash;
    this.canvas = new OffscreenCanvas(width, height);
    this.context = this.canvas.getContext('2d', { willReadFrequently: true })!;
  }

  /** Dark all over. */
  static blank(width: number, height: number): PaintSheet {
    const sheet = new PaintSheet('', width, height);
    sheet.fill(0);
    return sheet;
  }

  /** A picture file, its numbers as they stand in it. @throws DOMException when browsers cannot read it */
  static async of(hash: string, file: Blob): Promise<PaintSheet> {
    const bitmap = await createImageBitmap(file, { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
    const sheet = new PaintSheet(hash, bitmap.width, bitmap.height);
    sheet.context.drawImage(bitmap, 0, 0);
    bitmap.close();
    return sheet;
  }

  /** Width by height. */
  get aspect(): number {
    return this.canvas.width / this.canvas.height;
  }

  /**
   * Dabs once, or all the way from the stroke's last dab.
   * @param at across and up, in widths and heights from the lower left
   * @param radius in widths of the picture
   */
  dab(at: readonly [number, number], radius: number, { amount, soft }: Brush): void {
    const { width, height } = this.canvas;
    const r = Math.max(LEAST, radius * width);
    const here = [at[0] * width, (1 - at[1]) * height] as const;
    const from = this.last ?? here;
    const way = Math.hypot(here[0] - from[0], here[1] - from[1]);
    const dabs = way > LEAP * r ? 1 : Math.max(1, Math.ceil(way / (DAB * r)));
    const grey = Math.round(amount * 255);
    for (let k = 1; k <= dabs; k++) {
      const [x, y] = way > LEAP * r ? here : [0, 1].map((i) => from[i] + ((here[i] - from[i]) * k) / dabs);
      const brush = this.context.createRadialGradient(x, y, r * (1 - soft), x, y, r);
      brush.addColorStop(0, `rgb(${grey} ${grey} ${grey} / 1)`);
      brush.addColorStop(1, `rgb(${grey} ${grey} ${grey} / 0)`);
      this.context.fillStyle = brush;
      this.context.fillRect(x - r, y - r, 2 * r, 2 * r);
    }
    this.last = here;
  }

  endStroke(): void {
    this.last = null;
  }

  /** Paints all of it. */
  fill(amount: number): void {
    const grey = Math.round(amount * 255);
    this.context.fillStyle = `rgb(${grey} ${grey} ${grey})`;
    this.context.fillRect(0, 0, this.canvas.width, this.canvas.height);
  }

  png(): Promise<Blob> {
    return this.canvas.convertToBlob({ type: 'image/png' });
  }
}
