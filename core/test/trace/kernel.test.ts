import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { OracleTracer } from '../oracle/rays.ts';
import { kernelOver, seeded } from './kernelFixture.ts';

/** A wavy, closed-looking soup: a displaced grid plus loose triangles of very different sizes. */
function soup(random: () => number): Float32Array {
  const out: number[] = [];
  const n = 60;
  const height = (i: number, j: number) => 0.3 * Math.sin(i * 0.4) * Math.cos(j * 0.3);
  const point = (i: number, j: number) => [i / 20 - 1.5, height(i, j), j / 20 - 1.5];
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      out.push(...point(i, j), ...point(i + 1, j), ...point(i, j + 1));
      out.push(...point(i + 1, j), ...point(i + 1, j + 1), ...point(i, j + 1));
    }
  }
  for (let k = 0; k < 700; k++) {
    const size = 10 ** (-3 * random());
    const c = [random() * 4 - 2, random() * 4 - 2, random() * 4 - 2];
    for (let v = 0; v < 9; v++) out.push(c[v % 3] + (random() - 0.5) * size);
  }
  return Float32Array.from(out);
}

describe('ray kernel', () => {
  it('agrees with the oracle on 12,000 rays: same triangle, same distance, same shadow', () => {
    const random = seeded(7);
    const positions = soup(random);
    const kernel = kernelOver(positions);
    const oracle = new OracleTracer(positions);
    let different = 0;
    let hits = 0;
    let shadows = 0;
    for (let i = 0; i < 12_000; i++) {
      const o = [random() * 6 - 3, random() * 6 - 3, random() * 6 - 3];
      // two of three towards the soup, so that hits and misses are both common
      const towards = i % 3 === 0 ? [0, 0, 0] : o;
      let d = towards.map((v) => random() * 3 - 1.5 - v);
      // every tenth ray runs along an axis, where slab arithmetic divides by zero
      if (i % 10 === 0) d = [0, 0, 0].map((_, a) => (a === i % 3 ? Math.sign(d[a]) : 0));
      const tmax = i % 4 === 0 ? random() * 4 : 1e30;
      const got = kernel.closest(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], tmax);
      const want = oracle.closest(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], tmax);
      if (got !== want) different++;
      else if (got >= 0) {
        hits++;
        if (kernel.hit.t !== oracle.hit.t || kernel.hit.b1 !== oracle.hit.b1) different++;
      }
      const dark = kernel.occluded(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], tmax);
      if (dark) shadows++;
      if (dark !== oracle.occluded(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], tmax)) different++;
    }
    expect(different).toBe(0);
    expect(hits).toBeGreaterThan(2400);
    // everything here casts a shadow
    expect(shadows).toBe(hits);
  });

  it('lets no ray through the shared edges of a closed box', () => {
    const box: number[] = [];
    const corner = (i: number) => [i & 1 ? 0.7 : -0.3, i & 2 ? 0.9 : -0.4, i & 4 ? 0.6 : -0.5];
    const faces = ['0231', '4576', '0154', '2673', '0462', '1375'];
    for (const face of faces) {
      const [a, b, c, d] = [...face].map((s) => corner(Number(s)));
      box.push(...a, ...b, ...c, ...a, ...c, ...d);
    }
    const kernel = kernelOver(Float32Array.from(box));
    const random = seeded(3);
    for (let i = 0; i < 50_000; i++) {
      // aimed exactly at points on edges and diagonals
      const a = corner(Math.floor(random() * 8));
      const b = corner(Math.floor(random() * 8));
      const s = random();
      const d = a.map((v, k) => v + (b[k] - v) * s);
      expect(kernel.closest(0, 0, 0, 0, d[0], d[1], d[2], 1e30)).toBeGreaterThanOrEqual(0);
    }
  });

  it('answers nothing in an empty scene', () => {
    const kernel = kernelOver(new Float32Array(0));
    expect(kernel.closest(0, 0, 0, 0, 0, 0, 1, 1e30)).toBe(-1);
    expect(kernel.occluded(0, 0, 0, 0, 0, 0, 1, 1e30)).toBe(false);
  });

  it('traces a batch as it traces single rays', () => {
    const random = seeded(11);
    const kernel = kernelOver(soup(random));
    const n = 500;
    for (let i = 0; i < n * 8; i++) kernel.rays[i] = random() * 4 - 2;
    for (let i = 0; i < n; i++) {
      kernel.rays[i * 8 + 3] = 0;
      kernel.rays[i * 8 + 7] = 1e30;
    }
    kernel.closestBatch(n);
    const batch = kernel.resultInts.slice(0, n * 8);
    const rays = kernel.rays.slice(0, n * 8);
    for (let i = 0; i < n; i++) {
      const r = rays.subarray(i * 8, i * 8 + 8);
      expect(kernel.closest(r[0], r[1], r[2], r[3], r[4], r[5], r[6], r[7])).toBe(batch[i * 8 + 3]);
    }
  });
});

describe('the memory layout', () => {
  it('is the same for both languages: the files are those that its one description gives', async () => {
    const { assemblyScript, typeScript } = (await import('../../kernel/layout.mjs' as string)) as Record<
      'assemblyScript' | 'typeScript',
      () => string
    >;
    const read = (path: string) => readFileSync(new URL(path, import.meta.url), 'utf8');
    expect(read('../../kernel/assembly/layout.ts')).toBe(assemblyScript());
    expect(read('../../src/trace/kernelLayout.ts')).toBe(typeScript());
  });
});
