/**
 * A letter unfolded into the plane of its front: the front in its own shape, and bevel, side and back bevel rolled out
 * round it as rings, each as wide as it is to be seen, whatever its true width. Where rings meet, as in a narrow
 * counter, each goes half the way. Tubes, which have no rings, lie as they are seen from the front.
 */
import { ZONES, type Zone } from '../document/index.ts';
import { NO_BYTE, type RenderScene } from './renderScene.ts';
import { composed, scaleOf } from './transform.ts';

/** Zones that become rings, from the front outward. */
const RINGS = ['frontBevel', 'side', 'backBevel'] as const satisfies readonly Zone[];

/** What of a letter's plane a picture shows; lengths in the unit of its outline. */
export interface UnfoldView {
  /** Pixels. */
  width: number;
  height: number;
  /** Length of a pixel. */
  unit: number;
  /** Middle of the picture across, and its lower edge. */
  middle: number;
  bottom: number;
  /** Widths of the rings, pixels. */
  rings: readonly [number, number, number];
}

export interface Unfolded {
  width: number;
  height: number;
  /** What each pixel shows, row by row from the top: a place in ZONES, NO_BYTE for nothing. */
  zones: Uint8Array;
  /** Of each pixel six floats: a point of the surface in the world, and the direction away from it. */
  surface: Float32Array;
}

/** Zones that are not unfolded: they lie inside a letter, or are many and small. */
const LEFT_OUT: ReadonlySet<Zone> = new Set(['strip', 'points', 'back']);

interface Source {
  positions: Float32Array;
  tangents: Float32Array;
  uv: Float32Array;
}

/** Least and greatest across of a run of triangles. */
function acrossOf(uv: Float32Array, first: number, triangles: number): { least: number; most: number } {
  let [least, most] = [Infinity, -Infinity];
  for (let i = first * 3; i < (first + triangles) * 3; i++) {
    least = Math.min(least, uv[i * 4 + 1]);
    most = Math.max(most, uv[i * 4 + 1]);
  }
  return { least, most };
}

/** Where a place goes that lies a way beyond the front's edge: ring by ring, each stretched to its width. */
function ringsOf(lengths: readonly number[], widths: readonly number[]): (way: number) => number {
  return (way) => {
    let out = 0;
    let left = way;
    for (const [i, length] of lengths.entries()) {
      if (left <= length || i === lengths.length - 1)
        return out + (length > 0 ? Math.min(1, left / length) * widths[i]! : 0);
      out += length > 0 ? widths[i]! : 0;
      left -= length;
    }
    return out;
  };
}

/**
 * Unfolds a letter.
 * @param room gives memory for that many bytes
 * @returns null when it is not in the scene
 */
export function unfolded(
  scene: RenderScene,
  block: string,
  letter: string,
  view: UnfoldView,
  room: (bytes: number) => ArrayBufferLike = (bytes) => new ArrayBuffer(bytes),
): Unfolded | null {
  const { parts, things, instances, placements, solids } = scene;
  const own: number[] = [];
  for (let p = 0; p < parts.count; p++) {
    const thing = things[parts.thing[p]];
    if (thing.block === block && thing.letter === letter) own.push(p);
  }
  if (own.length === 0) return null;
  const { width, height } = view;
  const zones = new Uint8Array(room(width * height)).fill(NO_BYTE);
  const surface = new Float32Array(room(width * height * 24));
  const partOf = (zone: Zone) => own.find((p) => ZONES[parts.zone[p]] === zone);
  const solidOf = (p: number) => solids[instances.solid[parts.instance[p]]];
  const bevel = partOf('frontBevel');
  const ringed = partOf('front') !== undefined || bevel !== undefined;
  /** Ways over the rings' zones, from the front's edge. */
  const bounds = RINGS.map((zone) => {
    const p = partOf(zone);
    if (p === undefined || parts.triangles[p] === 0) return null;
    return acrossOf(solidOf(p).uv, parts.first[p], parts.triangles[p]);
  });
  const edge = bounds[0]?.most ?? bounds[1]?.most ?? 0;
  const lengths = bounds.map((b) => (b ? b.most - b.least : 0));
  const roll = ringsOf(
    lengths,
    view.rings.map((px) => px * view.unit),
  );
  const raster = new Raster(view, zones);
  const enter = (p: number) => {
    const i = parts.instance[p];
    raster.into(
      solidOf(p),
      composed(placements.now, instances.placement[i], instances.local, i),
      parts.zone[p],
      ringed && ZONES[parts.zone[p]] !== 'front' ? { edge, roll } : null,
      !ringed,
    );
  };
  const shown = own.filter((p) => !LEFT_OUT.has(ZONES[parts.zone[p]]!));
  for (const p of shown) {
    enter(p);
    for (let t = parts.first[p]; t < parts.first[p] + parts.triangles[p]; t++) raster.triangle(t);
  }
  raster.close();
  for (const p of shown) {
    enter(p);
    raster.stand(surface);
  }
  return { width, height, zones, surface };
}

/** Draws triangles where they lie unfolded; of several at one place the one nearest the front stays. */
class Raster {
  private source!: Source;
  private world!: ArrayLike<number>;
  private zone = 0;
  private ring: { edge: number; roll: (way: number) => number } | null = null;
  private byHeight = false;
  private readonly x = new Float64Array(3);
  private readonly y = new Float64Array(3);
  private readonly rank = new Float64Array(3);
  private readonly view: UnfoldView;
  private readonly order: Float32Array;
  private readonly zones: Uint8Array;
  /** Of each pixel its triangle, and where on it. */
  private readonly found: Int32Array;
  private readonly where: Float32Array;

