/** ./wemlox bench edit|api|draft [--json FILE]: what needs a database, and for edits and the draft a real browser. */
import 'reflect-metadata';
import { writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { print, type Report } from '@wemlox/render/bench/report';
import { benchApi } from './api.ts';
import { benchDraft } from './draft.ts';
import { benchEdit } from './edit.ts';

const { values, positionals } = parseArgs({ allowPositionals: true, options: { json: { type: 'string' } } });
const BENCHES: Record<string, () => Promise<Report>> = { edit: benchEdit, api: benchApi, draft: benchDraft };
const bench = positionals.length === 1 ? BENCHES[positionals[0]] : undefined;
if (!bench) {
  process.stderr.write('wemlox bench: edit, api and draft each run alone, as they need a database\n');
  process.exit(2);
}
const report = await bench();
print(report);
if (values.json) await writeFile(values.json, JSON.stringify(report, null, 1));
