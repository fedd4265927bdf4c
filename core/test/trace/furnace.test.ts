import { describe, expect, it } from 'vitest';
import { opticsOf } from '../../src/finish/optics.ts';
import { plainSurface, type Surface } from '../../src/document/index.ts';
import { compileSurface } from '../../src/trace/finishRecords.ts';
import * as surface from '../../src/trace/surface.ts';
import { F, RECORD, sample, scattered, T, weigh } from '../../src/trace/surface.ts';
import { seeded } from './kernelFixture.ts';

/** Weighs and evaluates one pair of directions. */
function evaluateAt(
  R: Float32Array,
  ...[ox, oy, oz, ix, iy, iz, inside]: [number, number, number, number, number, number, boolean]
): void {
  weigh(R, 0, oz, inside);
  surface.evaluate(R, 0, ox, oy, oz, ix, iy, iz, inside);
}

const ROUGHNESS = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
const COSINES = [0.1, 0.3, 0.6, 0.95];

/** Reflected plus transmitted share of a uniform white surround, from outside or inside. */
function whiteFurnace(R: Float32Array, mu: number, inside: boolean, n = 40_000): number {
  const random = seeded(42);
  const s = Math.sqrt(1 - mu * mu);
  let sum = 0;
  weigh(R, 0, mu, inside);
  const side = Math.ceil(Math.sqrt(n));
  for (let i = 0; i < side; i++) {
    for (let j = 0; j < side; j++) {
      const turn = 2 * Math.PI * random();
      const u = (i + random()) / side;
      const v = (j + random()) / side;
      if (sample(R, 0, s * Math.cos(turn), s * Math.sin(turn), mu, inside, random(), u, v)) {
        sum += scattered[0] / scattered[3];
      }
    }
  }
  return sum / (side * side);
}

const white = { base_color: [1, 1, 1], specular_color: [1, 1, 1] };
const families: Record<string, (roughness: number) => Partial<Surface>> = {
  metal: (r) => ({ ...white, base_metalness: 1, specular_roughness: r }),
  'brushed metal': (r) => ({
    ...white,
    base_metalness: 1,
    specular_roughness: r,
    specular_roughness_anisotropy: 0.7,
  }),
  'glossy dielectric': (r) => ({ ...white, specular_roughness: r }),
  'rough diffuse': (r) => ({
    ...white,
    base_diffuse_roughness: r,
    specular_weight: 0,
    specular_roughness: 1,
  }),
  'rough diffuse under gloss': (r) => ({ ...white, base_diffuse_roughness: r, specular_roughness: 0.5 }),
  glass: (r) => ({ ...white, transmission_weight: 1, specular_roughness: r }),
  'coat over metal': (r) => ({
    ...white,
    base_metalness: 1,
    specular_roughness: 0.3,
    coat_weight: 1,
    coat_roughness: r,
  }),
  'coat over paint': (r) => ({ ...white, specular_roughness: 0.5, coat_weight: 1, coat_roughness: r }),
};

describe('white furnace: a lossless finish returns all light, within 0.5 %', () => {
  for (const [name, surface] of Object.entries(families)) {
    it(name, () => {
      for (const roughness of ROUGHNESS) {
        const R = compileSurface(opticsOf(plainSurface(surface(roughness))));
        for (const mu of COSINES) {
          // brushed lobes vary with the turn as well, which takes more samples to average
          const got = whiteFurnace(R, mu, false, name === 'brushed metal' ? 250_000 : 40_000);
          expect(Math.abs(got - 1), `roughness ${roughness}, cosine ${mu}: ${got}`).toBeLessThan(0.005);
        }
      }
    });
  }
  it('glass seen from inside', () => {
    for (const roughness of ROUGHNESS) {
      const R = compileSurface(opticsOf(plainSurface(families.glass(roughness))));
      for (const mu of COSINES) {
        const got = whiteFurnace(R, mu, true);
        expect(Math.abs(got - 1), `roughness ${roughness}, cosine ${mu}: ${got}`).toBeLessThan(0.005);
      }
    }
  });
});

