// What files of tests cost in processor time: their own process and all it started, threads, browsers and servers included.
import { appendFileSync, mkdirSync, readFileSync, readdirSync } from 'node:fs';
import { dirname, relative } from 'node:path';

/** The kernel counts in hundredths of a second (proc(5), USER_HZ). */
const TICKS = 100;
const LEDGER = '.data/results/costs.jsonl';

/** Parent and spent ticks of every process that is alive; what has ended is in its parent's. */
function processes() {
  const all = new Map();
  for (const pid of readdirSync('/proc')) {
    if (!/^\d+$/.test(pid)) continue;
    try {
      // the name may hold spaces and brackets: fields are counted from the last bracket on
      const fields = readFileSync(`/proc/${pid}/stat`, 'utf8')
        .replace(/^.*\) /s, '')
        .split(' ');
      const ticks = fields.slice(11, 15).reduce((sum, field) => sum + Number(field), 0);
      all.set(Number(pid), { parent: Number(fields[1]), ticks });
    } catch {
      // it ended meanwhile
    }
  }
  return all;
}

/** Processor seconds that a process and all below it have spent so far; 0 where there is no /proc. */
export function spentBy(root) {
  let all;
  try {
    all = processes();
  } catch {
    return 0;
  }
  const isBelow = (pid) => {
    for (let at = pid; at > 1; at = all.get(at)?.parent ?? 0) if (at === root) return true;
    return false;
  };
  let ticks = 0;
  for (const [pid, process] of all) if (isBelow(pid)) ticks += process.ticks;
  return ticks / TICKS;
}

/** Writes down what a part of a file of tests cost, in processor seconds. */
export function writeCost(file, seconds) {
  mkdirSync(dirname(LEDGER), { recursive: true });
  appendFileSync(LEDGER, `${JSON.stringify({ file: relative(process.cwd(), file), seconds })}\n`);
}

/** The dearest files of what was written down, as lines; the sum of all in the first. */
export function dearest(count) {
  let lines;
  try {
    lines = readFileSync(LEDGER, 'utf8').trim().split('\n');
  } catch {
    return [];
  }
  const sums = new Map();
  for (const line of lines) {
    const { file, seconds } = JSON.parse(line);
    sums.set(file, (sums.get(file) ?? 0) + seconds);
  }
  const rows = [...sums].sort((a, b) => b[1] - a[1]);
  const all = rows.reduce((sum, row) => sum + row[1], 0);
  return [
    `${all.toFixed(0)} s of processor time in ${rows.length} files, the ${Math.min(count, rows.length)} dearest:`,
    ...rows.slice(0, count).map(([file, seconds]) => `${seconds.toFixed(1).padStart(8)} s  ${file}`),
  ];
}
