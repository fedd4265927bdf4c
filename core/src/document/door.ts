/**
 * The door of the document: plain JSON in, a trustworthy project or a list of what is wrong out. Whatever comes from a
 * database, a browser, a job or a file passes it; lint forbids every other way to the type.
 */
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { Finish } from './finish.ts';
import { COAT, SURFACE } from './parameters.ts';
import { Rig } from './rig.ts';
import { FORMAT, Project, VERSION } from './project.ts';
import { boundsProblems, shapeProblems } from './shape.ts';
import { upgraded } from './upgrades.ts';

/** Problems that are told; of more, the first. */
const MOST_TOLD = 100;

export class DocumentError extends Error {
  /** Each problem as "path: what is wrong". */
  readonly problems: string[];
  constructor(problems: string[]) {
    super(problems.slice(0, 5).join('; '));
    this.problems = problems.slice(0, MOST_TOLD);
  }
}

/** Flattens class-validator's tree into "looks[0].rig[1].strength: must not be …" lines. */
export function problemLines(errors: ValidationError[], path = ''): string[] {
  return errors.flatMap((error) => {
    const isIndex = /^\d+$/.test(error.property);
    const here = isIndex ? `${path}[${error.property}]` : path ? `${path}.${error.property}` : error.property;
    const own = Object.values(error.constraints ?? {}).map(
      (text) => `${here}: ${text.replace(error.property, '').trim()}`,
    );
    return [...own, ...problemLines(error.children ?? [], here)];
  });
}

/**
 * Opens a document: shape, upgrade, check. It comes back as it came, unknown fields and all, in the newest version.
 * @throws DocumentError naming each field that is wrong
 */
export function openDocument(input: unknown): Project {
  const bounds = boundsProblems(input);
  if (bounds.length > 0) throw new DocumentError(bounds);
  if (typeof input !== 'object' || input === null || Array.isArray(input)) {
    throw new DocumentError(['the document is not an object']);
  }
  const { format, version } = input as { format?: unknown; version?: unknown };
  if (format !== FORMAT) throw new DocumentError([`format: is ${inShort(format)}, not "${FORMAT}"`]);
  checkVersion(version);
  const newest = upgraded(input as Record<string, unknown>);
  checkShape(Project, newest);
  const project = newest as unknown as Project;
  const problems = brokenReferences(project);
  if (problems.length > 0) throw new DocumentError(problems);
  return project;
}

/**
 * Opens a finish that stands by itself, as in the library, written in some version of the document.
 * @throws DocumentError naming each field that is wrong
 */
export function openFinish(version: unknown, input: unknown): Finish {
  const bounds = boundsProblems(input);
  if (bounds.length > 0) throw new DocumentError(bounds);
  checkVersion(version);
  const { finishes } = upgraded({ format: FORMAT, version, finishes: [input] }) as { finishes?: unknown[] };
  const [newest] = finishes ?? [];
  try {
    checkShape(Finish, newest);
  } catch (error) {
    if (error instanceof DocumentError) throw new DocumentError(error.problems.map((p) => `finish.${p}`));
    throw error;
  }
  const broken = brokenFinish(newest as Finish, 'finish.');
  if (broken.length > 0) throw new DocumentError(broken);
  return newest as Finish;
}

/**
 * Opens a rig that stands by itself, as in the library, written in some version of the document.
 * @throws DocumentError naming each field that is wrong
 */
export function openRig(version: unknown, input: unknown): Rig {
  const bounds = boundsProblems(input);
  if (bounds.length > 0) throw new DocumentError(bounds);
  checkVersion(version);
  const { name, size, lights } = (input ?? {}) as Partial<Rig>;
  const { looks } = upgraded({ format: FORMAT, version, looks: [{ rig: lights }] }) as {
    looks?: { rig?: unknown }[];
  };
  return checkShape(Rig, { name, size, lights: looks?.[0]?.rig });
}

/** @throws DocumentError when there is no such version, or it is newer than this one */
function checkVersion(version: unknown): asserts version is number {
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new DocumentError([`version: is ${inShort(version)}, not a whole number from 1 to ${VERSION}`]);
  if (version > VERSION) {
    throw new DocumentError([
      `version: ${version} was made by a newer Wemlox (this one reads up to ${VERSION})`,
    ]);
  }
}

