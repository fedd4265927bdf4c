/**
 * The reference: the kernel's integrator, one path at a time and in double precision, with lights weighed one by one.
 * Unidirectional path tracing with next-event estimation and multiple importance sampling (Veach 1997,
 * balance heuristic). What a pixel gets depends on scene, eye, seed and sample number alone.
 */
import { exp } from '../../src/maths/reproducible.ts';
import { luminance } from '../../src/maths/colour.ts';
import type { FlatScene } from '../../src/scene/flatScene.ts';
import type { RenderScene } from '../../src/scene/renderScene.ts';
import { Environment } from './environment.ts';
import { LAYERS_AT, type Film } from '../../src/trace/film.ts';
import type { OracleTracer } from './rays.ts';
import { Lights, lightSample } from './lights.ts';
import type { PreparedScene } from './prepare.ts';
import { draw, pixelSeed, point } from './sampler.ts';
import { evaluate, F, lookup, RECORD, sample, scattered, T as TABLES, weigh } from './surface.ts';
import type { Eye } from '../../src/trace/eye.ts';

/**
 * Ray origins are lifted off the surface by this share of the triangle's extent and of their own coordinates:
 * single-precision intersection errs in proportion to both.
 */
const LIFT = 2e-6;
const LEAST_LIFT = 2e-7;
const FAR = 1e30;
/** Bounces before Russian roulette may end a path, and the greatest chance to go on. */
const ROULETTE_AFTER = 3;
const ROULETTE_MOST = 0.96;
/** Area lights and masked parts a ray may pass through before it is given up. */
const MOST_PASSES = 64;
/** Two-dimensional draws a bounce uses. */
const PAIRS = 4;
/** First draw of those that choose between a sheet's reflection and what lies behind it. */
const SHEET_PAIR = 4096;

export class PathTracer {
  /** Rays traced so far, of all kinds. */
  rays = 0;
  private readonly scene: RenderScene;
  private readonly flat: FlatScene;
  private readonly records: Float32Array;
  private readonly environment: Environment;
  private readonly queries: OracleTracer;
  private readonly eye: Eye;
  private readonly partFinish: Int32Array;
  private readonly lights: Lights;
  /** Whether any finish is a sheet that lets light straight through. */
  private readonly sheets: boolean;
  /** Share of light that reaches along the last shadow ray. */
  private readonly reaching = new Float64Array(3);
  /** Colour and alpha of the last path. */
  private readonly out = new Float64Array(4);
  /** What the last path saw first: albedo, normal, depth, and whether it saw anything. */
  private readonly first = new Float64Array(8);

  constructor(prepared: PreparedScene, queries: OracleTracer, eye: Eye) {
    this.scene = prepared.scene;
    this.flat = prepared.flat;
    this.records = prepared.records;
    this.environment = new Environment(prepared.scene.surround, prepared.table);
    this.queries = queries;
    this.eye = eye;
    this.partFinish = Int32Array.from(prepared.scene.parts.finish, (finish, i) => {
      const dressed = eye.dress?.[i] ?? -1;
      return dressed >= 0 ? dressed : finish;
    });
    this.sheets = this.partFinish.some((f) => this.isPane(f * RECORD));
    this.lights = new Lights(prepared, this.partFinish, this.environment);
  }

  /** A smooth sheet, which light crosses straight. */
  private isPane(b: number): boolean {
    return this.records[b + F.sheet] > 0 && this.records[b + F.sheetAlpha] === 0;
  }

  /** Squared index of what a path is in. */
  private squaredIndex(medium: number): number {
    return medium < 0 ? 1 : this.records[medium + F.ior] ** 2;
  }

  /** Adds samples [first, last) of a tile of pixels to a film. */
  traceTile(
    film: Film,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    first: number,
    last: number,
    seed: number,
  ): void {
    const { sums, channels } = film;
    const layers = film.layers;
    const { out, first: seen } = this;
    for (let y = y0; y < y1; y++) {
      for (let x = x0; x < x1; x++) {
        const pixel = pixelSeed(seed, x, y);
        const at = (y * film.width + x) * channels;
        for (let s = first; s < last; s++) {
          this.tracePath(x, y, pixel, s);
          sums[at] += out[0];
          sums[at + 1] += out[1];
          sums[at + 2] += out[2];
          sums[at + 3] += out[3];
          const l = luminance(out[0], out[1], out[2]);
          sums[at + 4] += l * l;
          if (layers) for (let k = 0; k < 8; k++) sums[at + LAYERS_AT + k] += seen[k];
        }
      }
    }
  }

