/** Tangents for surfaces that come without. */
type Axis = readonly [number, number, number];

/**
 * Across the direction out of the front, which runs along outlines; where the surface faces that way itself,
 * along the reading direction.
 * @param normals unit vectors, three floats each
 */
export function plainTangents(normals: ArrayLike<number>, right: Axis, out: Axis): number[] {
  const tangents: number[] = [];
  for (let i = 0; i < normals.length; i += 3) {
    const [nx, ny, nz] = [normals[i], normals[i + 1], normals[i + 2]];
    let t = [out[1] * nz - out[2] * ny, out[2] * nx - out[0] * nz, out[0] * ny - out[1] * nx];
    if (Math.hypot(...t) < 1e-3) {
      const d = right[0] * nx + right[1] * ny + right[2] * nz;
      t = [right[0] - d * nx, right[1] - d * ny, right[2] - d * nz];
    }
    const l = Math.hypot(...t) || 1;
    tangents.push(t[0] / l, t[1] / l, t[2] / l);
  }
  return tangents;
}
