/** The document as it is being edited, with its named history. What is merely chosen or shown lives in choice.ts. */
import { produce } from 'immer';
import { temporal } from 'zundo';
import { create, useStore } from 'zustand';
import type { Look, Project, Shot } from '@wemlox/core/src/document/index.ts';

interface Studio {
  id: string;
  project: Project;
  /** Name of the edit that led here; undo takes it back. */
  label: string;
}

export const OPENED = 'Opened';

export const useStudio = create<Studio>()(
  temporal((): Studio => ({ id: '', project: null as unknown as Project, label: OPENED }), {
    partialize: ({ project, label }) => ({ project, label }),
    equality: (a, b) => a.project === b.project,
    limit: 500,
  }),
);

export const history = () => useStudio.temporal.getState();

/** The past and future of the document, for those who show it. */
export function useHistory() {
  return useStore(useStudio.temporal);
}

/** Opens a document: history starts afresh. */
export function openDocument(id: string, project: Project): void {
  history().pause();
  useStudio.setState({ id, project, label: OPENED });
  history().resume();
  history().clear();
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
 * Changes the document under a name.
 * @param join edits without a gesture of their own (typing, wheel) that follow closely become one step
 */
export function edit(label: string, recipe: (project: Project) => void, join = false): void {
  const { project, label: last } = useStudio.getState();
  const next = produce(project, (draft) => {
    // what a recipe happens to return is not the next document
    recipe(draft);
  });
  if (next === project) return;
  const now = performance.now();
  const joined =
    (gesture.active && gesture.recorded) || (join && label === last && now - lastAt < JOIN_WITHIN);
  lastAt = now;
  if (joined) history().pause();
  useStudio.setState({ project: next, label });
  if (joined) history().resume();
  if (gesture.active) gesture.recorded = true;
}

export const undo = () => history().undo();
export const redo = () => history().redo();

/** The look of an identifier, or the first. */
export const lookOf = (project: Project, id: string): Look =>
  project.looks.find((l) => l.id === id) ?? project.looks[0];

/** The shot in use. */
export const shotOf = (project: Project): Shot => project.shots[0];
