// Changes one line of core at a time and looks whether the tests notice: node tools/mutate.mjs [lines] [seed]
// Each change is tried against the tests of the files that import the changed one; prints what went unnoticed.
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const [count = '30', seed = '1'] = process.argv.slice(2);

function seeded(start) {
  let a = start >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
const random = seeded(Number(seed));

/** What a line may be changed to: one token for its opposite or neighbour. */
const CHANGES = [
  [/ < /, ' >= '],
  [/ > /, ' <= '],
  [/ <= /, ' > '],
  [/ >= /, ' < '],
  [/ === /, ' !== '],
  [/ !== /, ' === '],
  [/ && /, ' || '],
  [/ \|\| /, ' && '],
  [/ \+ /, ' - '],
  [/ - /, ' + '],
  [/ \* /, ' / '],
  [/ \/ /, ' * '],
  [/Math\.min\(/, 'Math.max('],
  [/Math\.max\(/, 'Math.min('],
  [/\b0\.5\b/, '0.6'],
  [/return true;/, 'return false;'],
  [/\+= /, '-= '],
];

const files = readdirSync('core/src', { recursive: true })
  .map((f) => join('core/src', String(f)))
  .filter((f) => f.endsWith('.ts') && !f.endsWith('.d.ts'));
const places = files.flatMap((file) =>
  readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((line, i) =>
      /^\s*(\/\/|\*|\/\*|import|export \*|export type|export interface)/.test(line) ||
      !CHANGES.some(([from]) => from.test(line))
        ? []
        : [{ file, line: i }],
    ),
);

let noticed = 0;
const missed = [];
for (let n = 0; n < Number(count); n++) {
  const { file, line } = places[Math.floor(random() * places.length)];
  const text = readFileSync(file, 'utf8');
  const lines = text.split('\n');
  const fitting = CHANGES.filter(([from]) => from.test(lines[line]));
  const [from, to] = fitting[Math.floor(random() * fitting.length)];
  const before = lines[line];
  lines[line] = before.replace(from, to);
  writeFileSync(file, lines.join('\n'));
  try {
    const { status } = spawnSync(
      'npx',
      ['vitest', 'related', '--run', '--project', 'unit', '--bail=1', '--reporter=dot', file],
      { encoding: 'utf8', timeout: 900_000 },
    );
    if (status === 0) missed.push(`${file}:${line + 1}\n  - ${before.trim()}\n  + ${lines[line].trim()}`);
    else noticed++;
  } finally {
    writeFileSync(file, text);
  }
  process.stdout.write(`${n + 1}: ${noticed} noticed, ${missed.length} not\n`);
}
for (const change of missed) process.stdout.write(`\nnot noticed: ${change}\n`);
process.stdout.write(`\n${noticed} of ${count} noticed\n`);
