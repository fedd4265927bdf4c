/** Edits of finishes, and of which faces wear them. */
import {
  cutTo,
  finishAt,
  LONGEST_TAG,
  MOST,
  plainFinish,
  wears,
  withRule,
  ZONE_NAMES,
  type ChartTarget,
  type Family,
  type Finish,
  type Project,
  type Surface,
} from '../document/index.ts';
import { found, named, room, givenName, type Edit } from './edit.ts';

/** The character a letter identifier stands for, for names in the history. */
export function characterOf(project: Project, face: { block?: string; letter?: string }): string {
  const block = project.blocks.find((b) => b.id === face.block);
  const at = block?.letters.indexOf(face.letter ?? '') ?? -1;
  return at < 0 ? '' : ([...block!.text][at] ?? '');
}

/** Faces in words. */
export function targetName(project: Project, target: ChartTarget): string {
  const zone = target.zone ? ZONE_NAMES[target.zone] : 'All faces';
  return target.letter ? `${zone} of ${characterOf(project, target)}` : zone;
}

const dressed = (
  look: string,
  label: string,
  targets: readonly ChartTarget[],
  finish: string | null,
): Edit => ({
  label,
  make: (p) => {
    if (finish !== null) found(p.finishes, finish, 'finish');
    const of = found(p.looks, look, 'look');
    for (const target of targets) of.chart = withRule(of.chart, target, finish);
    room(of.chart, MOST.rules, 'rules in a chart', 0);
  },
});

/** The same faces of other letters too. */
const alsoOn = (target: ChartTarget, also: readonly string[]): ChartTarget[] => [
  target,
  ...also.filter((letter) => letter !== target.letter).map((letter) => ({ ...target, letter })),
];

/** Lays a finish on faces; null clears them. @param also letters of the same block whose same faces it is laid on */
export function dressFaces(
  project: Project,
  look: string,
  target: ChartTarget,
  finish: string | null,
  also: readonly string[] = [],
): Edit {
  const name = project.finishes.find((f) => f.id === finish)?.name;
  const targets = alsoOn(target, also);
  const many = targets.length > 1 ? `, ${targets.length} letters` : '';
  const where = `${targetName(project, target)}${many}`;
  return dressed(look, name ? `${where} → ${name}` : `Clear ${where}`, targets, finish);
}

/**
 * Lays a finish on one more cell of a stroke, all under one name; null when it wears it already.
 * @param also letters of the same block that the cell stands for too
 */
export function paintFace(
  project: Project,
  look: string,
  face: Required<ChartTarget>,
  finish: string | null,
  also: readonly string[] = [],
): Edit | null {
  const { chart } = found(project.looks, look, 'look');
  if (finishAt(chart, face.block, face.letter, face.zone) === finish) return null;
  const name = project.finishes.find((f) => f.id === finish)?.name ?? 'nothing';
  return dressed(look, `Paint ${name}`, alsoOn(face, also), finish);
}

/** Adds the project's own copy of a finish, or a plain one, under an identifier. */
export function addFinish(project: Project, source: Finish | null, id: string): Edit {
  room(project.finishes, MOST.finishes, 'finishes');
  return {
    label: source ? `Add ${source.name}` : 'New finish',
    make: (p) => {
      const made: Finish = source ? structuredClone(source) : plainFinish({ id, name: 'New finish' });
      // another project's finish behind it is not here
      p.finishes.push(named({ ...made, id, within: null }, p.finishes));
    },
  };
}

export const renameFinish = (_project: Project, id: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    found(p.finishes, id, 'finish').name = givenName(name);
  },
});

/** Sets the words a finish is found by: each once, spaces at their ends left out. */
export const setTags = (project: Project, id: string, tags: readonly string[]): Edit => ({
  label: `Tags of ${found(project.finishes, id, 'finish').name}`,
  make: (p) => {
    const words = tags.map((t) => cutTo(t.trim(), LONGEST_TAG)).filter((t) => t !== '');
    found(p.finishes, id, 'finish').tags = [...new Set(words)].slice(0, MOST.tags);
  },
});

