/** Worker threads that rest between pictures: starting one takes as long as a small picture. */
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { DenoiseJob } from '@wemlox/core/picture/denoise/denoise';
import type { Eye } from '@wemlox/core/trace/eye';
import type { Film } from '@wemlox/core/trace/film';
import type { PreparedScene } from '@wemlox/core/trace/prepare';

const PROGRAM = new URL('../../build/programs/thread.mjs', import.meta.url);

/** What a thread looks at, and from where. */
interface Subject {
  prepared: PreparedScene;
  view: Eye;
}

/** The kernel a thread works with, on memory that all threads of a work share, and its number among them. */
interface Kernel {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
  lane: number;
}

/** What a thread can be asked. Only passes and denoising take long; `rest` lets go of all that was given. */
export type ThreadOrder =
  | ({ do: 'open'; film: Film; control: Int32Array } & Kernel & Subject)
  | ({ do: 'aim' } & Subject)
  | { do: 'pass'; run: number; first: number; last: number; seed: number }
  | ({ do: 'denoise'; job: DenoiseJob } & Kernel)
  | { do: 'rest' };

export class Thread {
  private readonly worker = new Worker(PROGRAM);
  private waiting: { resolve: (rays: number) => void; reject: (error: Error) => void } | null = null;
  private failure: Error | null = null;

  constructor() {
    this.worker.on('message', (rays: number) => {
      this.waiting?.resolve(rays);
      this.waiting = null;
    });
    this.worker.on('error', (error) => this.fail(error));
    this.worker.on('messageerror', (error) => this.fail(error));
    this.worker.on('exit', (code) => this.fail(new Error(`a thread ended with code ${code}`)));
  }

  get isWell(): boolean {
    return this.failure === null;
  }

  /** @returns rays it traced, when it is done; one order at a time. Fails when the thread does, now or before. */
  ask(order: ThreadOrder): Promise<number> {
    return new Promise((resolve, reject) => {
      if (this.failure) {
        reject(this.failure);
        return;
      }
      this.waiting = { resolve, reject };
      this.worker.postMessage(order);
    });
  }

  /** While it works, the process does not end. */
  wake(): void {
    this.worker.ref();
  }

  rest(): void {
    this.worker.postMessage({ do: 'rest' } satisfies ThreadOrder);
    this.worker.unref();
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }

  private fail(error: Error): void {
    this.failure ??= error;
    this.waiting?.reject(this.failure);
    this.waiting = null;
  }
}

const resting: Thread[] = [];

function woken(): Thread {
  for (let thread = resting.pop(); thread; thread = resting.pop())
    if (thread.isWell) {
      thread.wake();
      return thread;
    }
  return new Thread();
}

/**
 * Does work with so many threads. They rest for the next work when it is done, as many as the machine has processors,
 * and are stopped when it fails, whatever they are at.
 */
export async function withThreads<T>(count: number, work: (threads: Thread[]) => Promise<T>): Promise<T> {
  const threads = Array.from({ length: count }, woken);
  let keep = 0;
  try {
    const result = await work(threads);
    keep = Math.max(0, availableParallelism() - resting.length);
    return result;
  } finally {
    for (const thread of threads.slice(0, keep)) {
      thread.rest();
      resting.push(thread);
    }
    await Promise.all(threads.slice(keep).map((thread) => thread.stop()));
  }
}
