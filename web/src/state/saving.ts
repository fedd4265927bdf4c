/** Saves the document as it is edited; queues while the server is away; never overwrites somebody else's work. */
import { create } from 'zustand';
import type { Project } from '@wemlox/core/src/document/index.ts';
import { api, ApiError, type StoredProject } from './api.ts';
import { openDocument, useStudio } from './studio.ts';

/** Edits are sent this long after the last one, and at the latest this long after the first, milliseconds. */
const PAUSE = 300;
const AT_MOST = 800;
const RETRY = 2000;

interface Saving {
  state: 'saved' | 'waiting' | 'saving' | 'offline' | 'refused' | 'conflict';
  detail: string;
  /** What somebody else saved meanwhile; null without a conflict. */
  conflict: StoredProject | null;
}

export const useSaving = create<Saving>()(() => ({ state: 'saved', detail: '', conflict: null }));

let id = '';
let version = 0;
/** The document as the server has it. */
let stored: Project | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let firstEdit = 0;
let busy = false;

const pendingKey = (project: string) => `wemlox-unsaved-${project}`;

/** An edit that had not reached the server survives a closed page here. */
function keepLocally(project: Project): void {
  try {
    localStorage.setItem(pendingKey(id), JSON.stringify({ version, project }));
  } catch {
    // storage is full or forbidden: the server copy is still at most a second behind
  }
}

/** Opens a project, with edits that had not been sent when the page was closed. */
export async function openProject(projectId: string): Promise<void> {
  const read = await api.read(projectId);
  id = read.id;
  version = read.version;
  stored = read.document;
  openDocument(id, read.document);
  useSaving.setState({ state: 'saved', detail: '', conflict: null });
  const left = localStorage.getItem(pendingKey(id));
  if (left === null) return;
  const { version: base, project } = JSON.parse(left) as { version: number; project: Project };
  version = base;
  openDocument(id, project);
  schedule();
}

function schedule(): void {
  const now = performance.now();
  if (timer === undefined) firstEdit = now;
  clearTimeout(timer);
  timer = setTimeout(() => void send(), Math.max(0, Math.min(PAUSE, firstEdit + AT_MOST - now)));
  useSaving.setState((s) => (s.state === 'offline' ? s : { ...s, state: 'waiting' }));
}

async function send(): Promise<void> {
  timer = undefined;
  const { project } = useStudio.getState();
  if (busy || project === stored || useSaving.getState().conflict) return;
  busy = true;
  useSaving.setState((s) => (s.state === 'offline' ? s : { ...s, state: 'saving' }));
  const sentTo = id;
  try {
    const saved = await api.save(sentTo, version, project);
    if (sentTo !== id) return;
    version = saved.version;
    stored = project;
    localStorage.removeItem(pendingKey(id));
    useSaving.setState({ state: 'saved', detail: '' });
  } catch (error) {
    if (sentTo !== id) return;
    if (error instanceof ApiError && error.status === 409) {
      useSaving.setState({ state: 'conflict', conflict: error.body.current as StoredProject });
    } else if (error instanceof ApiError && error.status < 500) {
      useSaving.setState({ state: 'refused', detail: error.message });
    } else {
      useSaving.setState({ state: 'offline', detail: '' });
      timer = setTimeout(() => void send(), RETRY);
    }
    return;
  } finally {
    busy = false;
  }
  if (useStudio.getState().project !== stored) schedule();
}

useStudio.subscribe(({ project, id: open }, before) => {
  if (open !== id || project === before.project || project === stored) return;
  keepLocally(project);
  schedule();
});

window.addEventListener('online', () => void send());
window.addEventListener('pagehide', () => void send());

/**
 * Settles a conflict; the other side stays in the project's revisions.
 * @returns the copy's identifier when both are kept
 * @throws ApiError when the copy cannot be made; nothing is settled then
 */
export async function settle(keep: 'mine' | 'theirs' | 'both'): Promise<string | null> {
  const { conflict: theirs } = useSaving.getState();
  if (!theirs) return null;
  const { project: mine } = useStudio.getState();
  const copy =
    keep === 'both'
      ? await api.create({ ...mine, name: `${mine.name}, second version`.slice(0, 120) })
      : null;
  version = theirs.version;
  stored = theirs.document;
  localStorage.removeItem(pendingKey(id));
  useSaving.setState({ state: 'saved', detail: '', conflict: null });
  if (keep === 'mine') schedule();
  else openDocument(id, theirs.document);
  return copy?.id ?? null;
}

/** Sends what is unsaved and waits for the answer. */
export async function saveNow(): Promise<void> {
  clearTimeout(timer);
  await send();
}
