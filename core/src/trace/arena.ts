/** Blocks of a kernel's memory: the first gap that is large enough is taken, neighbours that are free join. */
import { FLOOR, MOST_PAGES } from './kernelLayout.ts';

const PAGE = 65536;
/** Blocks begin at multiples of this: a line of the cache. */
const LINE = 64;

const rounded = (bytes: number) => Math.ceil(Math.max(1, bytes) / LINE) * LINE;

export class Arena {
  readonly memory: WebAssembly.Memory;
  /** Free stretches by address. */
  private free: { at: number; bytes: number }[];
  private readonly taken = new Map<number, number>();
  private end: number;

  constructor(memory: WebAssembly.Memory) {
    this.memory = memory;
    this.end = memory.buffer.byteLength;
    this.free = [{ at: FLOOR, bytes: this.end - FLOOR }];
  }

  /** Bytes in use. */
  get used(): number {
    let sum = 0;
    for (const bytes of this.taken.values()) sum += bytes;
    return sum;
  }

  /** @throws RangeError when the memory cannot hold it */
  allocate(wanted: number): number {
    const bytes = rounded(wanted);
    let gap = this.free.findIndex((f) => f.bytes >= bytes);
    if (gap < 0) {
      this.grow(bytes);
      gap = this.free.findIndex((f) => f.bytes >= bytes);
    }
    const { at } = this.free[gap];
    if (this.free[gap].bytes === bytes) this.free.splice(gap, 1);
    else this.free[gap] = { at: at + bytes, bytes: this.free[gap].bytes - bytes };
    this.taken.set(at, bytes);
    return at;
  }

  release(at: number): void {
    const bytes = this.taken.get(at);
    if (bytes === undefined) throw new RangeError(`nothing was taken at ${at}`);
    this.taken.delete(at);
    this.insert(at, bytes);
  }

  private insert(at: number, bytes: number): void {
    let i = this.free.findIndex((f) => f.at > at);
    if (i < 0) i = this.free.length;
    this.free.splice(i, 0, { at, bytes });
    const next = this.free[i + 1];
    if (next && at + bytes === next.at) {
      this.free[i].bytes += next.bytes;
      this.free.splice(i + 1, 1);
    }
    const before = this.free[i - 1];
    if (before && before.at + before.bytes === at) {
      before.bytes += this.free[i].bytes;
      this.free.splice(i, 1);
    }
  }

  private grow(bytes: number): void {
    const pages = Math.ceil(bytes / PAGE);
    if (this.end + pages * PAGE > MOST_PAGES * PAGE)
      throw new RangeError(`the scene does not fit into the kernel's memory of 2 GiB`);
    this.memory.grow(pages);
    this.insert(this.end, pages * PAGE);
    this.end += pages * PAGE;
  }

  floats(at: number, count: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, count);
  }

  words(at: number, count: number): Int32Array {
    return new Int32Array(this.memory.buffer, at, count);
  }
}
