// Changes one line of core at a time and looks whether the tests notice: node tools/mutate.mjs [lines] [seed]
// Each change is tried against the tests of the files that import the changed one; prints what went unnoticed.
import { spawn } from 'node:child_process';
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

/** A change that makes a loop endless counts as noticed: the tests would never pass. */
const LONGEST = 1_500_000;

/** Whether the tests that import a file pass; ends them with all they started when they take too long. */
const testsPass = (file) =>
  new Promise((resolve) => {
    const tests = spawn(
      'npx',
      ['vitest', 'related', '--run', '--project', 'unit', '--bail=1', '--reporter=dot', file],
      { stdio: 'ignore', detached: true },
    );
    const clock = setTimeout(() => process.kill(-tests.pid, 'SIGKILL'), LONGEST);
    tests.on('exit', (status) => {
      clearTimeout(clock);
      resolve(status === 0);
    });
  });

if (!(await testsPass('core/src/picture/glow.ts')))
  throw new Error('the tests fail before anything is changed');
let noticed = 0;
for (let n = 1; n <= Number(count); n++) {
  const { file, line } = places[Math.floor(random() * places.length)];
  const text = readFileSync(file, 'utf8');
  const lines = text.split('\n');
  const fitting = CHANGES.filter(([from]) => from.test(lines[line]));
  const [from, to] = fitting[Math.floor(random() * fitting.length)];
  const before = lines[line];
  lines[line] = before.replace(from, to);
  writeFileSync(file, lines.join('\n'));
  let passed;
  try {
    passed = await testsPass(file);
  } finally {
    writeFileSync(file, text);
  }
  if (!passed) noticed++;
  const change = `${file}:${line + 1}\n  - ${before.trim()}\n  + ${lines[line].trim()}\n`;
  process.stdout.write(`${noticed} of ${n}${passed ? `; not noticed: ${change}` : '\n'}`);
}
