/** The surround as a light: bilinear lookup, and sampling in proportion to luminance. */
import { cos, asin, atan2, sin } from '../../src/maths/reproducible.ts';
import { luminance } from '../../src/maths/colour.ts';
import { reduced, type SurroundPicture } from '../../src/light/surround.ts';
import type { SceneSurround } from '../../src/scene/renderScene.ts';

/** Widest picture the sampling table is made from. */
const WIDEST_TABLE = 2048;

/** Sampling table of a picture, made once and shared by all threads. */
export interface SurroundTable {
  columns: number;
  rows: number;
  rowCdf: Float64Array;
  cellCdf: Float32Array;
  /** Where the search for k / n begins, for rows and for the cells of each row (indexed search, Chen & Asau 1974). */
  rowGuide: Uint16Array;
  cellGuide: Uint16Array;
  /** Sine of the elevation at each row boundary, from the top. */
  bands: Float64Array;
  /** Integral of luminance over the sphere, divided by 2π. */
  total: number;
}

/**
 * Luminance table over the cells between pixel centres. A cell's weight is the mean of its four corners, so
 * a bright pixel raises every cell that its bilinear footprint reaches and no direction is undersampled.
 * @param shared put the arrays into shared memory
 */
export function surroundTable(picture: SurroundPicture, shared = false): SurroundTable {
  const memory = (bytes: number) => (shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
  const small = reduced(picture, WIDEST_TABLE);
  const w = small.width;
  const h = small.height;
  const bands = new Float64Array(memory((h + 2) * 8));
  const rowCdf = new Float64Array(memory((h + 2) * 8));
  const cellCdf = new Float32Array(memory((h + 1) * (w + 1) * 4));
  const lum = new Float32Array(w * h);
  for (let i = 0; i < lum.length; i++) {
    lum[i] = luminance(small.data[i * 3], small.data[i * 3 + 1], small.data[i * 3 + 2]);
  }
  bands[0] = 1;
  for (let r = 1; r <= h; r++) bands[r] = sin((0.5 - (r - 0.5) / h) * Math.PI);
  bands[h + 1] = -1;
  let total = 0;
  for (let r = 0; r <= h; r++) {
    const above = Math.max(0, r - 1) * w;
    const below = Math.min(h - 1, r) * w;
    let sum = 0;
    const base = r * (w + 1);
    for (let c = 0; c < w; c++) {
      const d = c + 1 === w ? 0 : c + 1;
      sum += (lum[above + c] + lum[above + d] + lum[below + c] + lum[below + d]) / 4;
      cellCdf[base + c + 1] = sum;
    }
    for (let c = 1; c <= w; c++) cellCdf[base + c] = sum > 0 ? cellCdf[base + c] / sum : c / w;
    cellCdf[base + w] = 1;
    total += (sum * (bands[r] - bands[r + 1])) / w;
    rowCdf[r + 1] = total;
  }
  if (total > 0) for (let r = 1; r <= h + 1; r++) rowCdf[r] /= total;
  const rowGuide = new Uint16Array(memory((h + 1) * 2));
  const cellGuide = new Uint16Array(memory((h + 1) * w * 2));
  fillGuide(rowCdf, 0, h + 1, rowGuide, 0);
  for (let r = 0; r <= h; r++) fillGuide(cellCdf, r * (w + 1), w, cellGuide, r * w);
  return { columns: w, rows: h + 1, rowCdf, cellCdf, rowGuide, cellGuide, bands, total };
}

/** For each k the last i in 0 … n − 1 with cdf[base + i] ≤ k / n. */
function fillGuide(
  cdf: Float64Array | Float32Array,
  base: number,
  n: number,
  guide: Uint16Array,
  at: number,
): void {
  let i = 0;
  for (let k = 0; k < n; k++) {
    while (i + 1 < n && cdf[base + i + 1] <= k / n) i++;
    guide[at + k] = i;
  }
}

export class Environment {
  /** Result of look and sample: r g b. */
  readonly rgb = new Float64Array(3);
  /** Result of sample: direction x y z. */
  readonly direction = new Float64Array(3);
  /** Mean luminance over the sphere, gain applied. */
  readonly mean: number;
  private readonly data: Float32Array;
  private readonly width: number;
  private readonly height: number;
  private readonly gain: number;
  private readonly cosTurn: number;
  private readonly sinTurn: number;
  private readonly columns: number;
  private readonly rows: number;
  private readonly rowCdf: Float64Array;
  private readonly cellCdf: Float32Array;
  private readonly rowGuide: Uint16Array;
  private readonly cellGuide: Uint16Array;
  private readonly bands: Float64Array;
  private readonly total: number;

  constructor(
    surround: Pick<SceneSurround, 'picture' | 'gain' | 'turn'>,
    table: SurroundTable = surroundTable(surround.picture),
  ) {
    const { picture } = surround;
    this.data = picture.data;
    this.width = picture.width;
    this.height = picture.height;
    this.gain = surround.gain;
    this.cosTurn = cos(surround.turn);
    this.sinTurn = sin(surround.turn);
    this.columns = table.columns;
    this.rows = table.rows;
    this.rowCdf = table.rowCdf;
    this.cellCdf = table.cellCdf;
    this.rowGuide = table.rowGuide;
    this.cellGuide = table.cellGuide;
    this.bands = table.bands;
    this.total = table.total;
    this.mean = (table.total / 2) * this.gain;
  }

  /** Radiance from a unit world direction into `rgb`; returns the probability density of sampling it. */
  look(x: number, y: number, z: number): number {
    // the picture turns with the surround: look up the direction turned back
    const px = this.cosTurn * x - this.sinTurn * z;
    const pz = this.sinTurn * x + this.cosTurn * z;
    const u = atan2(pz, px) / (2 * Math.PI) + 0.5;
    const v = 0.5 - asin(y) / Math.PI;
    this.fetch(u, v);
    if (!(this.total > 0)) return 0;
    const row = Math.min(this.rows - 1, Math.max(0, Math.floor(v * (this.rows - 1) + 0.5)));
    let c = u * this.columns - 0.5;
    if (c < 0) c += this.columns;
    return this.density(row, Math.min(this.columns - 1, Math.floor(c)));
  }

  private density(row: number, column: number): number {
    const base = row * (this.columns + 1) + column;
    const inRow = (this.cellCdf[base + 1] - this.cellCdf[base]) * (this.rowCdf[row + 1] - this.rowCdf[row]);
    return (inRow * this.columns) / (2 * Math.PI * (this.bands[row] - this.bands[row + 1]));
  }

  private fetch(u: number, v: number): void {
    const w = this.width;
    const h = this.height;
    let fx = u * w - 0.5;
    let fy = v * h - 0.5;
    if (fx < 0) fx += w;
    if (fy < 0) fy = 0;
    if (fy > h - 1) fy = h - 1;
    const x0 = Math.min(w - 1, fx | 0);
    const y0 = fy | 0;
    const x1 = x0 + 1 === w ? 0 : x0 + 1;
    const y1 = y0 + 1 < h ? y0 + 1 : y0;
    const tx = fx - x0;
    const ty = fy - y0;
    const a = (y0 * w + x0) * 3;
    const b = (y0 * w + x1) * 3;
    const c = (y1 * w + x0) * 3;
    const d = (y1 * w + x1) * 3;
    const data = this.data;
    const wa = (1 - tx) * (1 - ty) * this.gain;
    const wb = tx * (1 - ty) * this.gain;
    const wc = (1 - tx) * ty * this.gain;
    const wd = tx * ty * this.gain;
    this.rgb[0] = data[a] * wa + data[b] * wb + data[c] * wc + data[d] * wd;
    this.rgb[1] = data[a + 1] * wa + data[b + 1] * wb + data[c + 1] * wc + data[d + 1] * wd;
    this.rgb[2] = data[a + 2] * wa + data[b + 2] * wb + data[c + 2] * wc + data[d + 2] * wd;
  }

  /** Draws a direction; radiance in `rgb`, direction in `direction`, density returned (0: no light). */
  sample(u: number, v: number): number {
    if (!(this.total > 0)) return 0;
    const row = below(this.rowCdf, 0, this.rows, this.rowGuide, 0, v);
    const base = row * (this.columns + 1);
    const column = below(this.cellCdf, base, this.columns, this.cellGuide, row * this.columns, u);
    const rowLow = this.rowCdf[row];
    const cellLow = this.cellCdf[base + column];
    const dv = (v - rowLow) / (this.rowCdf[row + 1] - rowLow);
    const du = Math.min(1, (u - cellLow) / (this.cellCdf[base + column + 1] - cellLow));
    const y = this.bands[row] + (this.bands[row + 1] - this.bands[row]) * dv;
    const pu = (column + 0.5 + du) / this.columns;
    const phi = (pu - 0.5) * 2 * Math.PI;
    const s = Math.sqrt(Math.max(0, 1 - y * y));
    const px = s * cos(phi);
    const pz = s * sin(phi);
    this.direction[0] = this.cosTurn * px + this.sinTurn * pz;
    this.direction[1] = y;
    this.direction[2] = -this.sinTurn * px + this.cosTurn * pz;
    this.fetch(pu >= 1 ? pu - 1 : pu, 0.5 - asin(y) / Math.PI);
    return this.density(row, column);
  }
}

/** Last i in 0 … n − 1 with cdf[base + i] ≤ value, which lies in [0, 1). */
function below(
  cdf: Float64Array | Float32Array,
  base: number,
  n: number,
  guide: Uint16Array,
  guideAt: number,
  value: number,
): number {
  let i = guide[guideAt + ((value * n) | 0)];
  while (i + 1 < n && cdf[base + i + 1] <= value) i++;
  return i;
}