export const setFamily = (project: Project, id: string, family: Family): Edit => ({
  label: `Family of ${found(project.finishes, id, 'finish').name}`,
  make: (p) => {
    found(p.finishes, id, 'finish').family = family;
  },
});

/** Bends the reflectance curve: several parameters of the surface under one name. */
export const setReflectance = (
  project: Project,
  id: string,
  change: Partial<Pick<Surface, 'base_color' | 'base_weight' | 'specular_ior'>>,
): Edit => ({
  label: `Reflectance of ${found(project.finishes, id, 'finish').name}`,
  make: (p) => {
    Object.assign(found(p.finishes, id, 'finish').surface, change);
  },
});

/** Sets what is met from within in a finish's place; null for the same. */
export function setWithin(project: Project, id: string, within: string | null): Edit {
  const { name } = found(project.finishes, id, 'finish');
  const other = within === null ? null : found(project.finishes, within, 'finish');
  return {
    label: other ? `${name} is ${other.name} within` : `${name} is the same within`,
    make: (p) => {
      found(p.finishes, id, 'finish').within = other && other.id !== id ? other.id : null;
    },
  };
}

/** Looks whose faces wear a finish, by the rules that stand. */
export const looksWearing = ({ looks }: Project, id: string) =>
  looks.filter((look) => look.chart.some((r) => r.finish === id));

/** Gives one look a finish of its own, a copy, wherever it wears a finish that others wear too. */
export function ownFinish(project: Project, look: string, id: string, copy: string): Edit {
  const finish = found(project.finishes, id, 'finish');
  const { name } = found(project.looks, look, 'look');
  room(project.finishes, MOST.finishes, 'finishes');
  return {
    label: `${finish.name} of ${name} alone`,
    make: (p) => {
      const at = p.finishes.findIndex((f) => f.id === id);
      const made = named({ ...structuredClone(finish), id: copy }, p.finishes);
      p.finishes.splice(at + 1, 0, made);
      for (const rule of found(p.looks, look, 'look').chart) if (rule.finish === id) rule.finish = copy;
    },
  };
}

/** Where a finish is worn, in words: looks with their faces, and pieces. */
export function wornAt(project: Project, id: string): string[] {
  const faces = project.looks.flatMap((look) => {
    const where = look.chart.filter((r) => r.finish === id).map((r) => targetName(project, r));
    return where.length > 0 ? [`${look.name}: ${[...new Set(where)].join(', ')}`] : [];
  });
  const pieces = project.pieces.filter((p) => wears(p, id)).map((p) => p.name);
  const within = project.finishes.filter((f) => f.within === id).map((f) => `within ${f.name}`);
  return [...faces, ...pieces, ...within];
}

/** Removes a finish; faces and pieces that wore it wear another, or are left bare. */
export function removeFinish(project: Project, id: string, instead: string | null): Edit {
  const { name } = found(project.finishes, id, 'finish');
  const other = project.finishes.find((f) => f.id === instead && f.id !== id);
  return {
    label: other ? `Remove ${name}, ${other.name} instead` : `Remove ${name}`,
    make: (p) => {
      p.finishes = p.finishes.filter((f) => f.id !== id);
      const next = other?.id ?? null;
      for (const finish of p.finishes)
        if (finish.within === id) finish.within = next === finish.id ? null : next;
      for (const look of p.looks) for (const rule of look.chart) if (rule.finish === id) rule.finish = next;
      for (const piece of p.pieces) {
        if (piece.finish === id) piece.finish = next;
        piece.dressings = piece.dressings.flatMap((d) =>
          d.finish !== id ? [d] : next === null ? [] : [{ ...d, finish: next }],
        );
      }
    },
  };
}
