// After each file of tests: modules and globals are shared with the next, which would wait for ever on a clock that stands.
import { afterAll, vi } from 'vitest';

afterAll(() => {
  if (!vi.isFakeTimers()) return;
  vi.useRealTimers();
  throw new Error('these tests leave the clock standing: vi.useRealTimers() is missing');
});
