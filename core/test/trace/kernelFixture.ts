import { readFileSync } from 'node:fs';
import { Kernel, kernelMemory } from '../../src/trace/kernel.ts';
import { SceneMemory } from '../../src/trace/sceneMemory.ts';
import { soupScene } from '../../src/scene/soup.ts';

const bytes = readFileSync(new URL('../../kernel/build/kernel.wasm', import.meta.url));
export const kernelModule = new WebAssembly.Module(bytes);

/** A kernel over a triangle soup, ready to trace. */
export function kernelOver(positions: Float32Array): Kernel {
  const memory = kernelMemory(false);
  return new Kernel(
    kernelModule,
    memory,
    new SceneMemory(kernelModule, memory, 1).take(soupScene(positions)),
    0,
  );
}

/** A small seeded generator for tests (mulberry32). */
export function seeded(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = Math.imul(s ^ (s >>> 15), 1 | s);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
