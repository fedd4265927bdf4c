/** Reads foreign files away from the server, in processes with a ceiling on memory and time. */
import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { inWords, READING } from '@wemlox/core/ceilings';
import { READER } from '../programs.ts';
import { Refusal } from '../problem.ts';
import {
  UnreadableError,
  type ReadAsset,
  type ReadingAnswer,
  type ReadingJob,
  type ReadProject,
} from './jobs.ts';

/** Milliseconds between looks at what a process uses. */
const LOOK = 100;
/** Linux counts processor time in hundredths of a second and memory in pages of 4 KB. */
const TICKS = 100;
const PAGE = 4096;

/** Processor seconds and resident bytes of a process; null when it is gone (proc(5): stat, statm). */
function useOf(pid: number): { cpu: number; memory: number } | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'latin1');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    const memory = Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]) * PAGE;
    return { cpu: (Number(fields[11]) + Number(fields[12])) / TICKS, memory };
  } catch {
    return null;
  }
}

export class Readers {
  private readonly most: number;
  private readonly idle: ChildProcess[] = [];
  private readonly all = new Set<ChildProcess>();
  private readonly waiting: (() => void)[] = [];
  private busy = 0;
  private closed = false;
  private readonly ceilings: typeof READING;

  /** @param most processes at once */
  constructor(most = 2, ceilings = READING) {
    this.most = most;
    this.ceilings = ceilings;
  }

  /** Has a process ready before the first file comes. */
  warm(): void {
    if (this.all.size === 0) this.idle.push(this.spawned());
  }

  close(): void {
    this.closed = true;
    for (const child of this.all) child.kill('SIGKILL');
  }

  /**
   * Reads a file.
   * @throws UnreadableError naming what is wrong with it, or which ceiling it passed
   * @throws Refusal when too many files wait
   */
  read(job: Extract<ReadingJob, { kind: 'project' }>): Promise<ReadProject>;
  read(job: Exclude<ReadingJob, { kind: 'project' }>): Promise<ReadAsset>;
  async read(job: ReadingJob): Promise<ReadProject | ReadAsset> {
    if (this.waiting.length >= this.ceilings.waiting)
      throw new Refusal(503, 'too many files are being read; try again in a moment');
    if (this.busy >= this.most) await new Promise<void>((go) => this.waiting.push(go));
    this.busy++;
    try {
      const answer = await this.answered(this.idle.pop() ?? this.spawned(), job);
      if ('unreadable' in answer) throw new UnreadableError(answer.unreadable);
      return answer.done;
    } finally {
      this.busy--;
      this.waiting.shift()?.();
    }
  }

  private spawned(): ChildProcess {
    const child = fork(READER, {
      execArgv: [`--max-old-space-size=${this.ceilings.heap >> 20}`],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      serialization: 'advanced',
    });
    this.all.add(child);
    child.once('exit', () => {
      this.all.delete(child);
      const at = this.idle.indexOf(child);
      if (at >= 0) this.idle.splice(at, 1);
    });
    child.on('error', () => child.kill('SIGKILL'));
    return child;
  }

  private answered(child: ChildProcess, job: ReadingJob): Promise<ReadingAnswer> {
    return new Promise((resolve) => {
      const before = useOf(child.pid!)?.cpu ?? 0;
      const started = performance.now();
      let ceiling = '';
      const look = setInterval(() => {
        const use = useOf(child.pid!);
        if (!use) return;
        if (use.memory > this.ceilings.memory) ceiling = `${inWords(this.ceilings.memory)} of memory`;
        else if (use.cpu - before > this.ceilings.cpuSeconds)
          ceiling = `${this.ceilings.cpuSeconds} seconds of computing`;
        else if (performance.now() - started > this.ceilings.seconds * 1000)
          ceiling = `${this.ceilings.seconds} seconds`;
        if (ceiling) child.kill('SIGKILL');
      }, LOOK);
      const settle = (answer: ReadingAnswer) => {
        clearInterval(look);
        child.off('message', settle);
        child.off('exit', ended);
        resolve(answer);
      };
      const ended = () => {
        const why = ceiling
          ? `reading it takes more than ${ceiling}`
          : `reading it takes more than ${inWords(this.ceilings.heap)} of memory, or breaks the reader`;
        settle({ unreadable: { title: 'Not a usable file', message: `the file is not taken: ${why}` } });
      };
      child.once('exit', ended);
      child.once('message', (answer: ReadingAnswer) => {
        if (!this.closed) this.idle.push(child);
        settle(answer);
      });
      child.send(job);
    });
  }
}
