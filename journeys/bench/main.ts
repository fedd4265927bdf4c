/** ./wemlox bench edit [--json FILE]: a keystroke to the new draft frame, in a real browser. */
import { writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { print } from '@wemlox/render/src/bench/report.ts';
import { benchEdit } from './edit.ts';

const { values, positionals } = parseArgs({ allowPositionals: true, options: { json: { type: 'string' } } });
if (positionals.length !== 1 || positionals[0] !== 'edit') {
  process.stderr.write('wemlox bench: edit runs alone, as it needs a browser and a database\n');
  process.exit(2);
}
const report = await benchEdit();
print(report);
if (values.json) await writeFile(values.json, JSON.stringify(report, null, 1));
