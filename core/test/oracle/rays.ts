/**
 * A scalar two-way tree over the same triangles, built and walked independently of the kernel: the kernel's
 * test oracle. Single precision throughout, in the
 * kernel's order of operations, so that distances agree to the bit (Woop, Benthin, Wald, JCGT 2013).
 */
const f = Math.fround;
const LEAF_SIZE = 4;
/** Boxes are tested in double precision and widened by this share: never a false miss. */
const SLACK = 1e-5;

/** Closest-hit and any-hit queries over a triangle soup (nine floats a triangle, metres). */
export class OracleTracer {
  readonly hit = { t: 0, b1: 0, b2: 0, triangle: -1 };
  private readonly positions: Float32Array;
  private readonly order: Uint32Array;
  private readonly boxes: Float64Array;
  private readonly firsts: Int32Array;
  private readonly counts: Int32Array;
  private readonly shadowLimit: number;
  private nodes = 0;

  constructor(positions: Float32Array, shadowLimit = Infinity) {
    const n = positions.length / 9;
    this.positions = positions;
    this.shadowLimit = shadowLimit;
    this.order = Uint32Array.from({ length: n }, (_, i) => i);
    this.boxes = new Float64Array((2 * n + 1) * 6);
    this.firsts = new Int32Array(2 * n + 1);
    this.counts = new Int32Array(2 * n + 1);
    if (n > 0) this.split(this.add(0, n));
  }

  private add(first: number, count: number): number {
    const id = this.nodes++;
    this.firsts[id] = first;
    this.counts[id] = count;
    for (let a = 0; a < 3; a++) {
      let lo = Infinity;
      let hi = -Infinity;
      for (let i = first; i < first + count; i++) {
        for (let c = a; c < 9; c += 3) {
          const v = this.positions[this.order[i] * 9 + c];
          if (v < lo) lo = v;
          if (v > hi) hi = v;
        }
      }
      const pad = SLACK * Math.max(Math.abs(lo), Math.abs(hi), 1e-3);
      this.boxes[id * 6 + a] = lo - pad;
      this.boxes[id * 6 + 3 + a] = hi + pad;
    }
    return id;
  }

  /** Halves by number along the widest axis of the box. */
  private split(id: number): void {
    const count = this.counts[id];
    if (count <= LEAF_SIZE) return;
    const first = this.firsts[id];
    let axis = 0;
    const extent = (a: number) => this.boxes[id * 6 + 3 + a] - this.boxes[id * 6 + a];
    if (extent(1) > extent(axis)) axis = 1;
    if (extent(2) > extent(axis)) axis = 2;
    const centre = (tri: number) =>
      this.positions[tri * 9 + axis] +
      this.positions[tri * 9 + 3 + axis] +
      this.positions[tri * 9 + 6 + axis];
    this.order.subarray(first, first + count).sort((a, b) => centre(a) - centre(b));
    const half = count >> 1;
    const left = this.add(first, half);
    this.add(first + half, count - half);
    this.firsts[id] = left;
    this.counts[id] = 0;
    this.split(left);
    this.split(left + 1);
  }

  /** Closest hit with tmin ≤ t ≤ tmax, ties to the lower triangle number; the triangle or -1. */
  closest(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): number {
    return this.walk(ox, oy, oz, tmin, dx, dy, dz, tmax, false);
  }

  /** Whether a shadow caster lies on the ray. */
  occluded(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): boolean {
    return this.walk(ox, oy, oz, tmin, dx, dy, dz, tmax, true) >= 0;
  }

  private walk(
    ...[oxIn, oyIn, ozIn, tminIn, dxIn, dyIn, dzIn, tmaxIn, any]: [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      boolean,
    ]
  ): number {
    const hit = this.hit;
    const o = [f(oxIn), f(oyIn), f(ozIn)];
    const d = [f(dxIn), f(dyIn), f(dzIn)];
    const tmin = f(tminIn);
    hit.t = f(tmaxIn);
    hit.triangle = -1;
    const [ax, ay, az] = d.map(Math.abs);
    const kz = ax > ay && ax > az ? 0 : ay > az ? 1 : 2;
    const kx = (kz + 1) % 3;
    const ky = (kx + 1) % 3;
    const sz = f(1 / d[kz]);
    const sx = f(d[kx] * sz);
    const sy = f(d[ky] * sz);
    const stack = this.nodes > 0 ? [0] : [];
    while (stack.length > 0) {
      const id = stack.pop()!;
      let near: number = tmin;
      let far: number = hit.t;
      for (let a = 0; a < 3; a++) {
        const lo = this.boxes[id * 6 + a] - o[a];
        const hi = this.boxes[id * 6 + 3 + a] - o[a];
        if (d[a] === 0) {
          if (lo > 0 || hi < 0) far = -Infinity;
          continue;
        }
        near = Math.max(near, Math.min(lo / d[a], hi / d[a]));
        far = Math.min(far, Math.max(lo / d[a], hi / d[a]));
      }
      if (near > far + Math.abs(far) * SLACK + 1e-9) continue;
      if (this.counts[id] === 0) {
        stack.push(this.firsts[id], this.firsts[id] + 1);
        continue;
      }
      for (let i = this.firsts[id]; i < this.firsts[id] + this.counts[id]; i++) {
        const tri = this.order[i];
        if (any && tri >= this.shadowLimit) continue;
        const p = this.positions;
        const corner = (k: number) => {
          const at = tri * 9 + k * 3;
          const z = f(p[at + kz] - o[kz]);
          return [f(f(p[at + kx] - o[kx]) - f(sx * z)), f(f(p[at + ky] - o[ky]) - f(sy * z)), f(sz * z)];
        };
        const A = corner(0);
        const B = corner(1);
        const C = corner(2);
        const u = f(f(C[0] * B[1]) - f(C[1] * B[0]));
        const v = f(f(A[0] * C[1]) - f(A[1] * C[0]));
        const w = f(f(B[0] * A[1]) - f(B[1] * A[0]));
        if ((u < 0 || v < 0 || w < 0) && (u > 0 || v > 0 || w > 0)) continue;
        const det = f(f(u + v) + w);
        if (det === 0) continue;
        const t = f(f(f(f(u * A[2]) + f(v * B[2])) + f(w * C[2])) / det);
        if (!(t >= tmin && t <= hit.t)) continue;
        if (t === hit.t && hit.triangle >= 0 && tri > hit.triangle) continue;
        hit.t = t;
        hit.triangle = tri;
        hit.b1 = f(v / det);
        hit.b2 = f(w / det);
        if (any) return tri;
      }
    }
    return hit.triangle;
  }
}
