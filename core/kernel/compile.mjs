// Compiles the ray kernel twice: over shared memory (several threads on one scene) and over private memory.
import asc from 'assemblyscript/asc';
import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));
mkdirSync(join(here, 'build'), { recursive: true });

const common = [
  '--enable',
  'simd',
  '-O3',
  '--noAssert',
  '--runtime',
  'stub',
  '--importMemory',
  '--bindings',
  'none',
];
const variants = [
  ['kernel.wasm', []],
  ['kernel-shared.wasm', ['--enable', 'threads', '--sharedMemory', '--maximumMemory', '32768']],
];
for (const [name, extra] of variants) {
  const { error, stderr } = await asc.main([
    join(here, 'assembly/index.ts'),
    '--outFile',
    join(here, 'build', name),
    '--initialMemory',
    '16',
    ...common,
    ...extra,
  ]);
  if (error) {
    console.error(stderr.toString());
    process.exit(1);
  }
}
