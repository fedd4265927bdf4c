/** Carrying places and directions by glTF's matrices, column by column. */
import type { mat4 } from '@gltf-transform/core';

type Vec = [number, number, number];

export const point = (m: mat4, v: ArrayLike<number>): Vec =>
  [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2] + m[12 + r]) as Vec;

export const direction = (m: mat4, v: ArrayLike<number>): Vec => {
  const d = [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2]);
  const l = Math.hypot(...d) || 1;
  return d.map((x) => x / l) as Vec;
};

export const isMirrored = (m: mat4) =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) -
    m[4] * (m[1] * m[10] - m[2] * m[9]) +
    m[8] * (m[1] * m[6] - m[2] * m[5]) <
  0;

/** Normals go by the inverse transpose: the matrix of cofactors does, up to scale. */
export function normalMatrix(m: mat4): mat4 {
  const c = [
    m[5] * m[10] - m[6] * m[9],
    m[6] * m[8] - m[4] * m[10],
    m[4] * m[9] - m[5] * m[8],
    0,
    m[2] * m[9] - m[1] * m[10],
    m[0] * m[10] - m[2] * m[8],
    m[1] * m[8] - m[0] * m[9],
    0,
    m[1] * m[6] - m[2] * m[5],
    m[2] * m[4] - m[0] * m[6],
    m[0] * m[5] - m[1] * m[4],
    0,
  ];
  // of a mirrored matrix the cofactors point the other way
  const sign = isMirrored(m) ? -1 : 1;
  return [...c.map((v) => v * sign), 0, 0, 0, 1] as mat4;
}
