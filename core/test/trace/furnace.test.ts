import { describe, expect, it } from 'vitest';
import { plainSurface, type Surface } from '../../src/document/index.ts';
import { opticsOf } from '../../src/finish/optics.ts';
import { compileSurface, RECORD } from '../../src/trace/finishRecords.ts';
import * as oracle from '../oracle/surface.ts';
import { seeded } from './kernelFixture.ts';
import { Probe, sceneOf } from './sceneFixture.ts';

/** The kernel's lobes for some surfaces, numbered in their order. */
const probeOf = (surfaces: Partial<Surface>[]) =>
  new Probe(sceneOf(surfaces.map((surface) => ({ triangles: [0, 0, 0, 1, 0, 0, 0, 1, 0], surface }))));

const ROUGHNESS = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
const COSINES = [0.1, 0.3, 0.6, 0.95];

/** Reflected plus transmitted share of a uniform white surround. @param side 0 outside, 1 in glass, 2 beneath */
function whiteFurnace(probe: Probe, finish: number, mu: number, side: number, n = 40_000): number {
  const random = seeded(42);
  const s = Math.sqrt(1 - mu * mu);
  const rows = Math.ceil(Math.sqrt(n));
  const paths = new Float32Array(rows * rows * 6);
  for (let i = 0, at = 0; i < rows; i++) {
    for (let j = 0; j < rows; j++, at += 6) {
      const turn = 2 * Math.PI * random();
      const [u, v] = [(i + random()) / rows, (j + random()) / rows];
      paths.set([s * Math.cos(turn), s * Math.sin(turn), mu, random(), u, v], at);
    }
  }
  const got = probe.many('sample', probe.finish(finish), side, paths);
  // the channels alike: a film may colour what it mirrors, and what it lets through by as much the other way
  const sums = [0, 0, 0];
  for (let k = 0; k < got.length; k += 8)
    if (got[k + 7] !== 0) for (let c = 0; c < 3; c++) sums[c] += got[k + c] / got[k + 3];
  const sum = sums.reduce(
    (far, v) => (Math.abs(v - paths.length / 6) > Math.abs(far - paths.length / 6) ? v : far),
    sums[0],
  );
  return sum / (rows * rows);
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
  'fuzz over paint': (r) => ({ ...white, specular_roughness: 0.4, fuzz_weight: 1, fuzz_roughness: r }),
  'fuzz over metal': (r) => ({
    ...white,
    base_metalness: 1,
    specular_roughness: r,
    fuzz_weight: 0.6,
    fuzz_roughness: 0.5,
  }),
  'film over paint': (r) => ({
    ...white,
    specular_roughness: r,
    thin_film_weight: 1,
    thin_film_thickness: 0.3,
    thin_film_ior: 1.9,
  }),
  'film over glass': (r) => ({
    ...white,
    transmission_weight: 1,
    specular_roughness: r,
    thin_film_weight: 1,
    thin_film_thickness: 0.4,
  }),
  'a body that light seeps into': (r) => ({ ...white, specular_roughness: r, subsurface_weight: 0.7 }),
  'coat over paint': (r) => ({ ...white, specular_roughness: 0.5, coat_weight: 1, coat_roughness: r }),
  'brushed coat over paint': (r) => ({
    ...white,
    specular_roughness: 0.5,
    coat_weight: 1,
    coat_roughness: r,
    coat_roughness_anisotropy: 0.7,
  }),
};

describe('white furnace: a lossless finish returns all light, within 0.5 %', () => {
  for (const [name, surface] of Object.entries(families)) {
    it(name, () => {
      const probe = probeOf(ROUGHNESS.map(surface));
      ROUGHNESS.forEach((roughness, finish) => {
        for (const mu of COSINES) {
          // brushed lobes vary with the turn as well, which takes more samples to average
          const got = whiteFurnace(probe, finish, mu, 0, name === 'brushed metal' ? 160_000 : 40_000);
          // what a rough film loses is given back as if it had none
          // the wider side of a brushed coat may be rougher than the tables go, and brushed rows stand for two turns
          const most = name.startsWith('film') ? 0.02 : name.startsWith('brushed') ? 0.01 : 0.005;
          expect(Math.abs(got - 1), `roughness ${roughness}, cosine ${mu}: ${got}`).toBeLessThan(most);
        }
      });
    });
  }
  it('glass seen from inside', () => {
    const probe = probeOf(ROUGHNESS.map(families.glass));
    ROUGHNESS.forEach((roughness, finish) => {
      for (const mu of COSINES) {
        const got = whiteFurnace(probe, finish, mu, 1);
        expect(Math.abs(got - 1), `roughness ${roughness}, cosine ${mu}: ${got}`).toBeLessThan(0.005);
      }
    });
  });
  it('out of what lies beneath a surface', () => {
    const probe = probeOf([{ ...white, subsurface_weight: 1, specular_roughness: 0.4 }]);
    for (const mu of COSINES) expect(whiteFurnace(probe, 0, mu, 2)).toBeCloseTo(1, 2);
  });
});

