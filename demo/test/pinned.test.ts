import { readFile } from 'node:fs/promises';
import { expect, it } from 'vitest';
import { PINS, pinned, type Pins } from '../src/pin.ts';

it('pictures of the demo are those of this version of the renderer, byte for byte, on one thread or two', async () => {
  const kept = JSON.parse(await readFile(PINS, 'utf8')) as Pins;
  expect(Object.keys(kept.pictures).length).toBeGreaterThan(5);
  // when this fails: raise RENDERER, say why in CHANGELOG.md, and run npm run pin
  expect(await pinned(2, 1)).toEqual([kept, kept]);
});
