// Around each file of tests: what it cost in processor time is written down.
import { afterAll, beforeAll, expect } from 'vitest';
import { spentBy, writeCost } from './cost.mjs';

let before = 0;
beforeAll(() => {
  before = spentBy(process.pid);
});
afterAll(() => {
  writeCost(expect.getState().testPath!, spentBy(process.pid) - before);
});
