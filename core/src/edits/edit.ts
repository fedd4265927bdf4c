/** An edit: what it does to a document, the name history gives it, and what it leaves behind as patches. */
import { enablePatches, produceWithPatches, type Patch } from 'immer';
import { cutName, isStorable, parameterAt, storable, type Project } from '../document/index.ts';

enablePatches();

export interface Edit {
  /** As history names it. */
  label: string;
  /** Changes a draft of the document, and nothing else. */
  make: (project: Project) => void;
  /** Follows closely on others of its name, as typing does: together they are one step. */
  joins?: boolean;
  /** Puts another document in its place, whatever time is looked at. */
  whole?: boolean;
}

/** An edit that cannot be made; the message says why. */
export class EditRefused extends Error {}

/** A document after an edit, with the way there and back. */
export interface Edited {
  project: Project;
  patches: Patch[];
  inverse: Patch[];
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

/** Whether something moves that is no longer there. */
const movesNothing = ({ address }: { address: string }, project: Project) =>
  parameterAt(project, address) === null;

/** Takes out of shots what moves nothing any more. */
function prune(draft: Project, project: Project): void {
  for (const shot of draft.shots) {
    shot.tracks = shot.tracks.filter((t) => !movesNothing(t, project));
    shot.moves = shot.moves.filter((m) => !movesNothing(m, project));
  }
}

/** Makes an edit. The document given stays as it is; when nothing changes it is the one returned. */
export function edited(project: Project, { make }: Edit): Edited {
  const once = (clean: boolean, pruned: Project | null) =>
    produceWithPatches(project, (draft) => {
      make(draft);
      if (clean) cleanse(draft as unknown as Record<string, unknown>);
      if (pruned) prune(draft, pruned);
    });
  let made = once(false, null);
  const clean = !made[1].every((p) => canBeKept(p.value));
  if (clean) made = once(true, null);
  const [after] = made;
  const left =
    after !== project &&
    after.shots.some((s) => [...s.tracks, ...s.moves].some((m) => movesNothing(m, after)));
  // what is removed takes along what moves it, in the same edit
  if (left) made = once(clean, after);
  // what was changed and put back is no change
  return { project: made[1].length > 0 ? made[0] : project, patches: made[1], inverse: made[2] };
}

/** The thing of an identifier. @throws EditRefused when it is gone */
export function found<T extends { id: string }>(list: readonly T[], id: string, what: string): T {
  const thing = list.find((t) => t.id === id);
  if (!thing) throw new EditRefused(`that ${what} is not there any more`);
  return thing;
}

/** A number brought into a range. @throws EditRefused when it is none */
export function within(value: number, low: number, high: number): number {
  if (Number.isNaN(value)) throw new EditRefused('that is not a number');
  return Math.min(high, Math.max(low, value));
}

/** @throws EditRefused when a list is full */
export function room(list: readonly unknown[], most: number, what: string, more = 1): void {
  if (list.length + more > most) throw new EditRefused(`a project holds at most ${most} ${what}`);
}

/** A name that no other has, by counting up. */
export function freeName(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  let n = 2;
  const numbered = () => `${cutName(name.slice(0, 110))} ${n}`;
  while (taken.includes(numbered())) n++;
  return numbered();
}

const names = (list: readonly { name: string }[]) => list.map((t) => t.name);

/** Gives a new thing a name of its own among its like. */
export const named = <T extends { name: string }>(thing: T, among: readonly { name: string }[]): T => ({
  ...thing,
  name: freeName(thing.name, names(among)),
});

/** A name that an artist gives. @throws EditRefused for an empty one */
export function givenName(text: string): string {
  const name = cutName(text);
  if (name.length === 0) throw new EditRefused('a name has at least one character');
  return name;
}
