/** This tab's own name, which lasts over reloads, and which other tabs are open. */
import { newId } from '@wemlox/core/document';

const KEY = 'wemlox-tab';
const lockOf = (tab: string) => `wemlox-tab/${tab}`;
/** A tab that reloads still holds its name for a moment, milliseconds. */
const PATIENCE = 400;

/** Holds a name for as long as the page lives; false when another tab has it, as a duplicated one does. */
function held(tab: string): Promise<boolean> {
  return new Promise((resolve) => {
    navigator.locks
      .request(lockOf(tab), { signal: AbortSignal.timeout(PATIENCE) }, () => {
        resolve(true);
        return new Promise(() => {});
      })
      .catch(() => resolve(false));
  });
}

async function named(): Promise<string> {
  const before = sessionStorage.getItem(KEY);
  const locks = 'locks' in navigator;
  const tab = before !== null && (!locks || (await held(before))) ? before : newId();
  if (tab !== before) {
    sessionStorage.setItem(KEY, tab);
    if (locks) await held(tab);
  }
  return tab;
}

let own: Promise<string> | undefined;
export const thisTab = (): Promise<string> => (own ??= named());

/** Names of all tabs that are open now. */
export async function openTabs(): Promise<Set<string>> {
  const found = new Set([await thisTab()]);
  if ('locks' in navigator)
    for (const { name } of (await navigator.locks.query()).held ?? [])
      if (name?.startsWith(lockOf(''))) found.add(name.slice(lockOf('').length));
  return found;
}