  /** Share that goes straight through the sheet of a triangle at the last hit, before its tint. */
  private sheetShare(b: number, triangle: number, dx: number, dy: number, dz: number): number {
    const { hit } = this.queries;
    const N = this.flat.normals;
    const at = triangle * 9;
    const b0 = 1 - hit.b1 - hit.b2;
    const nx = N[at] * b0 + N[at + 3] * hit.b1 + N[at + 6] * hit.b2;
    const ny = N[at + 1] * b0 + N[at + 4] * hit.b1 + N[at + 7] * hit.b2;
    const nz = N[at + 2] * b0 + N[at + 5] * hit.b1 + N[at + 8] * hit.b2;
    const cosine = Math.abs(dx * nx + dy * ny + dz * nz) / Math.sqrt(nx * nx + ny * ny + nz * nz);
    return this.records[b + F.sheet] * (1 - lookup(this.records, b + TABLES.gloss, cosine));
  }

  /** Sets `reaching` to what gets along a shadow ray; false when nothing does. */
  private reaches(
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    distance: number,
  ): boolean {
    const { queries, reaching, records: R, flat } = this;
    reaching.fill(1);
    this.rays++;
    if (!queries.occluded(x, y, z, 0, dx, dy, dz, distance)) return true;
    if (!this.sheets) return false;
    let tmin = 0;
    for (let k = 0; k < MOST_PASSES; k++) {
      const triangle = queries.closest(x, y, z, tmin, dx, dy, dz, distance);
      this.rays++;
      if (triangle < 0) return true;
      tmin = queries.hit.t * 1.000001 + LEAST_LIFT;
      // area lights block nothing
      if (triangle >= flat.geometryTriangles) continue;
      const b = this.partFinish[flat.partOf[triangle]] * RECORD;
      if (!this.isPane(b)) return false;
      const share = this.sheetShare(b, triangle, dx, dy, dz);
      for (let c = 0; c < 3; c++) reaching[c] *= share * R[b + F.glassTint + c];
    }
    return false;
  }

