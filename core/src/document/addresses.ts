/**
 * Addresses of parameters: `looks/<id>/rig/<id>/strength`. Things of a list are named by their identifiers, or by
 * their place where they have none.
 */
import { pieceInWords } from './names.ts';
import { conditionsOf, tableOf, type Parameter } from './parameter.ts';
import { COAT, SURFACE } from './parameters.ts';
import { Project } from './project.ts';
import type { Piece } from './stage.ts';
import { classOf, shapeOf, type Class } from './shape.ts';
import { STARTS } from './defaults.ts';

type Json = Record<string, unknown>;

/** A parameter where it stands in a document. */
export interface Placed {
  address: string;
  parameter: Parameter;
  /** What it belongs to, of which it is the field `key`. */
  owner: Json;
  key: string;
}

const NAMES_OF_FED: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries({ ...SURFACE, ...COAT }).map(([key, { name }]) => [key, name]),
);

const isJson = (value: unknown): value is Json => typeof value === 'object' && value !== null;

/** Place of a list's element by the name it has in addresses; −1 when there is none. */
function placeOf(list: readonly unknown[], name: string): number {
  const byId = list.findIndex((e) => isJson(e) && e.id === name);
  if (byId >= 0) return byId;
  const at = /^\d+$/.test(name) ? Number(name) : -1;
  return at < list.length && isJson(list[at]) && list[at].id === undefined ? at : -1;
}

/** What stands at the end of a path, with its class, and the keys and places that lead to it. */
function thingAt(
  project: Project,
  parts: readonly string[],
): { owner: Json; type: Class; path: (string | number)[] } | null {
  let owner: unknown = project;
  let type: Class | null = Project;
  const path: (string | number)[] = [];
  for (let i = 0; i < parts.length; i++) {
    const name = parts[i]!;
    const held = shapeOf(type).get(name);
    const inner: unknown = isJson(owner) ? owner[name] : undefined;
    if (!held) return null;
    path.push(name);
    if (held.kind === 'object') [owner, type] = [inner, held.type!()];
    else {
      if (!Array.isArray(inner)) return null;
      const place = placeOf(inner, parts[++i] ?? '');
      path.push(place);
      owner = inner[place];
      type = classOf(held, owner);
    }
    if (!type) return null;
  }
  return isJson(owner) ? { owner, type, path } : null;
}

/** The parameter at an address; null when the document has none there. */
export function parameterAt(project: Project, address: string): Placed | null {
  const parts = address.split('/');
  const key = parts.pop()!;
  const thing = thingAt(project, parts);
  const table = thing ? tableOf(thing.type) : {};
  return thing && Object.hasOwn(table, key)
    ? { address, parameter: table[key]!, owner: thing.owner, key }
    : null;
}

/** The document with other values at some addresses; what leads to none of them is the same as before. */
export function withValues(project: Project, values: ReadonlyMap<string, unknown>): Project {
  let root: Json = project as unknown as Json;
  const own = new Set<unknown>();
  const ownOf = (value: unknown): Json => {
    if (own.has(value)) return value as Json;
    const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as Json) }) as Json;
    own.add(copy);
    return copy;
  };
  for (const [address, value] of values) {
    const parts = address.split('/');
    const key = parts.pop()!;
    const thing = thingAt(project, parts);
    if (!thing || !Object.hasOwn(tableOf(thing.type), key)) continue;
    let at = (root = ownOf(root));
    for (const step of thing.path) at = at[step] = ownOf(at[step]);
    at[key] = value;
  }
  return root as unknown as Project;
}

/** All parameters of a document, in the order of the registry. */
export function* parametersIn(
  project: Project,
  type: Class = Project,
  owner: unknown = project,
  prefix = '',
): Generator<Placed> {
  if (!isJson(owner)) return;
  for (const [key, parameter] of Object.entries(tableOf(type)))
    yield { address: `${prefix}${key}`, parameter, owner, key };
  for (const [name, held] of shapeOf(type)) {
    const inner = owner[name];
    // what is absent has none
    if (inner === undefined) continue;
    if (held.kind === 'object') yield* parametersIn(project, held.type!(), inner, `${prefix}${name}/`);
    else if (held.kind !== 'values' && Array.isArray(inner))
      for (const [i, element] of inner.entries()) {
        const of = classOf(held, element);
        const id = isJson(element) && typeof element.id === 'string' ? element.id : String(i);
        if (of) yield* parametersIn(project, of, element, `${prefix}${name}/${id}/`);
      }
  }
}

/** The parameters of what stands at an address, such as `looks/<id>/rig/<id>`, in the order of their table. */
export function parametersAt(project: Project, address: string): Placed[] {
  const thing = thingAt(project, address.split('/'));
  if (!thing) return [];
  return Object.entries(tableOf(thing.type)).map(([key, parameter]) => ({
    address: `${address}/${key}`,
    parameter,
    owner: thing.owner,
    key,
  }));
}

/** Whether a parameter matters while its neighbours are as they are. */
export const isAsked = ({ parameter, owner }: Placed): boolean =>
  conditionsOf(parameter).every(([key, ...values]) => values.includes(owner[key] as string | boolean));

/** What a parameter starts as where it stands. */
export function initialOf({ address, parameter, key }: Placed): unknown {
  const [list, , part] = address.split('/');
  return STARTS[`${list}/${part}`]?.[key] ?? parameter.default;
}

