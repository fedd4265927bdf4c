// Compiles the kernel over shared memory (several threads on one scene) and over private memory, and the denoiser.
import asc from 'assemblyscript/asc';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { assemblyScript, LAYOUT, typeScript } from './layout.mjs';

const here = dirname(fileURLToPath(import.meta.url));
mkdirSync(join(here, 'build'), { recursive: true });
writeFileSync(join(here, 'assembly/layout.ts'), assemblyScript());
writeFileSync(join(here, '../src/trace/kernelLayout.ts'), typeScript());

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
const shared = ['--enable', 'threads', '--sharedMemory', '--maximumMemory', String(LAYOUT.MOST_PAGES[0])];
const variants = [
  ['kernel.wasm', 'assembly', []],
  ['kernel-shared.wasm', 'assembly', shared],
  ['denoise-shared.wasm', 'denoise', shared],
];
for (const [name, folder, extra] of variants) {
  const { error, stderr } = await asc.main([
    join(here, folder, 'index.ts'),
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
