/** Bodies that rays run into in the place of lights. */
import type { LightFace, SceneLight, SceneSolid } from '../scene/renderScene.ts';

type Body = Pick<SceneSolid, 'key' | 'triangles' | 'positions' | 'normals' | 'tangents'>;

/** A unit square about the origin that looks along −z, for area lights. */
const SQUARE: Body = {
  key: 'square',
  triangles: 2,
  positions: Float32Array.from([
    -0.5, -0.5, 0, 0.5, -0.5, 0, 0.5, 0.5, 0, -0.5, -0.5, 0, 0.5, 0.5, 0, -0.5, 0.5, 0,
  ]),
  normals: Float32Array.from([1, 2, 3, 4, 5, 6].flatMap(() => [0, 0, -1])),
  tangents: Float32Array.from([1, 2, 3, 4, 5, 6].flatMap(() => [1, 0, 0])),
};

/** How often the faces of an octahedron are halved on the way to a ball. */
const HALVINGS = 4;

type Corner = readonly [number, number, number];

/** A ball of triangles about the origin with the area of a sphere of radius one. */
function ball(): Body {
  const [x, y, z]: Corner[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const back = (v: Corner): Corner => [-v[0], -v[1], -v[2]];
  let faces: [Corner, Corner, Corner][] = [];
  for (const a of [x, back(x)])
    for (const b of [y, back(y)])
      for (const c of [z, back(z)]) faces.push(a[0] * b[1] * c[2] > 0 ? [a, b, c] : [a, c, b]);
  const between = (a: Corner, b: Corner): Corner => {
    const m: Corner = [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
    const l = Math.sqrt(m[0] * m[0] + m[1] * m[1] + m[2] * m[2]);
    return [m[0] / l, m[1] / l, m[2] / l];
  };
  for (let k = 0; k < HALVINGS; k++)
    faces = faces.flatMap(([a, b, c]): [Corner, Corner, Corner][] => {
      const [p, q, r] = [between(a, b), between(b, c), between(c, a)];
      return [
        [a, p, r],
        [p, b, q],
        [r, q, c],
        [p, q, r],
      ];
    });
  const positions = Float32Array.from(faces.flat(2));
  let area = 0;
  for (let i = 0; i < positions.length; i += 9) area += areaOfTriangle(positions, i);
  const grown = Math.sqrt((4 * Math.PI) / area);
  return {
    key: 'ball',
    triangles: faces.length,
    positions: positions.map((v) => v * grown),
    normals: positions,
    tangents: positions.map((_, i) => [1, 0, 0][i % 3]),
  };
}

/** Area of the triangle whose nine numbers begin at `at`. */
export function areaOfTriangle(p: ArrayLike<number>, at: number): number {
  const e1 = [p[at + 3] - p[at], p[at + 4] - p[at + 1], p[at + 5] - p[at + 2]];
  const e2 = [p[at + 6] - p[at], p[at + 7] - p[at + 1], p[at + 8] - p[at + 2]];
  const x = e1[1] * e2[2] - e1[2] * e2[1];
  const y = e1[2] * e2[0] - e1[0] * e2[2];
  const z = e1[0] * e2[1] - e1[1] * e2[0];
  return 0.5 * Math.sqrt(x * x + y * y + z * z);
}

export const BALL = ball();

const faces = new WeakMap<LightFace, Body>();

/** A face of its own, made once. */
function faceBody(face: LightFace): Body {
  let body = faces.get(face);
  if (!body) {
    const corners = face.positions.length / 3;
    const each = (v: readonly number[]) => Float32Array.from({ length: corners * 3 }, (_, i) => v[i % 3]);
    body = {
      key: face.key,
      triangles: corners / 3,
      positions: face.positions,
      normals: each([0, 0, -1]),
      tangents: each([1, 0, 0]),
    };
    faces.set(face, body);
  }
  return body;
}

/** What rays run into in the place of a light that has a body, about its origin. */
export const bodyOf = (light: SceneLight): Body =>
  light.kind !== 'area' ? BALL : light.face ? faceBody(light.face) : SQUARE;
