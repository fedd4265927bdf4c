// Makes core/src/finish/energyTables.ts: node --import tsx tools/energy.ts
// Every entry is an integral over the visible normals of a GGX surface (Dupuy & Benyoub 2023), on a grid.
import { writeFileSync } from 'node:fs';
import {
  ANGLES,
  ANISOTROPIES,
  cosineOf,
  ENERGY_ENTRIES,
  INDICES,
  MOST_RATIO,
  ROUGHNESSES,
  widths,
} from '../core/src/finish/energy.ts';
import { POINTS, returned } from '../core/test/finish/energyIntegral.ts';

const out = Buffer.alloc(ENERGY_ENTRIES * 2);
let at = 0;
const keep = (share: number) => {
  out.writeUInt16LE(Math.round(Math.min(1, Math.max(0, share)) * 65535), at);
  at += 2;
};
/** The grazing end is kept off zero. */
const cosine = (i: number) => Math.max(1e-3, cosineOf(i));
const roughness = (r: number) => r / (ROUGHNESSES - 1);

for (let a = 0; a < ANISOTROPIES; a++)
  for (let r = 0; r < ROUGHNESSES; r++) {
    const [x, y] = widths(roughness(r), a / (ANISOTROPIES - 1));
    for (let i = 0; i < ANGLES; i++) keep(returned('mirror', x, y, 1.5, cosine(i)));
  }
for (const what of ['reflected', 'outside', 'inside'] as const)
  for (let k = 0; k < INDICES; k++) {
    const ratio = (MOST_RATIO * k) / (INDICES - 1);
    const index = Math.max(1.0001, (1 + ratio) / (1 - ratio));
    for (let r = 0; r < ROUGHNESSES; r++) {
      const [x, y] = widths(roughness(r), 0);
      for (let i = 0; i < ANGLES; i++) keep(returned(what, x, y, index, cosine(i)));
    }
  }
for (const turn of [0, Math.PI / 2])
  for (let a = 0; a < ANISOTROPIES; a++)
    for (let r = 0; r < ROUGHNESSES; r++) {
      const [x, y] = widths(roughness(r), a / (ANISOTROPIES - 1));
      for (let i = 0; i < ANGLES; i++) keep(returned('mirror', x, y, 1.5, cosine(i), POINTS, [turn]));
    }

writeFileSync(
  'core/src/finish/energyTables.ts',
  `/** Written by tools/energy.ts; see energy.ts for what it holds. Numbers of two bytes, the low one first. */\n` +
    `// prettier-ignore\nexport const ENERGY =\n  '${out.toString('base64')}';\n`,
);
