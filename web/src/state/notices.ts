/** Short messages at the foot of the stage: what went wrong or was done, and perhaps a way back. */
import { create } from 'zustand';

interface Notice {
  id: number;
  text: string;
  kind: 'done' | 'problem';
  action?: { label: string; run: () => void };
  /** It stands until what it tells of has ended. */
  goesOn?: true;
}

export const useNotices = create<{ list: Notice[] }>()(() => ({ list: [] }));

let next = 1;
const LASTS = { done: 6000, problem: 15_000 };
/** The same where something can be done about it: there must be time to read it and to go there. */
const OFFERS = 15_000;

/** Most messages at a time that pass by themselves. */
const MOST = 3;

/** All that goes on, and the newest of all else. */
function room(list: readonly Notice[]): Notice[] {
  const passed = list.filter((n) => !n.goesOn).slice(0, -MOST);
  return list.filter((n) => !passed.includes(n));
}

export const dismiss = (id: number) =>
  useNotices.setState((s) => ({ list: s.list.filter((n) => n.id !== id) }));

export function notify(kind: Notice['kind'], text: string, action?: Notice['action']): void {
  const id = next++;
  useNotices.setState((s) => ({
    list: room([...s.list.filter((n) => n.text !== text || n.goesOn), { id, text, kind, action }]),
  }));
  setTimeout(() => dismiss(id), action ? OFFERS : LASTS[kind]);
}

/** Says how something goes on, until it has ended. @param stop calls it off */
export function ongoing(text: string, stop: () => void): { say: (text: string) => void; end: () => void } {
  const id = next++;
  const notice: Notice = { id, text, kind: 'done', action: { label: 'Stop', run: stop }, goesOn: true };
  useNotices.setState((s) => ({ list: room([...s.list, notice]) }));
  return {
    say: (text) =>
      useNotices.setState((s) => ({ list: s.list.map((n) => (n.id === id ? { ...n, text } : n)) })),
    end: () => dismiss(id),
  };
}

/** Runs something that may fail and says so when it does. */
export async function attempt<T>(what: string, work: () => Promise<T>): Promise<T | null> {
  try {
    return await work();
  } catch (error) {
    notify('problem', `${what}: ${error instanceof Error ? error.message : String(error)}`);
    return null;
  }
}
