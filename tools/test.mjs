// Runs every kind of test and ends with one line: "N passed, N failed". Needs DATABASE_URL of an empty server.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dearest } from './cost.mjs';

const results = '.data/results';
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
let passed = 0;
let failed = 0;

/** Runs a command to its end, and prints what it said when it is over: two may run beside each other. */
function run(title, args, env = {}) {
  const started = Date.now();
  const [command, rest] =
    args[0] === 'node' ? [process.execPath, args.slice(1)] : ['npx', ['--no-install', ...args]];
  return new Promise((done) => {
    const child = spawn(command, rest, {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => said.push(part));
    child.on('error', (error) => said.push(Buffer.from(`${error.message}\n`)));
    child.on('close', (status) => {
      process.stdout.write(`\n== ${title}\n`);
      process.stdout.write(Buffer.concat(said));
      process.stdout.write(`-- ${title}: ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
      done(status === 0);
    });
  });
}

async function check(title, args) {
  if (await run(title, args)) passed++;
  else failed++;
}

/** A suite that leaves a report; one that fails without failed tests counts as one failure. */
async function suite(title, args, file, count, env) {
  const ok = await run(title, args, env);
  let counts = { passed: 0, failed: 0 };
  try {
    counts = count(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    process.stdout.write(`${title}: no report was written\n`);
  }
  passed += counts.passed;
  failed += counts.failed || (ok ? 0 : 1);
}

const vitest = (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests });
const unit = (project) => [
  'vitest',
  'run',
  '--project',
  project,
  '--reporter=dot',
  '--reporter=json',
  `--outputFile.json=${results}/${project}.json`,
];

async function checks() {
  await check('types', ['node', 'node_modules/typescript-native/bin/tsc', '-p', 'tsconfig.json']);
  await check('indexed access', ['node', 'tools/indexed.mjs']);
  await check('lint', ['eslint', '.']);
  await check('format', ['prettier', '--check', '.', '--log-level', 'warn']);
  await check('imports', [
    'depcruise',
    'core',
    'wire',
    'store',
    'server',
    'render',
    'web',
    'demo',
    'journeys',
    '--config',
    '.dependency-cruiser.cjs',
  ]);
}

// the database's tests wait for processes more than they compute: the checks run meanwhile
await Promise.all([checks(), suite('database', unit('database'), `${results}/database.json`, vitest)]);
await suite('unit', unit('unit'), `${results}/unit.json`, vitest);
await suite(
  'journeys',
  ['playwright', 'test', '-c', 'journeys/playwright.config.ts'],
  `${results}/journeys.json`,
  ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }),
  { PLAYWRIGHT_JSON_OUTPUT_NAME: `${process.cwd()}/${results}/journeys.json` },
);
process.stdout.write(`\n${dearest(20).join('\n')}\n`);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
