/** Workers that answer in the page's own thread, for tests of those who ask them. */
import { vi } from 'vitest';

type Listener = (event: { data: unknown }) => void;

/** One fake worker: what it was sent, and how to answer. */
export class FakeWorker {
  /** All that were opened, in order. */
  static all: FakeWorker[] = [];
  /** What a worker of a file answers to a message; undefined leaves it waiting. */
  static answers: (file: string, message: never) => unknown = () => undefined;

  readonly file: string;
  readonly sent: unknown[] = [];
  ended = false;
  onmessage: Listener | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  private readonly listeners = new Map<string, Set<{ tell: Listener; once: boolean }>>();

  constructor(url: URL) {
    this.file = url.pathname.split('/').at(-1)!;
    FakeWorker.all.push(this);
  }

  addEventListener(type: string, tell: Listener, options?: { once?: boolean }): void {
    const own = this.listeners.get(type) ?? new Set();
    this.listeners.set(type, own.add({ tell, once: options?.once === true }));
  }

  postMessage(message: unknown): void {
    this.sent.push(message);
    const answer = FakeWorker.answers(this.file, message as never);
    if (answer !== undefined) queueMicrotask(() => this.say(answer));
  }

  /** Answers, or speaks by itself. */
  say(data: unknown): void {
    this.onmessage?.({ data });
    for (const listener of [...(this.listeners.get('message') ?? [])]) {
      if (listener.once) this.listeners.get('message')!.delete(listener);
      listener.tell({ data });
    }
  }

  fail(message: string): void {
    this.onerror?.({ message });
    for (const { tell } of this.listeners.get('error') ?? []) (tell as (e: unknown) => void)({ message });
  }

  terminate(): void {
    this.ended = true;
  }

  /** Those of a file. */
  static of(file: string): FakeWorker[] {
    return FakeWorker.all.filter((w) => w.file === file);
  }

  /** Puts fakes in the place of all workers. */
  static install(): void {
    FakeWorker.all = [];
    FakeWorker.answers = () => undefined;
    vi.stubGlobal('Worker', FakeWorker);
  }
}
