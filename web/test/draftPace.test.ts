import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { DraftPace } from '../src/engine/draftPace.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** Shares of drawings that come at so many milliseconds. */
const shares = (pace: DraftPace, times: readonly number[]) => times.map((t) => pace.share(t));

describe('how finely the draft is drawn', () => {
  it('draws all of it where the driver keeps up with the hands', () => {
    const pace = new DraftPace(false, () => undefined);
    expect(shares(pace, [1000, 1016, 1033, 1050, 1066])).toEqual([1, 1, 1, 1, 1]);
  });

  it('draws half the sides once a driver falls behind, until hands rest', () => {
    const rested = vi.fn();
    const pace = new DraftPace(false, rested);
    expect(shares(pace, [1000, 1120, 1150])).toEqual([1, 0.5, 0.5]);
    vi.advanceTimersByTime(249);
    expect(rested).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1);
    expect(rested).toHaveBeenCalledOnce();
    expect(shares(pace, [1400, 1416])).toEqual([1, 1]);
  });

  it('knows of software that it is slow, and draws in full what comes by itself', () => {
    const pace = new DraftPace(true, () => undefined);
    expect(shares(pace, [1000, 1010, 1020, 2000])).toEqual([1, 0.5, 0.5, 1]);
  });

  it('stays coarse while pictures follow each other slowly, and is finished when they stop', () => {
    const rested = vi.fn();
    const pace = new DraftPace(true, rested);
    pace.setPlaying(true);
    expect(shares(pace, [1000, 1400, 1800])).toEqual([0.5, 0.5, 0.5]);
    vi.advanceTimersByTime(1000);
    expect(rested).not.toHaveBeenCalled();
    pace.setPlaying(false);
    vi.advanceTimersByTime(250);
    expect(rested).toHaveBeenCalledOnce();
    expect(pace.share(2300)).toBe(1);
  });

  it('says nothing once it has ended', () => {
    const rested = vi.fn();
    const pace = new DraftPace(true, rested);
    shares(pace, [1000, 1010]);
    pace.end();
    vi.advanceTimersByTime(1000);
    expect(rested).not.toHaveBeenCalled();
  });
});
