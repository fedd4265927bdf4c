import { describe, expect, it } from 'vitest';
import { OpenFont } from '../../src/type/font.ts';
import { FontError, unwrapFont } from '../../src/type/unwrap.ts';
import { fontBytes } from './fixture.ts';

describe('font files', () => {
  it('unwrap from WOFF2 to the same outlines as from plain SFNT', async () => {
    const woff2 = await OpenFont.open(fontBytes('lobster'));
    const plain = await OpenFont.open(await unwrapFont(fontBytes('lobster')));
    expect(plain.name).toBe('Lobster');
    expect(plain.shape('Ost').map((g) => [g.glyph, g.advance])).toEqual(
      woff2.shape('Ost').map((g) => [g.glyph, g.advance]),
    );
  });

  it('refuse what is not a font, with the reason', async () => {
    await expect(unwrapFont(new Uint8Array(4))).rejects.toThrow('too short');
    await expect(unwrapFont(new Uint8Array(64))).rejects.toThrow('not a TTF');
    await expect(unwrapFont(fontBytes('lobster').slice(0, 5000))).rejects.toThrow('cut short');
    const sfnt = await unwrapFont(fontBytes('lobster'));
    await expect(unwrapFont(sfnt.slice(0, sfnt.length - 400))).rejects.toThrow('cut short');
  });

  it('survive any damage with an error of their own or as a font', async () => {
    const good = fontBytes('anton');
    let refused = 0;
    for (let k = 0; k < 60; k++) {
      const bad = good.slice();
      for (let i = 0; i < 40; i++) bad[(k * 7919 + i * 104729) % bad.length] ^= 1 + ((k + i) % 255);
      try {
        const font = await OpenFont.open(bad);
        font.shape('Word').forEach((g) => font.outline(g.glyph));
      } catch (error) {
        expect(error).toBeInstanceOf(FontError);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(30);
  });
});
