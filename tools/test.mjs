// Runs every kind of test and ends with one line: "N passed, N failed". Needs DATABASE_URL of an empty server.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';

const results = '.data/results';
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
let passed = 0;
let failed = 0;

function run(title, args, env = {}) {
  process.stdout.write(`\n== ${title}\n`);
  const started = Date.now();
  const [command, first] =
    args[0] === 'node' ? [process.execPath, args.slice(1)] : ['npx', ['--no-install', ...args]];
  const { status } = spawnSync(command, first, {
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  process.stdout.write(`-- ${title}: ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
  return status === 0;
}

function check(title, args) {
  if (run(title, args)) passed++;
  else failed++;
}

/** A suite that leaves a report; one that fails without failed tests counts as one failure. */
function suite(title, args, file, count, env) {
  const ok = run(title, args, env);
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
check('types', ['tsc', '-p', 'tsconfig.json']);
check('indexed access', ['node', 'tools/indexed.mjs']);
check('lint', ['eslint', '.']);
check('format', ['prettier', '--check', '.', '--log-level', 'warn']);
check('imports', [
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
suite('unit', unit('unit'), `${results}/unit.json`, vitest);
suite('database', unit('database'), `${results}/database.json`, vitest);
suite(
  'journeys',
  ['playwright', 'test', '-c', 'journeys/playwright.config.ts'],
  `${results}/journeys.json`,
  ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }),
  { PLAYWRIGHT_JSON_OUTPUT_NAME: `${process.cwd()}/${results}/journeys.json` },
);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
