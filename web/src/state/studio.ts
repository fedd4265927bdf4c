/** The document as it is being edited, with its named history. What is merely chosen or shown lives in choice.ts. */
import { temporal } from 'zundo';
import { create, useStore } from 'zustand';
import { cutTo, newId, type Look, type Project, type Shot } from '@wemlox/core/document';
import { edited, EditRefused, timed, type Edit, type Edited } from '@wemlox/core/edits';
import { seenAt } from '@wemlox/core/motion/seen';
import { shownAt } from '@wemlox/core/motion/shown';
import { framesOf } from '@wemlox/core/motion/span';
import { useChoice } from './choice.ts';
import { notify } from './notices.ts';

interface Studio {
  id: string;
  project: Project;
  /** Picture of the shot that is looked at. */
  frame: number;
  /** The document as it is at that picture: what desks show and hands take hold of. */
  seen: Project;
  /** Name of the edit that led here; undo takes it back. */
  label: string;
  /** The edit itself, there and back; null for a document as it was opened or fetched. */
  made: Pick<Edited, 'patches' | 'inverse'> | null;
}

export const OPENED = 'Opened';

export const useStudio = create<Studio>()(
  temporal((): Studio => ({ id: '', project: null!, frame: 0, seen: null!, label: OPENED, made: null }), {
    partialize: ({ project, label, made }) => ({ project, label, made }),
    equality: (a, b) => a.project === b.project,
    limit: 500,
  }),
);

export const history = () => useStudio.temporal.getState();

/** The look of an identifier, or the first. */
export const lookOf = (project: Project, id: string): Look =>
  project.looks.find((l) => l.id === id) ?? project.looks[0];

/** The shot in use. */
export const shotOf = (project: Project): Shot =>
  project.shots.find((s) => s.id === useChoice.getState().shot) ?? project.shots[0];

// what is seen goes with the document, the shot and the time, before anybody else is told
const seeAgain = () => {
  const { project, frame: asked, seen: before } = useStudio.getState();
  if (!project) return;
  // a shot that was made shorter ends where it ends now
  const frame = Math.min(asked, framesOf(shotOf(project)) - 1);
  const seen = seenAt(project, shotOf(project).id, frame);
  if (seen !== before || frame !== asked) useStudio.setState({ seen, frame });
};
useStudio.subscribe((now, before) => {
  if (now.project !== before.project || now.frame !== before.frame) seeAgain();
});
useChoice.subscribe((now, before) => {
  if (now.shot !== before.shot) seeAgain();
});

/** Looks at another picture of the shot; pictures may lie between two. */
export function goToFrame(frame: number): void {
  const last = framesOf(shotOf(useStudio.getState().project)) - 1;
  const to = Math.min(last, Math.max(0, frame));
  if (to !== useStudio.getState().frame) useStudio.setState({ frame: to });
}

// not while it plays: it would be written with every picture
window.addEventListener('pagehide', () => {
  const { id, frame } = useStudio.getState();
  if (id !== '') useChoice.setState({ left: { project: id, frame } });
});

/** What was last drawn of a document, kept because many ask. */
let drawn: { of: readonly unknown[]; project: Project } | null = null;

/** The document as it is drawn and traced at the picture that is looked at. */
export function drawnNow(): Project {
  const { project, frame } = useStudio.getState();
  const look = lookOf(project, useChoice.getState().lookId).id;
  const of = [project, frame, look, shotOf(project).id];
  if (!drawn || drawn.of.some((v, i) => v !== of[i]))
    drawn = { of, project: shownAt(project, look, shotOf(project).id, frame) };
  return drawn.project;
}

/** The past and future of the document, for those who show it. */
export function useHistory() {
  return useStore(useStudio.temporal);
}

/** Longest name of an edit that is kept. */
const LONGEST_LABEL = 200;
let step = newId();
/** What took or gave back an edit; empty after an edit of its own. */
let travelled = '';

/** The step of history the document is at, and its name: what is saved at one step is one revision. */
export const currentStep = () => ({
  step,
  label: cutTo(`${travelled}${useStudio.getState().label}`, LONGEST_LABEL),
});

/** Names the edit that led to the document as it was opened. */
export function nameOpened(label: string): void {
  const { label: now } = useStudio.getState();
  if (now !== OPENED || history().pastStates.length > 0) return;
  history().pause();
  useStudio.setState({ label });
  history().resume();
}

/** Opens a document: history starts afresh. */
export function takeDocument(id: string, project: Project): void {
  history().pause();
  const { id: open, frame: now } = useStudio.getState();
  // a page that is opened anew looks at what it was left at; another project begins with its first shot
  const last = open === '' ? useChoice.getState().left : { project: open, frame: now };
  if (last.project !== id) useChoice.setState({ shot: null });
  const frame = last.project === id ? Math.min(last.frame, framesOf(shotOf(project)) - 1) : 0;
  const seen = seenAt(project, shotOf(project).id, frame);
  useStudio.setState({ id, project, frame, seen, label: OPENED, made: null });
  history().resume();
  history().clear();
  step = newId();
  travelled = '';
}

/** One press of a pointer or key: everything edited during it is one step of history. */
const gesture = { active: false, recorded: false };
const begin = () => {
  gesture.active = true;
  gesture.recorded = false;
};
const end = () => {
  gesture.active = false;
};
window.addEventListener('pointerdown', begin, true);
window.addEventListener('pointerup', end);
window.addEventListener('pointercancel', end);
window.addEventListener('keydown', (event) => !event.repeat && begin(), true);
window.addEventListener('keyup', end);

/** Edits of one name that follow each other within this time are one step, where asked for. */
const JOIN_WITHIN = 1000;
let lastAt = 0;

/**
 * Makes an edit of the document as it is seen. One that cannot be made is told, and changes nothing.
 * @param make the edit, or null where there is nothing to do
 * @returns whether the document is another one now
 */
export function perform(make: (project: Project) => Edit | null): boolean {
  const { project, seen, frame, label: last, made: before } = useStudio.getState();
  let edit: Edit | null;
  let made: Edited;
  try {
    edit = make(seen);
    if (!edit) return false;
    made = edited(project, seen === project ? edit : timed(edit, shotOf(project).id, frame));
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    notify('problem', `Nothing was changed: ${error.message}`);
    return false;
  }
  if (made.project === project) return false;
  const { label } = edit;
  const now = performance.now();
  const joined =
    (gesture.active && gesture.recorded) ||
    (edit.joins === true && label === last && now - lastAt < JOIN_WITHIN);
  lastAt = now;
  if (!joined) step = newId();
  travelled = '';
  if (joined) history().pause();
  const patches = joined && before ? [...before.patches, ...made.patches] : made.patches;
  const inverse = joined && before ? [...made.inverse, ...before.inverse] : made.inverse;
  useStudio.setState({
    project: made.project,
    seen: seenAt(made.project, shotOf(made.project).id, frame),
    label,
    made: { patches, inverse },
  });
  if (joined) history().resume();
  if (gesture.active) gesture.recorded = true;
  return true;
}

/** Takes the last edit back. */
export function undo(): void {
  const { label } = useStudio.getState();
  step = newId();
  travelled = `Undo ${label}, back to `;
  history().undo();
}

/** Gives the last edit that was taken back again. */
export function redo(): void {
  step = newId();
  travelled = 'Redo ';
  history().redo();
}
