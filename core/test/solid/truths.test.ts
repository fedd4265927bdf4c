import { beforeAll, describe, expect, it } from 'vitest';
import { loadRegions, merged } from '../../src/plane/region.ts';
import { SHIPPED_FONTS } from '../../src/type/shippedFonts.ts';
import { bevelsFor, faultOf } from '../../src/solid/truths.ts';
import { kernelOver } from '../trace/kernelFixture.ts';
import { openShipped } from '../type/fixture.ts';

beforeAll(() => loadRegions());

/** All of printable Latin-1, of which each face is given every twenty-third, each from another start. */
const LATIN = [...Array(0xff - 0x20).keys()].map((i) => 0x21 + i).filter((c) => c < 0x7f || c > 0xa0);
const EVERY = 23;

describe('bevelled letters are sound', () => {
  it.each(SHIPPED_FONTS.map((f, i) => [f.id, i] as const))('in %s', async (id, start) => {
    const font = await openShipped(id);
    let tried = 0;
    for (let i = start % EVERY; i < LATIN.length; i += EVERY) {
      if (!font.has(LATIN[i])) continue;
      const character = String.fromCodePoint(LATIN[i]);
      const region = merged(font.outline(font.shape(character)[0].glyph));
      // a soft hyphen has no shape
      if (region.length === 0) continue;
      for (const bevel of bevelsFor(region)) {
        tried++;
        expect(faultOf(region, bevel, kernelOver), `${character} ${bevel.profile} ${bevel.width}`).toBeNull();
      }
    }
    expect(tried).toBeGreaterThan(70);
  });

  it('and one that crosses another is not', () => {
    const square = [Float64Array.from([0, 0, 300, 0, 300, 300, 0, 300])];
    const bevel = { width: 20, profile: 'round' as const };
    expect(faultOf(square, bevel, kernelOver)).toBeNull();
    const aside = (p: Float32Array) => kernelOver(p.map((v) => v + 37));
    expect(faultOf(square, bevel, aside)).toMatch(/crossings/);
  });
});