describe('scattering', () => {
  const some: Record<string, Partial<Surface>> = {
    gold: { base_metalness: 1, base_metal: 'gold', specular_roughness: 0.35 },
    brushed: { base_metalness: 1, specular_roughness: 0.5, specular_roughness_anisotropy: 0.6 },
    lacquer: { base_color: [0.5, 0.1, 0.1], coat_weight: 0.8, coat_roughness: 0.3, specular_roughness: 0.6 },
    frosted: { transmission_weight: 1, specular_roughness: 0.55 },
  };
  const direction = (random: () => number, z: number) => {
    const phi = 2 * Math.PI * random();
    const s = Math.sqrt(1 - z * z);
    return [s * Math.cos(phi), s * Math.sin(phi), z];
  };

  it('is reciprocal, across glass by the squared index', () => {
    const random = seeded(5);
    for (const [name, changes] of Object.entries(some)) {
      const R = compileSurface(opticsOf(plainSurface(changes)));
      for (let k = 0; k < 300; k++) {
        const o = direction(random, 0.05 + 0.95 * random());
        const i = direction(random, 0.05 + 0.95 * random());
        evaluateAt(R, o[0], o[1], o[2], i[0], i[1], i[2], false);
        const there = scattered[1] / i[2];
        evaluateAt(R, i[0], i[1], i[2], o[0], o[1], o[2], false);
        const back = scattered[1] / o[2];
        expect(Math.abs(there - back), name).toBeLessThan(1e-6 * Math.max(1, there));
      }
    }
    const R = compileSurface(opticsOf(plainSurface(some.frosted)));
    const n2 = R[F.ior] ** 2;
    for (let k = 0; k < 300; k++) {
      const o = direction(random, 0.05 + 0.95 * random());
      const i = direction(random, 0.05 + 0.95 * random());
      evaluateAt(R, o[0], o[1], o[2], i[0], i[1], -i[2], false);
      const there = scattered[1] / i[2] / n2;
      // from inside the frame is turned over: z changes sign for both
      evaluateAt(R, i[0], i[1], i[2], o[0], o[1], -o[2], true);
      const back = scattered[1] / o[2];
      expect(Math.abs(there - back)).toBeLessThan(1e-5 * Math.max(1, there));
    }
  });

  it('draws directions as its pdf says (chi-square over the sphere)', () => {
    const random = seeded(9);
    for (const [name, changes] of Object.entries(some)) {
      const R = compileSurface(opticsOf(plainSurface(changes)));
      const o = direction(random, 0.6);
      const [bands, sectors] = [16, 16];
      const seen = new Float64Array(bands * sectors);
      const n = 60_000;
      for (let k = 0; k < n; k++) {
        weigh(R, 0, o[2], false);
        if (!sample(R, 0, o[0], o[1], o[2], false, random(), random(), random())) continue;
        const band = Math.min(bands - 1, Math.floor(((scattered[6] + 1) / 2) * bands));
        const phi = Math.atan2(scattered[5], scattered[4]) / (2 * Math.PI) + 0.5;
        seen[band * sectors + Math.min(sectors - 1, Math.floor(phi * sectors))]++;
      }
      let chi2 = 0;
      let cells = 0;
      const fine = 24;
      for (let band = 0; band < bands; band++) {
        for (let sector = 0; sector < sectors; sector++) {
          let p = 0;
          for (let a = 0; a < fine; a++) {
            for (let c = 0; c < fine; c++) {
              const z = ((band + (a + 0.5) / fine) / bands) * 2 - 1;
              const phi = ((sector + (c + 0.5) / fine) / sectors - 0.5) * 2 * Math.PI;
              const s = Math.sqrt(1 - z * z);
              evaluateAt(R, o[0], o[1], o[2], s * Math.cos(phi), s * Math.sin(phi), z, false);
              p += scattered[3];
            }
          }
          const expected = (n * p * 4 * Math.PI) / (bands * sectors * fine * fine);
          if (expected < 10) continue;
          const d = seen[band * sectors + sector] - expected;
          chi2 += (d * d) / expected;
          cells++;
        }
      }
      // mean cells − 1, standard deviation √(2 cells): six of them is far beyond chance
      expect(chi2, name).toBeLessThan(cells + 6 * Math.sqrt(2 * cells));
      expect(cells, name).toBeGreaterThan(10);
    }
  });
});

describe('energy tables', () => {
  it('come of roughness and index alone: colours, tints and what glows share them, and give their own colours', () => {
    const of = (changes: Partial<Surface>) =>
      compileSurface(opticsOf(plainSurface({ specular_roughness: 0.37, coat_weight: 0.6, ...changes })));
    const [plain, red] = [of({}), of({ base_color: [0.7, 0.1, 0.1], emission_luminance: 4 })];
    const tables = (R: Float32Array) => [...R.subarray(T.gloss, RECORD)];
    expect(tables(red)).toEqual(tables(plain));
    expect([...red.subarray(F.base, F.base + 3)]).not.toEqual([...plain.subarray(F.base, F.base + 3)]);
    expect(tables(of({ specular_roughness: 0.38 }))).not.toEqual(tables(plain));
    expect(tables(of({ coat_ior: 1.7 }))).not.toEqual(tables(plain));
    expect(tables(of({ base_diffuse_roughness: 0.5 }))).not.toEqual(tables(plain));
  });
});
