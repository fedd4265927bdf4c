/** Saves the document as it is edited; queues while the server is away; never overwrites somebody else's work. */
import { create } from 'zustand';
import { cutName, newId, putBack, sameJson, type Project } from '@wemlox/core/document';
import { replaceDocument } from '@wemlox/core/edits';
import { api, ApiError, type OpenProject } from './api.ts';
import type { ProjectSave } from '@wemlox/wire';
import { unsavedLeft, dropUnsaved, dropFound, isOwn, keepUnsaved, type FoundUnsaved } from './unsaved.ts';
import { whenText } from './language.ts';
import { notify } from './notices.ts';
import { forgetRevisions, loadRevisions } from './revisions.ts';
import { currentStep, perform, takeDocument, useStudio } from './studio.ts';

/** Edits are sent this long after the last one, and at the latest this long after the first, milliseconds. */
const PAUSE = 300;
const AT_MOST = 800;
const RETRY = 2000;

interface Saving {
  /**
   * Offline: the server does not answer. Away: it answers, and has no database for now. Failed: it failed, and is
   * asked again. Refused: it does not take the document as it is.
   */
  state: 'saved' | 'waiting' | 'saving' | 'offline' | 'away' | 'failed' | 'refused' | 'conflict';
  detail: string;
  /** What somebody else saved meanwhile; null without a conflict. */
  conflict: OpenProject | null;
}

export const useSaving = create<Saving>()(() => ({ state: 'saved', detail: '', conflict: null }));

/** States that stay until a save gets through. */
const STUCK = new Set<Saving['state']>(['offline', 'away', 'failed']);

/** A save under way, or one whose answer was lost: it is sent again as it was before anything newer. */
interface Sent extends Required<ProjectSave> {
  document: Project;
}

let id = '';
let version = 0;
/** The document as the server has it. */
let stored: Project | null = null;
let lost: Sent | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let firstEdit = 0;
let busy = false;
/** The save under way, or the last one. */
let underWay: Promise<void> = Promise.resolve();

/** Opens a project, with edits that had not been sent when the page was closed. */
export async function openProject(projectId: string): Promise<void> {
  const [read, left] = await Promise.all([api.read(projectId), unsavedLeft(projectId)]);
  clearTimeout(timer);
  timer = undefined;
  id = read.id;
  version = read.version;
  stored = read.document;
  lost = null;
  forgetRevisions();
  takeDocument(id, read.document);
  useSaving.setState({ state: 'saved', detail: '', conflict: null });
  for (const why of left.damaged)
    notify('problem', `Edits kept in this browser could not be read and are set aside: ${why}`);
  const differs = (draft: FoundUnsaved) => {
    if (!sameJson(draft.project, read.document)) return true;
    dropFound(draft);
    return false;
  };
  const own = left.own && differs(left.own) ? left.own : null;
  const orphans = left.orphans.filter(differs);
  // one that is made on the version as it is needs no questions
  const taken = own ?? orphans.find((d) => d.version === read.version) ?? orphans[0];
  for (const other of orphans) if (other !== taken) offerCopy(other);
  if (taken) takeUp(taken);
  void loadRevisions(id, version);
}

/** Goes on with a draft, on the version it was made on. */
function takeUp(draft: FoundUnsaved): void {
  version = draft.version;
  takeDocument(id, draft.project);
  if (draft.save)
    lost = {
      save: draft.save,
      version,
      document: draft.project,
      step: newId(),
      label: 'Edits kept in the browser',
    };
  keepUnsaved(id, draft);
  if (!isOwn(draft, id)) dropFound(draft);
  schedule();
}

function offerCopy(draft: FoundUnsaved): void {
  const when = whenText(draft.at);
  notify('problem', `Edits of another window from ${when} were never saved; they are kept in this browser`, {
    label: 'Open as a copy',
    run: () =>
      void api
        .create({ ...draft.project, name: cutName(`${draft.project.name}, ${when}`) }, 'From another window')
        .then((made) => {
          dropFound(draft);
          location.assign(`/p/${made.id}`);
        })
        .catch((error: Error) => notify('problem', `No copy was made: ${error.message}`)),
  });
}