  constructor(view: UnfoldView, zones: Uint8Array) {
    this.view = view;
    this.zones = zones;
    this.order = new Float32Array(zones.length).fill(Infinity);
    this.found = new Int32Array(zones.length);
    this.where = new Float32Array(zones.length * 2);
  }

  /** What the next triangles are of. @param byHeight the highest stays, as seen from the front */
  into(
    source: Source,
    world: ArrayLike<number>,
    zone: number,
    ring: { edge: number; roll: (way: number) => number } | null,
    byHeight: boolean,
  ): void {
    this.source = source;
    this.world = world;
    this.zone = zone;
    this.ring = ring;
    this.byHeight = byHeight;
  }

  /** Where the corners lie, in pixels. */
  private lay(t: number): void {
    const { positions, tangents, uv } = this.source;
    const { width, height, unit, middle, bottom } = this.view;
    for (let k = 0; k < 3; k++) {
      const i = t * 3 + k;
      let px = uv[i * 4 + 2];
      let py = uv[i * 4 + 3];
      let rank = 0;
      if (this.ring) {
        // outward is the tangent, turned: back to the front's edge, and out again as wide as the rings are
        const way = this.ring.edge - uv[i * 4 + 1];
        const out = this.ring.roll(way);
        px += (out - way) * tangents[i * 3 + 1];
        py -= (out - way) * tangents[i * 3];
        rank = out;
      }
      if (this.byHeight) {
        px = positions[i * 3];
        py = positions[i * 3 + 1];
        rank = -positions[i * 3 + 2];
      }
      this.x[k] = (px - middle) / unit + width / 2;
      this.y[k] = height - (py - bottom) / unit;
      this.rank[k] = rank;
    }
  }

  triangle(t: number): void {
    this.lay(t);
    const { x, y, rank, order, zones } = this;
    const { width, height } = this.view;
    const area = (x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0]);
    if (Math.abs(area) < 1e-9) return;
    const x0 = Math.max(0, Math.ceil(Math.min(x[0], x[1], x[2]) - 0.5));
    const x1 = Math.min(width - 1, Math.floor(Math.max(x[0], x[1], x[2]) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(y[0], y[1], y[2]) - 0.5));
    const y1 = Math.min(height - 1, Math.floor(Math.max(y[0], y[1], y[2]) - 0.5));
    for (let j = y0; j <= y1; j++)
      for (let i = x0; i <= x1; i++) {
        const [cx, cy] = [i + 0.5, j + 0.5];
        const b1 = ((cx - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (cy - y[0])) / area;
        const b2 = ((x[1] - x[0]) * (cy - y[0]) - (cx - x[0]) * (y[1] - y[0])) / area;
        const b0 = 1 - b1 - b2;
        if (b0 < 0 || b1 < 0 || b2 < 0) continue;
        const at = j * width + i;
        const here = rank[0] * b0 + rank[1] * b1 + rank[2] * b2;
        if (!(here < order[at])) continue;
        order[at] = here;
        zones[at] = this.zone;
        this.found[at] = t;
        this.where[at * 2] = b1;
        this.where[at * 2 + 1] = b2;
      }
  }

  /** Closes gaps a pixel wide within a zone, where rings that go apart at a slight bend leave a hair between them. */
  close(): void {
    const { zones, found, where } = this;
    const { width } = this.view;
    const drawn = zones.slice();
    for (let at = width; at < zones.length - width; at++) {
      if (drawn[at] !== NO_BYTE) continue;
      for (const step of [1, width]) {
        const from = at - step;
        if (drawn[from] === NO_BYTE || drawn[from] !== drawn[at + step]) continue;
        zones[at] = drawn[from];
        found[at] = found[from];
        where[at * 2] = where[from * 2];
        where[at * 2 + 1] = where[from * 2 + 1];
        break;
      }
    }
  }

  /** Writes the points of what was drawn of one zone, and the directions away from it. */
  stand(surface: Float32Array): void {
    const { positions: p } = this.source;
    const m = this.world;
    const scale = scaleOf(m);
    const local = new Float64Array(3);
    for (let at = 0; at < this.zones.length; at++) {
      if (this.zones[at] !== this.zone) continue;
      const a = this.found[at] * 9;
      const [b1, b2] = [this.where[at * 2], this.where[at * 2 + 1]];
      for (let k = 0; k < 3; k++) {
        const e = p[a + 3 + k] - p[a + k];
        const f = p[a + 6 + k] - p[a + k];
        local[k] = p[a + k] + e * b1 + f * b2;
      }
      const [ex, ey, ez] = [p[a + 3] - p[a], p[a + 4] - p[a + 1], p[a + 5] - p[a + 2]];
      const [fx, fy, fz] = [p[a + 6] - p[a], p[a + 7] - p[a + 1], p[a + 8] - p[a + 2]];
      const [nx, ny, nz] = [ey * fz - ez * fy, ez * fx - ex * fz, ex * fy - ey * fx];
      const l = Math.sqrt(nx * nx + ny * ny + nz * nz) * scale || 1;
      for (let r = 0; r < 3; r++) {
        const [mx, my, mz, shift] = [m[r * 4], m[r * 4 + 1], m[r * 4 + 2], m[r * 4 + 3]];
        surface[at * 6 + r] = mx * local[0] + my * local[1] + mz * local[2] + shift;
        surface[at * 6 + 3 + r] = (mx * nx + my * ny + mz * nz) / l;
      }
    }
  }
}
