// What photons bring to receivers, and what paths leave to them (see caustics.ts).
import {
  LANE_NEAR, NEAR, PH_BLUE, PH_DX, PH_DY, PH_DZ, PH_GREEN, PH_GROUP, PH_RED, PH_X, PH_Y, PH_Z, P_CASTER, P_GX, P_GY,
  P_GZ, P_MEDIUM, P_TB, P_TG, P_TR, P_X, P_Y, P_Z,
} from './layout';
import { photonsNear, radius, skyClip, standsFor } from './caustics';
import { gain } from './film';
import { base, count, get, nx, ny, nz, offset, row, squaredIndexIn, ux, uy, uz, vx, vy, vz } from './group';
import { above, both, div, dot3, gather, mad, most, mul, splat, sub, where } from './lanes';
import { evaluate, scatteredB, scatteredG, scatteredR, scatteredSharp } from './lobes/surface';
import { finishAt, lane } from './scene';

const TWICE_INV_PI: f32 = 0.6366197723675814;
/** Photons that graze a surface count as if they came at this cosine. */
const LEAST_SLANT: f32 = 0.05;

/** Share of the surround's light that a path counts itself, where photons bring what stands out of it but `kept`. */
export function skyKept(r: v128, g: v128, b: v128, kept: v128): v128 {
  const l = mad(r, splat(0.2126), mad(g, splat(0.7152), mul(b, splat(0.0722))));
  const rest = f32x4.pmin(splat(1), div(splat(skyClip), most(l, splat(1e-30))));
  return mad(sub(splat(1), rest), kept, rest);
}

/** Light that photons brought to where those of the four stand that are on receivers. */
export function takeIn(): void {
  const list = lane + LANE_NEAR;
  let longest = 0;
  let any: usize = 0;
  for (let k = 0; k < 4; k++) {
    const own = list + <usize>(k * NEAR) * 4;
    const at = base + offset(k);
    const n = k >= count || load<i32>(at + P_CASTER) !== 0 ? 0 : photonsNear(at, own, NEAR);
    store<i32>(row(0) + (<usize>k << 2), n);
    store<f32>(row(1) + (<usize>k << 2), <f32>standsFor);
    if (n > 0) any = load<u32>(own);
    longest = max(longest, n);
  }
  if (longest === 0) return;
  const counts = v128.load(row(0));
  const px = get(P_X);
  const py = get(P_Y);
  const pz = get(P_Z);
  const gx = get(P_GX);
  const gy = get(P_GY);
  const gz = get(P_GZ);
  const r2 = splat(radius * radius);
  // a cone over the disc weighs what is near more (Epanechnikov's kernel); basic radiance in glass
  let each = mul(v128.load(row(1)), splat(TWICE_INV_PI / (radius * radius)));
  for (let k = 0; k < count; k++) {
    const medium = load<i32>(base + offset(k) + P_MEDIUM);
    store<f32>(row(1) + (<usize>k << 2), squaredIndexIn(medium));
  }
  each = div(each, most(v128.load(row(1)), splat(1)));
  const tr = mul(get(P_TR), each);
  const tg = mul(get(P_TG), each);
  const tb = mul(get(P_TB), each);
  for (let j = 0; j < longest; j++) {
    const here = i32x4.lt_s(i32x4.splat(j), counts);
    const mask = i32x4.bitmask(here);
    const q0: usize = (mask & 1) !== 0 ? load<u32>(list + <usize>j * 4) : any;
    const q1: usize = (mask & 2) !== 0 ? load<u32>(list + <usize>(NEAR + j) * 4) : any;
    const q2: usize = (mask & 4) !== 0 ? load<u32>(list + <usize>(2 * NEAR + j) * 4) : any;
    const q3: usize = (mask & 8) !== 0 ? load<u32>(list + <usize>(3 * NEAR + j) * 4) : any;
    const lx = gather(PH_DX, q0, q1, q2, q3);
    const ly = gather(PH_DY, q0, q1, q2, q3);
    const lz = gather(PH_DZ, q0, q1, q2, q3);
    const iz = dot3(lx, ly, lz, nx, ny, nz);
    const side = dot3(lx, ly, lz, gx, gy, gz);
    evaluate(dot3(lx, ly, lz, ux, uy, uz), dot3(lx, ly, lz, vx, vy, vz), iz);
    const ox = sub(gather(PH_X, q0, q1, q2, q3), px);
    const oy = sub(gather(PH_Y, q0, q1, q2, q3), py);
    const oz = sub(gather(PH_Z, q0, q1, q2, q3), pz);
    const cone = most(splat(0), sub(splat(1), div(dot3(ox, oy, oz, ox, oy, oz), r2)));
    // photons count what falls on the true surface
    const share = where(
      both(here, above(mul(side, iz), splat(0))),
      div(mul(cone, sub(splat(1), scatteredSharp)), most(f32x4.abs(side), splat(LEAST_SLANT))),
    );
    v128.store(row(4), mul(mul(tr, scatteredR), mul(share, gather(PH_RED, q0, q1, q2, q3))));
    v128.store(row(5), mul(mul(tg, scatteredG), mul(share, gather(PH_GREEN, q0, q1, q2, q3))));
    v128.store(row(6), mul(mul(tb, scatteredB), mul(share, gather(PH_BLUE, q0, q1, q2, q3))));
    for (let k = 0; k < count; k++) {
      if ((mask & (1 << k)) === 0) continue;
      const lane4 = <usize>k << 2;
      const photon = k === 0 ? q0 : k === 1 ? q1 : k === 2 ? q2 : q3;
      gain(
        base + offset(k), load<f32>(row(4) + lane4), load<f32>(row(5) + lane4), load<f32>(row(6) + lane4),
        load<i32>(photon, PH_GROUP),
      );
    }
  }
}
