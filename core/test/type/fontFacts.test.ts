import { beforeAll, describe, expect, it } from 'vitest';
import { OpenFont } from '../../src/type/font.ts';
import { SHIPPED_FONTS, SHIPPED_LICENCE } from '../../src/type/shippedFonts.ts';
import { unwrapFont } from '../../src/type/unwrap.ts';
import { fontBytes, openShipped } from './fixture.ts';

/** Start of a table of a plain SFNT file. */
function tableAt(sfnt: Uint8Array, tag: string): number {
  const view = new DataView(sfnt.buffer, sfnt.byteOffset, sfnt.byteLength);
  for (let at = 12; at < 12 + 16 * view.getUint16(4); at += 16)
    if (String.fromCharCode(...sfnt.subarray(at, at + 4)) === tag) return view.getUint32(at + 8);
  throw new Error(`no ${tag}`);
}

describe('what a font says of itself', () => {
  let plain: Uint8Array;
  beforeAll(async () => {
    plain = await unwrapFont(fontBytes('lobster'));
  });

  it.each([
    [0x0000, 'installable'],
    [0x0002, 'restricted'],
    [0x0004, 'preview'],
    [0x0008, 'editable'],
    // of several the least restrictive holds, except that nothing outweighs restricted (OpenType 1.9)
    [0x000c, 'editable'],
    [0x0006, 'restricted'],
    // subsetting and bitmap bits say nothing of embedding
    [0x0300, 'installable'],
  ])('fsType %s is read as %s', async (bits, embedding) => {
    const bytes = plain.slice();
    const at = tableAt(bytes, 'OS/2') + 8;
    [bytes[at], bytes[at + 1]] = [bits >> 8, bits & 255];
    expect((await OpenFont.open(bytes)).facts.embedding).toBe(embedding);
  });

  it('its licence is its own, and the one it is known by only where it names none', async () => {
    const own = await OpenFont.open(plain);
    const known = await OpenFont.open(plain, 'Known licence');
    expect(known.facts.licence).toBe(own.facts.licence || 'Known licence');
    expect((await openShipped('lobster')).facts.licence).not.toBe('');
  });

  it.each(SHIPPED_FONTS.map((f) => [f.id, f.name] as const))(
    '%s ships under its name, may be embedded, and has a licence',
    async (id, name) => {
      const { facts, capHeight, lineHeight } = await openShipped(id);
      expect(facts.name.replace(/ (Variable|Regular|Inline).*$/, '')).toContain(name.split(' ')[0]);
      expect(facts.embedding).toBe('installable');
      expect(facts.licence || SHIPPED_LICENCE).not.toBe('');
      expect(capHeight).toBeGreaterThan(300);
      expect(capHeight).toBeLessThan(1100);
      expect(lineHeight).toBeGreaterThan(700);
      for (const axis of facts.axes) {
        expect(axis.tag).toMatch(/^\w{4}$/);
        expect(axis.min).toBeLessThanOrEqual(axis.initial);
        expect(axis.initial).toBeLessThanOrEqual(axis.max);
      }
      expect(new Set(facts.features.map((f) => f.tag)).size).toBe(facts.features.length);
    },
  );

  it('a variable face is another font at another place, and the same at places it does not have', async () => {
    const font = await openShipped('recursive');
    const [axis] = font.facts.axes.filter((a) => a.max > a.min);
    const far = font.varied([{ tag: axis.tag, value: axis.max }]);
    expect(far).not.toBe(font);
    expect(font.varied([{ tag: axis.tag, value: axis.max }])).toBe(far);
    expect(font.varied([{ tag: 'zzzz', value: 3 }])).toBe(font);
    const [at] = font.shape('R');
    expect(far.outline(far.shape('R')[0].glyph)).not.toEqual(font.outline(at.glyph));
  });
});
