// Types with checked indexed access (noUncheckedIndexedAccess), in the rooms where it costs nothing.
import { spawnSync } from 'node:child_process';

/** The rest of core, render and the page go through typed arrays in loops, where the checks would check nothing. */
const ROOMS = /^(wire|store|server)\/src\/|^core\/src\/(document|edits|preflight)\//;

const TSC = 'node_modules/typescript-native/bin/tsc';

const { status, stdout } = spawnSync(
  process.execPath,
  [TSC, '-p', 'tsconfig.json', '--noUncheckedIndexedAccess'],
  {
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  },
);
if (status !== 0 && !stdout) throw new Error(`${TSC} did not run`);
const found = stdout.split('\n').filter((line) => ROOMS.test(line));
for (const line of found) process.stdout.write(`${line}\n`);
process.exit(found.length > 0 ? 1 : 0);
