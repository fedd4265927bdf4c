/** The shape of plain JSON, looked at before anything walks through it: bounds in all, then class by class. */
import { DOCUMENT } from '../ceilings.ts';
import { isStorable } from './text.ts';

export type Class = new () => object;

/** What a property holds, for the first look; the rules of its class say the rest. */
interface Held {
  kind: 'object' | 'objects' | 'variants' | 'values';
  type?: () => Class;
  /** Of variants: the class of each kind. */
  classes?: Readonly<Record<string, Class>>;
  /** May be absent or null. */
  optional?: boolean;
  least?: number;
  most?: number;
}

const shapes = new WeakMap<object, Map<string, Held>>();

/** Notes what a property of a class holds. */
export const holds =
  (held: Held): PropertyDecorator =>
  (prototype, key) => {
    const known = shapes.get(prototype) ?? new Map<string, Held>();
    known.set(String(key), held);
    shapes.set(prototype, known);
  };

/** What the properties of a class hold that are no plain values, its parents' among them. */
export function shapeOf(type: Class): ReadonlyMap<string, Held> {
  const all = new Map<string, Held>();
  for (
    let prototype = type.prototype as object | null;
    prototype;
    prototype = Object.getPrototypeOf(prototype) as object | null
  )
    for (const [key, held] of shapes.get(prototype) ?? []) if (!all.has(key)) all.set(key, held);
  return all;
}

/** The class of an element of a list; null for a variant of no known kind. */
export const classOf = (held: Held, element: unknown): Class | null =>
  held.kind === 'variants'
    ? isObject(element) && Object.hasOwn(held.classes!, String(element.kind))
      ? held.classes![String(element.kind)]!
      : null
    : (held.type?.() ?? null);

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Problems told before giving up. */
const MOST_PROBLEMS = 20;
/** Names that would change what an object is. */
const FORBIDDEN = new Set(['__proto__', 'constructor', 'prototype']);

/**
 * What is wrong with JSON as a whole: nested too deep, too much of it, or text that cannot be kept.
 * Takes time with the size of the value up to the ceilings, and no more.
 */
export function boundsProblems(root: unknown): string[] {
  const problems: string[] = [];
  let objects = 0;
  let values = 0;
  const text = (value: string, path: string) => {
    if (!isStorable(value))
      problems.push(
        `${path}: holds ${value.includes('\0') ? 'a NUL' : 'half a character'}, which cannot be kept`,
      );
  };
  const stack: [value: unknown, path: string, depth: number][] = [[root, '', 1]];
  for (let next = stack.pop(); next && problems.length < MOST_PROBLEMS; next = stack.pop()) {
    const [value, path, depth] = next;
    if (typeof value === 'string') text(value, path);
    if (typeof value !== 'object' || value === null) {
      if (++values > DOCUMENT.values) return [`${path}: more than ${DOCUMENT.values} values in all`];
      continue;
    }
    if (depth > DOCUMENT.depth) return [`${path}: nested more than ${DOCUMENT.depth} deep`];
    if (++objects > DOCUMENT.objects)
      return [`${path}: more than ${DOCUMENT.objects} objects and lists in all`];
    if (Array.isArray(value)) {
      if (value.length > DOCUMENT.values)
        return [`${path}: ${value.length} entries, at most ${DOCUMENT.values}`];
      for (let i = value.length - 1; i >= 0; i--) stack.push([value[i], `${path}[${i}]`, depth + 1]);
      continue;
    }
    for (const key of Object.keys(value)) {
      const at = path ? `${path}.${key.slice(0, 80)}` : key.slice(0, 80);
      if (FORBIDDEN.has(key)) problems.push(`${at}: is not a name that can be used`);
      text(key, at);
      stack.push([(value as Record<string, unknown>)[key], at, depth + 1]);
    }
  }
  return problems;
}

/** Where a value differs from the shape that a class has noted: absent, of another kind, or too many. */
export function shapeProblems(type: Class, value: unknown, path = '', found: string[] = []): string[] {
  if (!isObject(value)) {
    found.push(`${path || 'the document'}: must be an object`);
    return found;
  }
  for (const [key, held] of shapeOf(type)) {
    if (found.length >= MOST_PROBLEMS) return found;
    const at = path ? `${path}.${key}` : key;
    const inner = value[key];
    if (inner === undefined || inner === null) {
      if (!held.optional) found.push(`${at}: is missing`);
    } else if (held.kind === 'object') shapeProblems(held.type!(), inner, at, found);
    else if (!Array.isArray(inner)) found.push(`${at}: must be a list`);
    else if (inner.length > held.most! || inner.length < (held.least ?? 0))
      found.push(`${at}: holds ${inner.length} entries; ${held.least ?? 0} to ${held.most} are taken`);
    else if (held.kind !== 'values')
      for (let i = 0; i < inner.length && found.length < MOST_PROBLEMS; i++) {
        const here = `${at}[${i}]`;
        const of = classOf(held, inner[i]);
        if (of) shapeProblems(of, inner[i], here, found);
        else if (!isObject(inner[i])) found.push(`${here}: must be an object`);
        else found.push(`${here}.kind: must be one of ${Object.keys(held.classes!).join(', ')}`);
      }
  }
  return found;
}