function schedule(): void {
  const now = performance.now();
  if (timer === undefined) firstEdit = now;
  clearTimeout(timer);
  timer = setTimeout(() => void send(), Math.max(0, Math.min(PAUSE, firstEdit + AT_MOST - now)));
  useSaving.setState((s) => (STUCK.has(s.state) ? s : { ...s, state: 'waiting' }));
}

function again(state: Saving['state'], detail: string): void {
  useSaving.setState({ state, detail });
  clearTimeout(timer);
  timer = setTimeout(() => void send(), RETRY);
}

/** What became of a save that was not taken. */
function unsent(error: unknown, sent: Sent): void {
  if (!(error instanceof ApiError)) {
    lost = sent;
    again('offline', 'the server does not answer');
  } else if (error.status === 409) {
    useSaving.setState({ state: 'conflict', conflict: error.current });
  } else if (error.status >= 500 || error.status === 429) {
    // it may have been kept all the same
    lost = sent;
    again(error.status === 503 ? 'away' : 'failed', error.message);
  } else {
    useSaving.setState({ state: 'refused', detail: error.message });
    if (error.status === 422) putBackRefused(error);
  }
}

/** One edit that cannot be kept must not hold up the others: what was refused goes back to what it was. */
function putBackRefused(error: ApiError): void {
  const problems = error.body.problems ?? [];
  const paths = problems.map((p) => p.slice(0, p.indexOf(': ')).replace(/^document\./, ''));
  const { project } = useStudio.getState();
  const mended = stored && paths.length > 0 ? putBack(project, stored, paths) : null;
  if (!mended || sameJson(mended, project)) return;
  perform((p) => replaceDocument(p, 'Put back what cannot be kept', mended));
  notify('problem', `This could not be kept, and was put back: ${problems.slice(0, 3).join('; ')}`);
}

/** Nothing is left to send: the document is what the server has, by a save or by going back to it. */
function rest(): void {
  clearTimeout(timer);
  timer = undefined;
  dropUnsaved(id);
  useSaving.setState({ state: 'saved', detail: '' });
}

/** Sends what is unsaved, unless a save is under way: that one sees to what came meanwhile. */
function send(): Promise<void> {
  timer = undefined;
  if (!busy) underWay = sendOne();
  return underWay;
}

async function sendOne(): Promise<void> {
  const { project } = useStudio.getState();
  if (useSaving.getState().conflict) return;
  if (!lost && project === stored) return rest();
  const sent: Sent = lost ?? { save: newId(), version, document: project, ...currentStep() };
  busy = true;
  lost = null;
  keepUnsaved(id, {
    version: sent.version,
    project,
    save: sent.document === project ? sent.save : undefined,
  });
  useSaving.setState((s) => (STUCK.has(s.state) ? s : { ...s, state: 'saving' }));
  const sentTo = id;
  try {
    const saved = await api.save(sentTo, sent);
    if (sentTo !== id) return;
    version = saved.version;
    stored = sent.document;
    const { project: now } = useStudio.getState();
    rest();
    if (now !== stored) keepUnsaved(id, { version, project: now });
  } catch (error) {
    if (sentTo === id) unsent(error, sent);
    return;
  } finally {
    busy = false;
  }
  if (useStudio.getState().project !== stored) schedule();
}

useStudio.subscribe(({ project, id: open }, before) => {
  if (open !== id || project === before.project) return;
  // a save under way, or one whose answer was lost, makes the server's document another one
  if (project === stored && !busy && !lost && !useSaving.getState().conflict) return rest();
  keepUnsaved(id, { version, project });
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
      ? await api.create({ ...mine, name: cutName(`${mine.name}, second version`) }, 'Second version')
      : null;
  version = theirs.version;
  stored = theirs.document;
  lost = null;
  dropUnsaved(id);
  useSaving.setState({ state: 'saved', detail: '', conflict: null });
  if (keep === 'mine') schedule();
  else takeDocument(id, theirs.document);
  void loadRevisions(id, version);
  return copy?.id ?? null;
}

/** Sends what is unsaved and waits for the answer. */
export async function saveNow(): Promise<void> {
  clearTimeout(timer);
  // what was under way did not take along what came since
  if (busy) await underWay;
  clearTimeout(timer);
  await send();
}
