/** What the open project has been: the list of its revisions, and undo that reaches into it. */
import { create } from 'zustand';
import { api } from './api.ts';
import type { RevisionLine } from '@wemlox/wire';
import { history, nameOpened, useStudio } from './studio.ts';

interface Revisions {
  /** Newest first. */
  list: RevisionLine[];
  /** Place in the list of the oldest state that undo can reach by now. */
  reached: number;
}

export const useRevisions = create<Revisions>()(() => ({ list: [], reached: 0 }));

/** Documents fetched at a time when undo reaches beyond what this page has seen. */
const AT_ONCE = 6;

export const forgetRevisions = () => useRevisions.setState({ list: [], reached: 0 });

/** Loads the list of a project just opened at a version. Without it there is only this page's own history. */
export async function loadRevisions(id: string, version: number): Promise<void> {
  try {
    const list = (await api.revisions(id)).filter((r) => r.version !== null);
    if (useStudio.getState().id !== id) return;
    const at = list.findIndex((r) => r.version === version);
    useRevisions.setState({ list, reached: at < 0 ? list.length : at });
    if (at >= 0) nameOpened(list[at].label);
  } catch {
    // the list is asked for again when it is shown
  }
}

/** Whether there are states before those that this page has seen. */
export const reachesBack = ({ list, reached }: Revisions) => reached + 1 < list.length;

let fetching: Promise<void> | null = null;

/** Lays the next older revisions under the history, so that undo goes on through them. */
export function reachBack(): Promise<void> {
  fetching ??= fetchOlder().finally(() => {
    fetching = null;
  });
  return fetching;
}

async function fetchOlder(): Promise<void> {
  const { list, reached } = useRevisions.getState();
  const { id } = useStudio.getState();
  const older = list.slice(reached + 1, reached + 1 + AT_ONCE);
  const documents = await Promise.all(older.map((r) => api.revision(id, r.id)));
  if (useStudio.getState().id !== id) return;
  const states = older.map((r, i) => ({ project: documents[i], label: r.label, made: null })).reverse();
  useStudio.temporal.setState({ pastStates: [...states, ...history().pastStates] });
  useRevisions.setState({ reached: reached + older.length });
}
