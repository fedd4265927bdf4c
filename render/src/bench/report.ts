/** Measuring in rounds that take turns, so that a busy machine slows both sides alike. */
export interface Row {
  case: string;
  ours: number;
  peer: number | null;
  peerName: string | null;
  ratio: number | null;
  /** Smallest and largest ratio (or value, without a peer) of the rounds. */
  spread: [number, number];
  unit: string;
}

export interface Report {
  bench: string;
  rows: Row[];
}

export const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** CPU seconds of this process that `work` takes. */
export function cpuSeconds(work: () => void): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}

/** Rates of two ways of doing the same, in alternating rounds. `count` things are done a call. */
export function compared(
  name: string,
  unit: string,
  count: number,
  ours: () => void,
  peerName: string,
  peer: () => void,
  peerCount = count,
  rounds = 7,
): Row {
  const a: number[] = [];
  const b: number[] = [];
  ours();
  peer();
  for (let i = 0; i < rounds; i++) {
    a.push(count / cpuSeconds(ours));
    b.push(peerCount / cpuSeconds(peer));
  }
  const ratios = a.map((v, i) => v / b[i]);
  return {
    case: name,
    ours: median(a),
    peer: median(b),
    peerName,
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit,
  };
}

export const alone = (name: string, unit: string, values: number[]): Row => ({
  case: name,
  ours: median(values),
  peer: null,
  peerName: null,
  ratio: null,
  spread: [Math.min(...values), Math.max(...values)],
  unit,
});

const shown = (v: number) =>
  v >= 1e6 ? `${(v / 1e6).toFixed(2)} M` : v >= 100 ? v.toFixed(0) : v.toPrecision(3);

export function print({ bench, rows }: Report): void {
  process.stdout.write(`${bench}\n`);
  for (const r of rows) {
    const ratio = r.ratio === null ? '' : `, ${r.peerName} ${shown(r.peer!)}, ratio ${r.ratio.toFixed(2)}`;
    process.stdout.write(
      `  ${r.case}: ${shown(r.ours)} ${r.unit}${ratio} (${shown(r.spread[0])} … ${shown(r.spread[1])})\n`,
    );
  }
}