describe('scattering', () => {
  const some: Record<string, Partial<Surface>> = {
    gold: { base_metalness: 1, base_metal: 'gold', specular_roughness: 0.35 },
    brushed: { base_metalness: 1, specular_roughness: 0.5, specular_roughness_anisotropy: 0.6 },
    gloss: { base_color: [0.5, 0.1, 0.1], specular_roughness: 0.4 },
    lacquer: { base_color: [0.5, 0.1, 0.1], coat_weight: 0.8, coat_roughness: 0.3, specular_roughness: 0.6 },
    'brushed lacquer': {
      base_color: [0.5, 0.1, 0.1],
      coat_weight: 0.8,
      coat_roughness: 0.5,
      coat_roughness_anisotropy: 0.7,
    },
    frosted: { transmission_weight: 1, specular_roughness: 0.55 },
    'frosted pane': { transmission_weight: 1, specular_roughness: 0.7, geometry_thin_walled: true },
    velvet: { base_color: [0.3, 0.05, 0.1], fuzz_weight: 0.9, fuzz_roughness: 0.35, specular_roughness: 0.6 },
    filmed: { transmission_weight: 1, specular_roughness: 0.4, thin_film_weight: 1, thin_film_ior: 2 },
    wax: { subsurface_weight: 0.8, specular_roughness: 0.5, coat_weight: 0.3, coat_roughness: 0.3 },
    mixed: {
      base_metalness: 0.4,
      transmission_weight: 0.5,
      base_diffuse_roughness: 0.6,
      specular_roughness: 0.45,
      specular_roughness_anisotropy: 0.3,
      coat_weight: 0.5,
      coat_roughness: 0.2,
      coat_color: [0.9, 0.6, 0.4],
    },
  };
  const names = Object.keys(some);
  const probe = probeOf(Object.values(some));
  const direction = (random: () => number, z: number) => {
    const phi = 2 * Math.PI * random();
    const s = Math.sqrt(1 - z * z);
    return [s * Math.cos(phi), s * Math.sin(phi), z];
  };

  /** Those whose lobes the reference does not have. */
  const alone = ['velvet', 'filmed', 'wax'];

  it('is what the reference says, lobe by lobe, from both sides', () => {
    const random = seeded(3);
    const compared = new Map<string, number>();
    names.forEach((name, finish) => {
      if (alone.includes(name)) return;
      const R = probe.records.subarray(finish * RECORD, (finish + 1) * RECORD);
      for (let k = 0; k < 400; k++) {
        const inside = k % 4 === 3;
        const o = direction(random, 0.05 + 0.95 * random());
        const i = direction(random, (0.05 + 0.9 * random()) * (k % 2 ? -1 : 1));
        const got = probe.evaluate(finish, inside, o, i);
        oracle.weigh(R, 0, o[0], o[1], o[2], inside);
        oracle.evaluate(R, 0, o[0], o[1], o[2], i[0], i[1], i[2], inside);
        for (let c = 0; c < 4; c++) {
          const want = oracle.scattered[c];
          expect(Math.abs(got[c] - want), `${name} ${c}: ${got[c]} for ${want}`).toBeLessThan(
            2e-3 * want + 2e-5,
          );
          if (want > 1e-3) compared.set(name, (compared.get(name) ?? 0) + 1);
        }
        const [lot, u, v] = [random(), random(), random()];
        const drawn = probe.sample(finish, inside, o, lot, u, v);
        const goes = oracle.sample(R, 0, o[0], o[1], o[2], inside, lot, u, v);
        // at the very edge of a lobe single precision may fall on the other side
        if (!drawn || !goes) continue;
        for (let c = 0; c < 3; c++) expect(drawn[4 + c], name).toBeCloseTo(oracle.scattered[4 + c], 3);
      }
    });
    for (const name of names)
      if (!alone.includes(name)) expect(compared.get(name), name).toBeGreaterThan(100);
  });

  it('is reciprocal, across glass by the squared index, save under a coat and in what rough metal gives back', () => {
    const random = seeded(5);
    names.forEach((name, finish) => {
      if (name !== 'gloss') return;
      for (let k = 0; k < 300; k++) {
        const o = direction(random, 0.05 + 0.95 * random());
        const i = direction(random, 0.05 + 0.95 * random());
        const there = probe.evaluate(finish, false, o, i)[1] / i[2];
        const back = probe.evaluate(finish, false, i, o)[1] / o[2];
        expect(Math.abs(there - back), name).toBeLessThan(1e-3 * Math.max(0.1, there));
      }
    });
    const frosted = names.indexOf('frosted');
    const n2 = 1.5 ** 2;
    for (let k = 0; k < 300; k++) {
      const o = direction(random, 0.05 + 0.95 * random());
      const i = direction(random, 0.05 + 0.95 * random());
      const there = probe.evaluate(frosted, false, o, [i[0], i[1], -i[2]])[1] / i[2] / n2;
      // from inside the frame is turned over: z changes sign for both
      const back = probe.evaluate(frosted, true, i, [o[0], o[1], -o[2]])[1] / o[2];
      expect(Math.abs(there - back)).toBeLessThan(1e-3 * Math.max(0.1, there));
    }
  });

  it('draws directions as its pdf says (chi-square over the sphere)', () => {
    const random = seeded(9);
    names.forEach((name, finish) => {
      const o = direction(random, 0.6);
      const [bands, sectors] = [16, 16];
      const seen = new Float64Array(bands * sectors);
      const n = 60_000;
      const paths = Float32Array.from({ length: n * 6 }, (_, k) => (k % 6 < 3 ? o[k % 6] : random()));
      const drawn = probe.many('sample', probe.finish(finish), 0, paths);
      for (let k = 0; k < drawn.length; k += 8) {
        if (drawn[k + 7] === 0) continue;
        const band = Math.min(bands - 1, Math.floor(((drawn[k + 6] + 1) / 2) * bands));
        const phi = Math.atan2(drawn[k + 5], drawn[k + 4]) / (2 * Math.PI) + 0.5;
        seen[band * sectors + Math.min(sectors - 1, Math.floor(phi * sectors))]++;
      }
      let chi2 = 0;
      let cells = 0;
      const fine = 24;
      for (let band = 0; band < bands; band++) {
        for (let sector = 0; sector < sectors; sector++) {
          const grid = new Float32Array(fine * fine * 6);
          for (let k = 0; k < fine * fine; k++) {
            const z = ((band + ((k % fine) + 0.5) / fine) / bands) * 2 - 1;
            const phi = ((sector + (Math.floor(k / fine) + 0.5) / fine) / sectors - 0.5) * 2 * Math.PI;
            const s = Math.sqrt(1 - z * z);
            grid.set([...o, s * Math.cos(phi), s * Math.sin(phi), z], k * 6);
          }
          const values = probe.many('evaluate', probe.finish(finish), 0, grid);
          let p = 0;
          for (let k = 3; k < values.length; k += 4) p += values[k];
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
    });
  });
});

describe('compiling a finish', () => {
  it('samples nothing: a record is what roughness, index and colours give through the shared tables', () => {
    const of = (changes: Partial<Surface>) =>
      compileSurface(opticsOf(plainSurface({ specular_roughness: 0.37, coat_weight: 0.6, ...changes })));
    const [plain, red] = [of({}), of({ base_color: [0.7, 0.1, 0.1], emission_luminance: 4 })];
    const rows = (R: Float32Array) => [...R.subarray(oracle.T.gloss, oracle.T.again)];
    expect(rows(red)).toEqual(rows(plain));
    const { base } = oracle.F;
    expect([...red.subarray(base, base + 3)]).not.toEqual([...plain.subarray(base, base + 3)]);
    expect(rows(of({ specular_roughness: 0.38 }))).not.toEqual(rows(plain));
    expect(rows(of({ coat_ior: 1.7 }))).not.toEqual(rows(plain));
  });
});
