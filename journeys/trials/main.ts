/** ./wemlox trials [minutes]: tries to break the studio, and says what held. Ends by itself, after 14 minutes at most. */
import 'reflect-metadata';
import type { Project } from '@wemlox/core/document';
import { OwnStudio } from '../server.ts';
import { dayOfDragging } from './day.ts';
import { fuzzDocuments, fuzzFiles } from './fuzz.ts';
import { nodeKills, postmasterKills, serverKills } from './kills.ts';
import { printTable, type Outcome } from './table.ts';

const MINUTES = Math.min(14, Number(process.argv[2] ?? 14) || 14);
const deadline = performance.now() + MINUTES * 60_000;
const outcomes: Outcome[] = [];
const folder = process.env.WEMLOX_CLUSTER;
const say = (...made: Outcome[]) => {
  outcomes.push(...made);
  for (const { trial, done, held } of made) process.stderr.write(`${trial}: ${held} of ${done} held\n`);
};

say(await serverKills(30, deadline));
if (folder) say(await postmasterKills(5, deadline, folder));
const studio = await OwnStudio.open();
const document = (await studio.document('ostrel')) as Project;
say(await fuzzDocuments(studio, 20_000, deadline));
say(...(await fuzzFiles(studio, 2000, deadline)));
await studio.end();
say(await dayOfDragging(document, deadline));
say(await nodeKills(10, deadline));
printTable(outcomes);
process.exit(outcomes.every((o) => o.lost.length === 0) ? 0 : 1);
