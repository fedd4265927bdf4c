/** What a trial came to. */
export interface Outcome {
  trial: string;
  done: number;
  held: number;
  /** What was lost or broken, in words. */
  lost: string[];
  note?: string;
}

/** Runs single tries until they are done or time is up. */
export async function tries(
  trial: string,
  count: number,
  deadline: number,
  one: (i: number) => Promise<string | null>,
): Promise<Outcome> {
  const outcome: Outcome = { trial, done: 0, held: 0, lost: [] };
  for (let i = 0; i < count && performance.now() < deadline; i++) {
    const lost = await one(i).catch((error: unknown) => `the trial itself failed: ${String(error)}`);
    outcome.done++;
    if (lost === null) outcome.held++;
    else outcome.lost.push(lost);
  }
  if (outcome.done < count) outcome.note = `time was up at ${outcome.done} of ${count}`;
  return outcome;
}

export function printTable(outcomes: Outcome[]): void {
  const rows = [
    ['trial', 'done', 'held', 'lost', ''],
    ...outcomes.map((o) => [o.trial, String(o.done), String(o.held), String(o.lost.length), o.note ?? '']),
  ];
  const widths = rows[0].map((_, k) => Math.max(...rows.map((r) => r[k].length)));
  for (const row of rows)
    process.stdout.write(
      `${row.map((cell, k) => (k === 0 || k === 4 ? cell.padEnd(widths[k]) : cell.padStart(widths[k]))).join('  ')}\n`,
    );
  for (const { trial, lost } of outcomes)
    for (const [what, count] of [...counted(lost)].slice(0, 10))
      process.stdout.write(`  ${trial}: ${what} (${count})\n`);
}

function counted(texts: string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return counts;
}
