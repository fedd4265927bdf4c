/** Edits that have not reached the server, kept in the browser: one draft for each tab and project. */
import { openDocument, DocumentError, type Project } from '@wemlox/core/document';
import { openTabs, thisTab } from './tab.ts';

interface Unsaved {
  /** Version of the project it was made on. */
  version: number;
  project: Project;
  /** The save it was sent with, if it was: its answer may have been lost. */
  save?: string;
  at: number;
}

/** A draft as it lies in the browser. */
export interface FoundUnsaved extends Unsaved {
  key: string;
}

const PREFIX = 'wemlox-draft/';
const SET_ASIDE = 'wemlox-set-aside/';
const keyOf = (project: string, tab: string) => `${PREFIX}${project}/${tab}`;
/** One key for all tabs, as earlier versions had it. */
const sharedKey = (project: string) => `wemlox-unsaved-${project}`;

let tab = '';

/** Must have been awaited before drafts are kept. */
async function readyUnsaved(): Promise<void> {
  tab = await thisTab();
}

/** @returns false when the browser has no room, or may not keep anything */
export function keepUnsaved(project: string, draft: Omit<Unsaved, 'at'>): boolean {
  try {
    localStorage.setItem(keyOf(project, tab), JSON.stringify({ ...draft, at: Date.now() }));
    return true;
  } catch {
    return false;
  }
}

export const dropUnsaved = (project: string) => localStorage.removeItem(keyOf(project, tab));
export const isOwn = ({ key }: FoundUnsaved, project: string) => key === keyOf(project, tab);
export const dropFound = ({ key }: FoundUnsaved) => localStorage.removeItem(key);

/** What of a draft can be used, through the door that all documents pass. @throws DocumentError, SyntaxError */
function read(key: string, text: string): FoundUnsaved {
  const { version, project, save, at } = JSON.parse(text) as Partial<Record<keyof Unsaved, unknown>>;
  return {
    key,
    version: typeof version === 'number' ? version : 0,
    project: openDocument(project),
    save: typeof save === 'string' ? save : undefined,
    at: typeof at === 'number' ? at : 0,
  };
}

interface LeftUnsaved {
  /** This tab's own. */
  own: FoundUnsaved | null;
  /** Of tabs that are no longer open, the newest first. */
  orphans: FoundUnsaved[];
  /** What was wrong with those that could not be read; they are set aside, not lost. */
  damaged: string[];
}

/** Drafts of a project that no other open tab works on. */
export async function unsavedLeft(project: string): Promise<LeftUnsaved> {
  await readyUnsaved();
  const open = await openTabs();
  const left: LeftUnsaved = { own: null, orphans: [], damaged: [] };
  const prefix = keyOf(project, '');
  const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)!);
  for (const key of keys) {
    const mine = key === keyOf(project, tab);
    const orphan = key.startsWith(prefix) && !open.has(key.slice(prefix.length));
    if (!mine && !orphan && key !== sharedKey(project)) continue;
    const text = localStorage.getItem(key)!;
    try {
      const draft = read(key, text);
      if (mine) left.own = draft;
      else left.orphans.push(draft);
    } catch (error) {
      localStorage.setItem(`${SET_ASIDE}${project}/${Date.now()}`, text);
      localStorage.removeItem(key);
      left.damaged.push(error instanceof DocumentError ? error.message : 'it is cut short');
    }
  }
  left.orphans.sort((a, b) => b.at - a.at);
  return left;
}
