/** Whether the server has its database: asked now and then, so that the page says when it has not. */
import { create } from 'zustand';
import { api, ApiError } from './api.ts';

/** What the server answers: all well, no database for now, or nothing at all. */
export const useHealth = create<{ state: 'well' | 'away' | 'silent' }>()(() => ({ state: 'well' }));

/** Milliseconds between looks: while all is well, and while it is not. */
const WELL = 5000;
const NOT_WELL = 1000;

async function look(): Promise<void> {
  try {
    await api.health();
    useHealth.setState({ state: 'well' });
  } catch (error) {
    useHealth.setState({ state: error instanceof ApiError ? 'away' : 'silent' });
  }
}

/** Watches until the returned function is called; hidden pages do not ask. */
export function watchHealth(): () => void {
  let ended = false;
  let timer: ReturnType<typeof setTimeout>;
  const next = () => {
    timer = setTimeout(
      () => void (document.hidden ? Promise.resolve() : look()).then(() => !ended && next()),
      useHealth.getState().state === 'well' ? WELL : NOT_WELL,
    );
  };
  next();
  return () => {
    ended = true;
    clearTimeout(timer);
  };
}
