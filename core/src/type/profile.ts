/** Bevel profiles: from the outline (across 0, up 0) to the face (across 1, up 1). */
import type { Profile } from '../document/index.ts';

/**
 * One straight piece of a profile. Normals are given at both ends as (outward, up), unit length in the
 * stretched profile, so that round profiles shade smoothly and stepped ones crisply.
 */
export interface ProfilePiece {
  across0: number;
  up0: number;
  across1: number;
  up1: number;
  normal0: [number, number];
  normal1: [number, number];
}

const unit = (x: number, y: number): [number, number] => {
  const l = Math.hypot(x, y) || 1;
  return [x / l, y / l];
};

/**
 * The pieces of a profile, scaled to a bevel.
 * @param width inset and `height` depth of the bevel, any one unit
 */
export function profilePieces(
  profile: Profile,
  segments: number,
  width: number,
  height: number,
): ProfilePiece[] {
  if (width <= 0 && height <= 0) return [];
  const piece = (
    across0: number,
    up0: number,
    across1: number,
    up1: number,
    n0?: [number, number],
    n1?: [number, number],
  ): ProfilePiece => {
    const flat = unit((up1 - up0) * height, (across1 - across0) * width);
    return { across0, up0, across1, up1, normal0: n0 ?? flat, normal1: n1 ?? flat };
  };
  if (width <= 0 || height <= 0 || profile === 'straight') return [piece(0, 0, 1, 1)];
  if (profile === 'step') {
    // two treads: riser, tread, riser, tread
    return [piece(0, 0, 0, 0.5), piece(0, 0.5, 0.5, 0.5), piece(0.5, 0.5, 0.5, 1), piece(0.5, 1, 1, 1)];
  }
  const n = Math.max(2, segments);
  const points = Array.from({ length: n + 1 }, (_, i) => {
    const angle = ((Math.PI / 2) * i) / n;
    const [s, c] = [Math.sin(angle), Math.cos(angle)];
    // quarter ellipse bulging out, or hollowed in
    return profile === 'round'
      ? { across: 1 - c, up: s, normal: unit(c * height, s * width) }
      : { across: s, up: 1 - c, normal: unit(s * height, c * width) };
  });
  return points.slice(1).map((p, i) => {
    const q = points[i];
    return piece(q.across, q.up, i + 1 === n ? 1 : p.across, i + 1 === n ? 1 : p.up, q.normal, p.normal);
  });
}
