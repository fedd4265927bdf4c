/** The document as it is being edited, with its named history. What is merely chosen or shown lives in choice.ts. */
import { enablePatches, produce, produceWithPatches } from 'immer';
import { temporal } from 'zundo';
import { create, useStore } from 'zustand';
import {
  cutTo,
  isStorable,
  newId,
  storable,
  type Look,
  type Project,
  type Shot,
} from '@wemlox/core/src/document/index.ts';

enablePatches();

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
  useStudio.setState({ id, project, label: OPENED });
  history().resume();
  history().clear();
  step = newId();
  travelled = '';
}

/** Whether a value holds only text that can be kept. */
const canBeKept = (value: unknown): boolean =>
  typeof value === 'string'
    ? isStorable(value)
    : typeof value !== 'object' || value === null || Object.values(value).every(canBeKept);

/** Takes out of all text what cannot be kept. */
function cleanse(value: Record<string, unknown>): void {
  for (const [key, inner] of Object.entries(value)) {
    if (typeof inner === 'string') value[key] = storable(inner);
    else if (typeof inner === 'object' && inner !== null) cleanse(inner as Record<string, unknown>);
  }
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
  const [made, patches] = produceWithPatches(project, (draft) => {
    // what a recipe happens to return is not the next document
    recipe(draft);
  });
  if (made === project) return;
  const next = patches.every((p) => canBeKept(p.value))
    ? made
    : produce(made, (draft) => cleanse(draft as unknown as Record<string, unknown>));
  const now = performance.now();
  const joined =
    (gesture.active && gesture.recorded) || (join && label === last && now - lastAt < JOIN_WITHIN);
  lastAt = now;
  if (!joined) step = newId();
  travelled = '';
  if (joined) history().pause();
  useStudio.setState({ project: next, label });
  if (joined) history().resume();
  if (gesture.active) gesture.recorded = true;
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

/** The look of an identifier, or the first. */
export const lookOf = (project: Project, id: string): Look =>
  project.looks.find((l) => l.id === id) ?? project.looks[0];

/** The shot in use. */
export const shotOf = (project: Project): Shot => project.shots[0];
