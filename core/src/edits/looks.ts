/** Edits of looks, of the project's name, and of the project as a whole. */
import { current } from 'immer';
import { cutName, MOST, newLook, type Project } from '../document/index.ts';
import { found, named, room, givenName, type Edit } from './edit.ts';
import { copyMotion } from './motion.ts';

export const renameProject = (_project: Project, name: string): Edit => ({
  label: 'Name of the project',
  joins: true,
  make: (p) => {
    p.name = cutName(name) || p.name;
  },
});

/** Adds a copy of a look under an identifier. */
export function addLook(project: Project, source: string, id: string): Edit {
  room(project.looks, MOST.looks, 'looks');
  const look = found(project.looks, source, 'look');
  return {
    label: 'New look',
    make: (p) => {
      p.looks.push(named({ ...structuredClone(look), id }, p.looks));
      copyMotion(p, `looks/${source}`, `looks/${id}`);
    },
  };
}

export const renameLook = (_project: Project, id: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    found(p.looks, id, 'look').name = givenName(name);
  },
});

/** Removes a look; a project keeps at least one. */
export const removeLook = (project: Project, id: string): Edit => ({
  label: `Remove ${found(project.looks, id, 'look').name}`,
  make: (p) => {
    p.looks = p.looks.filter((l) => l.id !== id);
    if (p.looks.length === 0) p.looks.push(newLook('First look'));
  },
});

/**
 * Goes back to the state of a proof; looks and finishes made since then stay, and so does the project's name.
 * @throws EditRefused when both together are more than a project holds
 */
export function goBackTo(project: Project, name: string, kept: Project): Edit {
  const since = project.looks.filter((l) => !kept.looks.some((k) => k.id === l.id));
  const finishes = project.finishes.filter((f) => !kept.finishes.some((k) => k.id === f.id));
  room(kept.looks, MOST.looks, 'looks', since.length);
  room(kept.finishes, MOST.finishes, 'finishes', finishes.length);
  return {
    label: `Back to ${name}`,
    whole: true,
    make: (p) => {
      const own = current(p);
      Object.assign(p, structuredClone(kept), { name: own.name });
      p.looks.push(...own.looks.filter((l) => since.some((s) => s.id === l.id)));
      p.finishes.push(...own.finishes.filter((f) => finishes.some((s) => s.id === f.id)));
    },
  };
}

/** Puts another state in the document's place. */
export const replaceDocument = (_project: Project, label: string, other: Project): Edit => ({
  label,
  whole: true,
  make: (p) => {
    for (const key of Object.keys(p)) delete (p as unknown as Record<string, unknown>)[key];
    Object.assign(p, structuredClone(other));
  },
});
