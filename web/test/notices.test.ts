import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { notify, ongoing, useNotices } from '../src/state/notices.ts';

const texts = () => useNotices.getState().list.map((n) => n.text);

describe('messages at the foot of the stage', () => {
  beforeEach(() => {
    vi.useFakeTimers();
    useNotices.setState({ list: [] });
  });
  afterEach(() => void vi.useRealTimers());

  it('are the newest three, each once, and go by themselves', () => {
    for (const text of ['one', 'two', 'three', 'two', 'four']) notify('done', text);
    expect(texts()).toEqual(['three', 'two', 'four']);
    vi.advanceTimersByTime(6001);
    expect(texts()).toEqual([]);
  });

  it('that tell of what goes on are never pushed out, and can be stopped until it ends', () => {
    const stop = vi.fn();
    const made = ongoing('Baking', stop);
    for (const text of ['one', 'two', 'three', 'four']) notify('problem', text);
    expect(texts()).toEqual(['Baking', 'two', 'three', 'four']);
    made.say('Baking, half done');
    notify('done', 'Baking, half done');
    vi.advanceTimersByTime(60_000);
    expect(texts()).toEqual(['Baking, half done']);
    useNotices.getState().list[0].action!.run();
    expect(stop).toHaveBeenCalledOnce();
    made.end();
    expect(texts()).toEqual([]);
  });
});
