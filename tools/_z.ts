import { readFileSync } from 'node:fs';
import { readModel } from '../core/src/model/readModel.ts';
const b = new Uint8Array(readFileSync('/tmp/pl/million.glb'));
const t = performance.now();
const m = await readModel(b);
console.log(m.triangles, performance.now() - t, process.memoryUsage().rss / 1e6);