  private tracePath(px: number, py: number, pixel: number, index: number): void {
    const { eye, queries, lights, environment, records: R, scene, partFinish } = this;
    const { positions: P, normals: N, tangents: T, partOf, geometryTriangles } = this.flat;
    const { hit } = queries;
    const { out, first: seen, reaching } = this;
    seen.fill(0);

    // a tent filter two pixels wide, by inverting its cumulative distribution
    draw(pixel, index, 0);
    const jx = point.x < 0.5 ? Math.sqrt(2 * point.x) - 1 : 1 - Math.sqrt(2 - 2 * point.x);
    const jy = point.y < 0.5 ? Math.sqrt(2 * point.y) - 1 : 1 - Math.sqrt(2 - 2 * point.y);
    const sx = (2 * (px + 0.5 + jx)) / eye.width - 1;
    const sy = 1 - (2 * (py + 0.5 + jy)) / eye.height;
    let ox = eye.origin[0];
    let oy = eye.origin[1];
    let oz = eye.origin[2];
    let dx = eye.forward[0];
    let dy = eye.forward[1];
    let dz = eye.forward[2];
    if (eye.orthographic) {
      ox += eye.right[0] * sx + eye.up[0] * sy;
      oy += eye.right[1] * sx + eye.up[1] * sy;
      oz += eye.right[2] * sx + eye.up[2] * sy;
    } else {
      dx += eye.right[0] * sx + eye.up[0] * sy;
      dy += eye.right[1] * sx + eye.up[1] * sy;
      dz += eye.right[2] * sx + eye.up[2] * sy;
      const l = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
      dx *= l;
      dy *= l;
      dz *= l;
    }

    let red = 0;
    let green = 0;
    let blue = 0;
    let alpha = 0;
    let tr = 1;
    let tg = 1;
    let tb = 1;
    /** Density of the bounce that made this ray; 0 for the camera's. */
    let bouncePdf = 0;
    /** Sum of light weights where the ray started. */
    let lightSum = 0;
    /** Record of the glass the ray is in, or −1. */
    let medium = -1;
    let depth = 0;
    let passes = 0;
    let tmin = 0;
    /** Length of the ray whose absorption is counted. */
    let travelled = 0;
    while (true) {
      const triangle = queries.closest(ox, oy, oz, tmin, dx, dy, dz, FAR);
      this.rays++;
      if (triangle < 0) {
        if (depth === 0 && (!scene.surround.seen || eye.visible !== null)) break;
        const density = environment.look(dx, dy, dz);
        let w = 1;
        if (bouncePdf > 0) w = bouncePdf / (bouncePdf + density * lights.skyChance(lightSum));
        red += tr * w * environment.rgb[0];
        green += tg * w * environment.rgb[1];
        blue += tb * w * environment.rgb[2];
        if (depth === 0) alpha = 1;
        break;
      }
      const t = hit.t;
      if (triangle >= geometryTriangles) {
        // area lights glow on one side, are not seen directly, and block nothing
        if (depth > 0) {
          const light = lights.areaOf[(triangle - geometryTriangles) >> 1];
          const facing = lights.facing(light, dx, dy, dz);
          if (facing > 0) {
            const density = lights.densityOf(light, lightSum, ox, oy, oz, t, facing);
            const w = bouncePdf > 0 ? bouncePdf / (bouncePdf + density) : 1;
            red += tr * w * lights.radiance(light, 0);
            green += tg * w * lights.radiance(light, 1);
            blue += tb * w * lights.radiance(light, 2);
          }
        }
        tmin = t * 1.000001 + LEAST_LIFT;
        if (++passes > MOST_PASSES) break;
        continue;
      }
      const partNumber = partOf[triangle];
      if (depth === 0 && eye.visible !== null && eye.visible[partNumber] === 0) {
        tmin = t * 1.000001 + LEAST_LIFT;
        if (++passes > MOST_PASSES) break;
        continue;
      }
      const b = partFinish[partNumber] * RECORD;

      // where: from the triangle's own corners, which is nearer the surface than origin + t · direction
      const b1 = hit.b1;
      const b2 = hit.b2;
      const b0 = 1 - b1 - b2;
      const at = triangle * 9;
      const cornerX = P[at];
      const cornerY = P[at + 1];
      const cornerZ = P[at + 2];
      const e1x = P[at + 3] - cornerX;
      const e1y = P[at + 4] - cornerY;
      const e1z = P[at + 5] - cornerZ;
      const e2x = P[at + 6] - cornerX;
      const e2y = P[at + 7] - cornerY;
      const e2z = P[at + 8] - cornerZ;
      const x = cornerX + e1x * b1 + e2x * b2;
      const y = cornerY + e1y * b1 + e2y * b2;
      const z = cornerZ + e1z * b1 + e2z * b2;
      let gx = e1y * e2z - e1z * e2y;
      let gy = e1z * e2x - e1x * e2z;
      let gz = e1x * e2y - e1y * e2x;
      const gl = 1 / Math.sqrt(gx * gx + gy * gy + gz * gz);
      gx *= gl;
      gy *= gl;
      gz *= gl;
      let nx = N[at] * b0 + N[at + 3] * b1 + N[at + 6] * b2;
      let ny = N[at + 1] * b0 + N[at + 4] * b1 + N[at + 7] * b2;
      let nz = N[at + 2] * b0 + N[at + 5] * b1 + N[at + 8] * b2;
      const nl = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
      nx *= nl;
      ny *= nl;
      nz *= nl;
      const behind = dx * gx + dy * gy + dz * gz > 0;

      if (medium >= 0) {
        const at2 = medium + F.absorption;
        tr *= exp(-R[at2] * (t - travelled));
        tg *= exp(-R[at2 + 1] * (t - travelled));
        tb *= exp(-R[at2 + 2] * (t - travelled));
        travelled = t;
      }

      if (this.isPane(b)) {
        const share = this.sheetShare(b, triangle, dx, dy, dz);
        draw(pixel, index, SHEET_PAIR + depth * MOST_PASSES + passes);
        if (point.x < share) {
          // straight on, as the same ray
          tr *= R[b + F.glassTint];
          tg *= R[b + F.glassTint + 1];
          tb *= R[b + F.glassTint + 2];
          tmin = t * 1.000001 + LEAST_LIFT;
          if (++passes > MOST_PASSES) break;
          continue;
        }
        tr /= 1 - share;
        tg /= 1 - share;
        tb /= 1 - share;
      }
      if (depth === 0) alpha = 1;

      const glow = lights.glowOfPart[partNumber];
      if (glow >= 0 && (!behind || scene.parts.twoSided[partNumber])) {
        let w = 1 / this.squaredIndex(medium);
        if (bouncePdf > 0 && !behind) {
          const cosine = -(dx * gx + dy * gy + dz * gz);
          w *= bouncePdf / (bouncePdf + lights.densityOf(glow, lightSum, ox, oy, oz, t, cosine));
        }
        red += tr * w * R[b + F.emission];
        green += tg * w * R[b + F.emission + 1];
        blue += tb * w * R[b + F.emission + 2];
      }
      if (depth >= eye.bounces) break;

      // the side the viewer is on; only glass has an inside
      const inside = behind && R[b + F.glass] > 0;
      if (depth === 0) {
        const facing = behind ? -1 : 1;
        seen[0] = R[b + F.albedo];
        seen[1] = R[b + F.albedo + 1];
        seen[2] = R[b + F.albedo + 2];
        seen[3] = nx * facing;
        seen[4] = ny * facing;
        seen[5] = nz * facing;
        const { origin, forward } = eye;
        seen[6] = (x - origin[0]) * forward[0] + (y - origin[1]) * forward[1] + (z - origin[2]) * forward[2];
        seen[7] = 1;
      }
      if (behind) {
        gx = -gx;
        gy = -gy;
        gz = -gz;
        nx = -nx;
        ny = -ny;
        nz = -nz;
      }
      let wz = -(dx * nx + dy * ny + dz * nz);
      if (wz < 0.02) {
        // an interpolated normal that leans away from the viewer: lean it back towards the true one
        nx += gx;
        ny += gy;
        nz += gz;
        const l = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
        nx *= l;
        ny *= l;
        nz *= l;
        wz = -(dx * nx + dy * ny + dz * nz);
        if (wz < 1e-4) {
          nx = gx;
          ny = gy;
          nz = gz;
          wz = Math.max(1e-6, -(dx * nx + dy * ny + dz * nz));
        }
      }
      // frame: any will do for round lobes (Duff et al., JCGT 2017), brushed ones follow the tangent
      let ux: number;
      let uy: number;
      let uz: number;
      let vx: number;
      let vy: number;
      let vz: number;
      if (R[b + F.alphaX] === R[b + F.alphaY]) {
        const sign = nz < 0 ? -1 : 1;
        const p = -1 / (sign + nz);
        const q = nx * ny * p;
        ux = 1 + sign * nx * nx * p;
        uy = sign * q;
        uz = -sign * nx;
        vx = q;
        vy = sign + ny * ny * p;
        vz = -ny;
      } else {
        const turnCos = R[b + F.turnCos];
        const turnSin = R[b + F.turnSin];
        ux = T[at] * b0 + T[at + 3] * b1 + T[at + 6] * b2;
        uy = T[at + 1] * b0 + T[at + 4] * b1 + T[at + 7] * b2;
        uz = T[at + 2] * b0 + T[at + 5] * b1 + T[at + 8] * b2;
        const off = ux * nx + uy * ny + uz * nz;
        ux -= off * nx;
        uy -= off * ny;
        uz -= off * nz;
        const l = 1 / Math.sqrt(ux * ux + uy * uy + uz * uz);
        ux *= l;
        uy *= l;
        uz *= l;
        vx = ny * uz - nz * uy;
        vy = nz * ux - nx * uz;
        vz = nx * uy - ny * ux;
        const rx = ux * turnCos + vx * turnSin;
        const ry = uy * turnCos + vy * turnSin;
        const rz = uz * turnCos + vz * turnSin;
        vx = vx * turnCos - ux * turnSin;
        vy = vy * turnCos - uy * turnSin;
        vz = vz * turnCos - uz * turnSin;
        ux = rx;
        uy = ry;
        uz = rz;
      }
      let wx = -(dx * ux + dy * uy + dz * uz);
      let wy = -(dx * vx + dy * vy + dz * vz);
      const wl = 1 / Math.sqrt(wx * wx + wy * wy + wz * wz);
      wx *= wl;
      wy *= wl;
      wz *= wl;

      const big = Math.max(
        Math.abs(x),
        Math.abs(y),
        Math.abs(z),
        Math.abs(e1x) + Math.abs(e1y) + Math.abs(e1z),
        Math.abs(e2x) + Math.abs(e2y) + Math.abs(e2z),
      );
      const lift = big * LIFT + LEAST_LIFT;
      const pair = 1 + depth * PAIRS;

      // next event: one light, chosen by what it could give here
      weigh(R, b, wx, wy, wz, inside);
      lightSum = lights.weigh(x, y, z);
      draw(pixel, index, pair);
      const pickLight = point.x;
      const pickLobe = point.y;
      draw(pixel, index, pair + 1);
      if (lights.sample(lightSum, x, y, z, pickLight, point.x, point.y)) {
        const { x: lx, y: ly, z: lz } = lightSample;
        const side = lx * gx + ly * gy + lz * gz;
        const iz = lx * nx + ly * ny + lz * nz;
        // what the light is in: where the path is, or what it would enter
        const beyond = inside ? -1 : R[b + F.glass] > 0 ? b : medium;
        const within = side > 0 ? medium : beyond;
        if (side * iz > 0) {
          const ix = lx * ux + ly * uy + lz * uz;
          const iy = lx * vx + ly * vy + lz * vz;
          evaluate(R, b, wx, wy, wz, ix, iy, iz, inside);
          const w = lightSample.delta ? 1 / lightSample.pdf : 1 / (lightSample.pdf + scattered[3]);
          const n2 = this.squaredIndex(within);
          const dim = (c: number) =>
            within < 0 ? 1 : exp(-R[within + F.absorption + c] * lightSample.distance);
          const cr = (tr * scattered[0] * lightSample.r * w * dim(0)) / n2;
          const cg = (tg * scattered[1] * lightSample.g * w * dim(1)) / n2;
          const cb = (tb * scattered[2] * lightSample.b * w * dim(2)) / n2;
          if (cr + cg + cb > 1e-7) {
            const s = side > 0 ? lift : -lift;
            // aimed from where the ray starts: a direction from the surface itself would miss at a slant
            const far = Math.min(lightSample.distance, FAR);
            const aim = [lx * far - gx * s, ly * far - gy * s, lz * far - gz * s];
            const way = far < FAR ? Math.hypot(...aim) : 1;
            const [ax, ay, az] = far < FAR ? aim.map((v) => v / way) : [lx, ly, lz];
            const distance = (far < FAR ? way : FAR) * 0.99999 - lift;
            if (!lightSample.shadow) {
              red += cr;
              green += cg;
              blue += cb;
            } else if (this.reaches(x + gx * s, y + gy * s, z + gz * s, ax, ay, az, distance)) {
              red += cr * reaching[0];
              green += cg * reaching[1];
              blue += cb * reaching[2];
            }
          }
        }
      }

      // bounce
      draw(pixel, index, pair + 2);
      if (!sample(R, b, wx, wy, wz, inside, pickLobe, point.x, point.y)) break;
      const lx = scattered[4];
      const ly = scattered[5];
      const lz = scattered[6];
      dx = ux * lx + vx * ly + nx * lz;
      dy = uy * lx + vy * ly + ny * lz;
      dz = uz * lx + vz * ly + nz * lz;
      const side = dx * gx + dy * gy + dz * gz;
      if (side * lz <= 0) break;
      bouncePdf = scattered[3];
      tr *= scattered[0] / bouncePdf;
      tg *= scattered[1] / bouncePdf;
      tb *= scattered[2] / bouncePdf;
      const s = side > 0 ? lift : -lift;
      ox = x + gx * s;
      oy = y + gy * s;
      oz = z + gz * s;
      tmin = 0;
      travelled = 0;
      if (lz < 0 && R[b + F.glass] > 0) medium = inside ? -1 : b;
      depth++;
      if (depth > ROULETTE_AFTER) {
        const go = Math.min(ROULETTE_MOST, Math.max(tr, tg, tb));
        draw(pixel, index, pair + 3);
        if (!(point.x < go)) break;
        tr /= go;
        tg /= go;
        tb /= go;
      }
    }
    out[0] = red;
    out[1] = green;
    out[2] = blue;
    out[3] = alpha;
  }
}