/** "Strength of Key", or "Key off". */
const ofThing = (what: string, name: string) =>
  /^[a-z]/.test(what) ? `${name} ${what}` : `${what} of ${name}`;

/** How history speaks of a parameter, by the place it has: its own name, and that of what it belongs to. */
const SAID: readonly (readonly [RegExp, (what: string, owner: Json) => string])[] = [
  [/\/plays\/[^/]+$/, (what) => `${what}, moving picture`],
  [/^blocks\/[^/]+\/front\//, (what) => `Front bevel ${what.toLowerCase()}`],
  [/^blocks\/[^/]+\/back\//, (what) => `Back bevel ${what.toLowerCase()}`],
  [/^blocks\/[^/]+\/baseline\//, (what) => `Baseline, ${what.toLowerCase()}`],
  [/^blocks\/[^/]+\/tube\//, (what) => `Tube ${what.toLowerCase()}`],
  [/^blocks\/[^/]+\/strip\//, (what) => (/^Strip /.test(what) ? what : `Strip ${what.toLowerCase()}`)],
  [/^blocks\/[^/]+\/each\//, (what) => `Each letter, ${what.toLowerCase()}`],
  [/^blocks\/[^/]+\/poses\//, (what) => `A letter, ${what.toLowerCase()}`],
  [/^shots\/[^/]+\/camera\//, (what) => (/ camera$/.test(what) ? what : `${what}, camera`)],
  [/^shots\/[^/]+\/tracks\//, (what) => `Track, ${what.toLowerCase()}`],
  [/^shots\/[^/]+\/moves\//, (what) => `Move, ${what.toLowerCase()}`],
  [/^looks\/[^/]+\/rig\/[^/]+\/follows\//, (what) => `Following, ${what.toLowerCase()}`],
  [/^looks\/[^/]+\/rig\//, (what, owner) => ofThing(what, String(owner.name))],
  [/^looks\/[^/]+\/surround\/panels\//, (what, owner) => ofThing(what, String(owner.name))],
  [/^looks\/[^/]+\/surround\//, (what) => (/ the surround$/.test(what) ? what : `${what} of the surround`)],
  [
    /^pieces\//,
    (what, owner) => {
      const piece = owner as unknown as Piece;
      return /^[a-z]/.test(what) ? `${piece.name} ${what}` : `${what} of ${pieceInWords(piece)}`;
    },
  ],
];

/** A parameter of a finish, of one of its coats, or of what feeds them. */
function ofFinish(
  project: Project,
  finishId: string,
  coatId: string | undefined,
  feedId: string | undefined,
  what: string,
): string {
  const finish = project.finishes.find((f) => f.id === finishId);
  const worn = coatId === undefined ? finish : finish?.coats.find((c) => c.id === coatId);
  const fed = worn?.feeds.find((f) => f.id === feedId)?.parameter;
  const said = fed === undefined ? what : `${what}, ${NAMES_OF_FED[fed]?.toLowerCase()}`;
  return fed === undefined && /^[a-z]/.test(what)
    ? `${worn?.name ?? 'Coat'} ${what}`
    : `${said} of ${worn?.name ?? 'a finish'}`;
}

/** What of a parameter, and of what it belongs to. @param what the part of the name that is the parameter's own */
function saidOf(project: Project, { address, owner }: Placed, what: string): string {
  const [, said] = SAID.find(([where]) => where.test(address)) ?? [];
  const [, finish, , coat, feed] =
    /^finishes\/([^/]+)\/(coats\/([^/]+)\/)?(?:surface\/|feeds\/([^/]+)\/)?[^/]+$/.exec(address) ?? [];
  if (finish !== undefined) return ofFinish(project, finish, coat, feed, what);
  return said ? said(what, owner) : what;
}

/** What a parameter is called beside all others, as history does: "Strength of Key". */
export const parameterName = (project: Project, placed: Placed): string =>
  saidOf(project, placed, placed.parameter.history ?? placed.parameter.name);

/** What history calls a change of a parameter to a value. */
export function historyName(project: Project, placed: Placed, value: unknown): string {
  const { parameter } = placed;
  let what = parameter.history ?? parameter.name;
  if (parameter.kind === 'switch') {
    const [on, off] = parameter.turns ?? [`${what} on`, `${what} off`];
    what = value ? on : off;
  } else if (parameter.kind === 'choice') {
    const option = parameter.options.find(([v]) => v === value)?.[1] ?? String(value);
    what = `${what} → ${option}`;
  }
  return saidOf(project, placed, what);
}

/** A value of the kind and range of a parameter, as near to the given one as can be; null when none is near. */
export function fitting(parameter: Parameter, value: unknown): unknown {
  const clamped = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
  const triple = (low: number, high: number) =>
    Array.isArray(value) && value.length === 3 && value.every((v) => Number.isFinite(v))
      ? (value as number[]).map((v) => clamped(v, low, high))
      : null;
  switch (parameter.kind) {
    case 'number': {
      if (typeof value !== 'number' || !Number.isFinite(value)) return null;
      const near = clamped(value, parameter.min, parameter.max);
      return parameter.whole ? Math.round(near) : near;
    }
    case 'colour':
      return triple(0, 1);
    case 'point':
      return triple(-1000, 1000);
    case 'switch':
      return typeof value === 'boolean' ? value : null;
    case 'choice':
      return parameter.options.some(([v]) => v === value) ? value : null;
  }
}
