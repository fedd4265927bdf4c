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

  it('does not take a drawing that held the page for hands that rested', () => {
    const pace = new DraftPace(true, () => undefined);
    pace.share(1000);
    pace.shown(1480);
    expect(pace.share(1485)).toBe(0.5);
    pace.shown(1600);
    expect(pace.share(1850)).toBe(1);
  });

  it('leaves the processor to a traced picture that is awaited, and is finished after it', () => {
    const rested = vi.fn();
    const pace = new DraftPace(true, rested);
    pace.setAwaiting(true);
    expect(shares(pace, [1000, 1016, 1500])).toEqual([0.5, 0.5, 0.5]);
    vi.advanceTimersByTime(5000);
    expect(rested).not.toHaveBeenCalled();
    pace.setAwaiting(false);
    vi.advanceTimersByTime(250);
    expect(rested).toHaveBeenCalledOnce();
    expect(pace.share(8000)).toBe(1);
    const swift = new DraftPace(false, () => undefined);
    swift.setAwaiting(true);
    expect(shares(swift, [1000, 1016])).toEqual([1, 1]);
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
