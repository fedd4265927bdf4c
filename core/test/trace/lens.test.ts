import { describe, expect, it } from 'vitest';
import { newCamera } from '../../src/document/index.ts';
import { lensRadius, spotOf } from '../../src/stage/lens.ts';
import { shotEye, type Eye } from '../../src/trace/eye.ts';
import { flatSurround, quad, sceneOf, traced } from './sceneFixture.ts';

const WIDTH = 96;
const HEIGHT = 64;
const black = { base_color: [0, 0, 0], specular_weight: 0 };
const dark = { picture: flatSurround(0), gain: 1, turn: 0, seen: false };

/** A small square that glows, before a camera at the origin's front that looks at z = 0 from some metres away. */
function glint(at: readonly [number, number, number], camera: Parameters<typeof newCamera>[0]) {
  const half = 0.006;
  const [x, y, z] = at;
  const lamp = {
    triangles: quad([x - half, y - half, z], [2 * half, 0, 0], [0, 2 * half, 0]),
    surface: { ...black, emission_luminance: 1000 },
  };
  const of = newCamera({ target: [0, 0, 0], elevation: 0, distance: 2, ...camera });
  const scene = sceneOf([lamp], { surround: dark, camera: of, aspect: WIDTH / HEIGHT });
  return { camera: of, eye: shotEye(scene, WIDTH, HEIGHT), scene };
}

/** Middle and mean square distance from it of the light in a picture, in shares of its width. */
function spread(picture: Float32Array) {
  let [sum, mx, my, square] = [0, 0, 0, 0];
  const all: [number, number, number][] = [];
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      all.push([picture[(y * WIDTH + x) * 4], (x + 0.5) / WIDTH, (y + 0.5) / WIDTH]);
  for (const [v, x, y] of all) {
    sum += v;
    mx += v * x;
    my += v * y;
  }
  [mx, my] = [mx / sum, my / sum];
  for (const [v, x, y] of all) square += (v * ((x - mx) ** 2 + (y - my) ** 2)) / sum;
  return { sum, mx, my, square, lit: all.filter(([v]) => v > 0).map(([, x, y]) => [x - mx, y - my]) };
}

const look = (of: { scene: Parameters<typeof traced>[0]; eye: Eye }, samples = 1024) =>
  spread(traced(of.scene, of.eye, samples));

describe('depth of field', () => {
  it.each([
    [0.5, 2.5],
    [-1, 3],
  ])('spreads a point at z = %s over the circle of confusion of the thin lens', (z, distance) => {
    const lens = { blurs: true, focal: 200, aperture: 0.6, focus: 2, distance: 2 };
    const { camera, ...of } = glint([0, 0, z], lens);
    const [blurred, sharp] = [look(of), look(glint([0, 0, z], { ...lens, blurs: false }))];
    expect(2 - z).toBeCloseTo(z > 0 ? 1.5 : 3, 12);
    const spot = spotOf(camera, 2 - z);
    expect(spot, `at ${distance}`).toBeGreaterThan(0.1);
    // an even disc of radius r has a mean square of r² / 2; the pixel's filter and the square add their own
    const radius = Math.sqrt(2 * (blurred.square - sharp.square));
    expect(radius / (spot / 2)).toBeGreaterThan(0.98);
    expect(radius / (spot / 2)).toBeLessThan(1.02);
    // no light is lost, and none goes elsewhere
    expect(blurred.sum / sharp.sum).toBeGreaterThan(0.95);
    expect(blurred.sum / sharp.sum).toBeLessThan(1.05);
    const farthest = Math.max(...blurred.lit.map(([x, y]) => Math.hypot(x, y)));
    expect(farthest).toBeLessThan(spot / 2 + 4 / WIDTH);
  });

  it('leaves what is at the focus as it is without a lens', () => {
    const lens = { blurs: true, focal: 200, aperture: 0.6, focus: 2 };
    const [blurred, sharp] = [
      look(glint([0.1, 0, 0], lens)),
      look(glint([0.1, 0, 0], { ...lens, blurs: false })),
    ];
    expect(blurred.square / sharp.square).toBeGreaterThan(0.9);
    expect(blurred.square / sharp.square).toBeLessThan(1.1);
    expect(blurred.mx).toBeCloseTo(sharp.mx, 2);
  });

  it('has spots of the shape of its opening', () => {
    const lens = { blurs: true, focal: 200, aperture: 2, focus: 1.2, blades: 3, blade_turn: Math.PI / 2 };
    const { lit } = look(glint([0, 0, -1], lens), 512);
    // a triangle with a corner upright reaches twice as far there as away from it (or the other way about)
    const up = Math.max(...lit.map(([, y]) => -y));
    const down = Math.max(...lit.map(([, y]) => y));
    const reach = [up, down].sort((a, b) => b - a);
    expect(reach[0] / reach[1]).toBeGreaterThan(1.6);
    expect(reach[0] / reach[1]).toBeLessThan(2.4);
    expect(lensRadius(newCamera(lens))).toBeCloseTo(0.2 / 2 / 2, 9);
  });
});

describe('the frame', () => {
  it('is moved by a shift and leaned by a roll, and has nothing smaller for being far along parallel rays', () => {
    const plain = look(glint([0.2, 0.1, 0], {}), 256);
    // half a metre aside at two metres, with 50 mm on 36 mm
    expect(plain.mx - 0.5).toBeCloseTo((0.2 / 2) * (50 / 36), 2);
    const shifted = look(glint([0.2, 0.1, 0], { shift_x: 0.1, shift_y: -0.2 }), 256);
    expect(shifted.mx - plain.mx).toBeCloseTo(-0.1, 2);
    // a share of the height, downwards
    expect(shifted.my - plain.my).toBeCloseTo(-0.2 * (HEIGHT / WIDTH), 2);
    const rolled = look(glint([0.2, 0, 0], { roll: Math.PI / 2 }), 256);
    expect(rolled.mx).toBeCloseTo(0.5, 2);
    expect(Math.abs(rolled.my - HEIGHT / WIDTH / 2)).toBeCloseTo((0.2 / 2) * (50 / 36), 2);
    const [near, far] = [0.5, -3].map((z) => look(glint([0.2, 0, z], { view: 'parallel' }), 256));
    expect(near.mx).toBeCloseTo(far.mx, 2);
    expect(near.mx).toBeCloseTo(plain.mx, 2);
  });
});