const inShort = (value: unknown) => (JSON.stringify(value) ?? 'missing').slice(0, 60);

/**
 * Checks plain JSON, within its bounds, against a class: shape first, then the class's rules.
 * @returns an instance of the class
 * @throws DocumentError naming each field that is wrong
 */
export function checkShape<T extends object>(type: new () => T, value: unknown): T {
  const shape = shapeProblems(type, value);
  if (shape.length > 0) throw new DocumentError(shape);
  const instance = plainToInstance(type, value);
  const errors = validateSync(instance, { forbidUnknownValues: false });
  if (errors.length > 0) throw new DocumentError(problemLines(errors));
  return instance;
}

/**
 * Checks any JSON from outside against a class: its bounds, its shape, then the class's rules.
 * @throws DocumentError naming each field that is wrong
 */
export function checkJson<T extends object>(type: new () => T, value: unknown): T {
  const bounds = boundsProblems(value);
  if (bounds.length > 0) throw new DocumentError(bounds);
  return checkShape(type, value);
}

/** Feeds and coats of a finish that do not fit together. @param at where it stands, with its dot */
function brokenFinish({ feeds, coats }: Finish, at: string): string[] {
  const problems: string[] = [];
  const twice = (where: string, ids: readonly string[], what: (id: string) => string) =>
    ids.forEach((id, i) => {
      if (ids.indexOf(id) !== i) problems.push(`${where}[${i}]${what(id)}`);
    });
  const check = (where: string, list: Finish['feeds'], keys: object) => {
    twice(
      where,
      list.map((f) => f.id),
      (id) => `.id: ${id} is used twice`,
    );
    twice(
      where,
      list.map((f) => f.parameter),
      (key) => `.parameter: ${key} is fed twice`,
    );
    list.forEach(({ parameter }, i) => {
      if (!Object.hasOwn(keys, parameter))
        problems.push(`${where}[${i}].parameter: there is no ${parameter} here`);
    });
  };
  check(`${at}feeds`, feeds, SURFACE);
  twice(
    `${at}coats`,
    coats.map((c) => c.id),
    (id) => `.id: ${id} is used twice`,
  );
  coats.forEach((coat, i) => check(`${at}coats[${i}].feeds`, coat.feeds, { ...SURFACE, ...COAT }));
  return problems;
}

/** Names that point nowhere, and identifiers used twice. */
function brokenReferences(project: Project): string[] {
  const problems: string[] = [];
  const finishes = new Set(project.finishes.map((f) => f.id));
  const once = (kind: string, ids: string[]) => {
    const seen = new Set<string>();
    ids.forEach((id, i) => {
      if (seen.has(id)) problems.push(`${kind}[${i}].id: ${id} is used twice`);
      seen.add(id);
    });
  };
  once(
    'blocks',
    project.blocks.map((b) => b.id),
  );
  once(
    'finishes',
    project.finishes.map((f) => f.id),
  );
  once(
    'looks',
    project.looks.map((l) => l.id),
  );
  project.finishes.forEach((finish, i) => {
    problems.push(...brokenFinish(finish, `finishes[${i}].`));
    if (finish.within !== null && !finishes.has(finish.within))
      problems.push(`finishes[${i}].within: no finish ${finish.within}`);
  });
  project.blocks.forEach((block, i) => {
    const characters = [...block.text].length;
    if (block.letters.length !== characters) {
      problems.push(`blocks[${i}].letters: ${block.letters.length} identifiers for ${characters} characters`);
    }
  });
  project.looks.forEach((look, i) =>
    look.chart.forEach((rule, j) => {
      if (rule.finish !== null && !finishes.has(rule.finish)) {
        problems.push(`looks[${i}].chart[${j}].finish: no finish ${rule.finish}`);
      }
    }),
  );
  project.pieces.forEach((piece, i) => {
    if (piece.finish !== null && !finishes.has(piece.finish)) {
      problems.push(`pieces[${i}].finish: no finish ${piece.finish}`);
    }
    piece.dressings.forEach(({ finish }, k) => {
      if (!finishes.has(finish)) problems.push(`pieces[${i}].dressings[${k}].finish: no finish ${finish}`);
    });
  });
  return problems;
}
