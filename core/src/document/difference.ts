/** Two versions of a document side by side: where they differ, and one put back to the other in places. */

type Json = unknown;
const isObject = (v: Json): v is Record<string, Json> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

export interface Difference {
  /** Names on the way down: "Dusk chrome", "Key", "strength". */
  where: string[];
  /** Undefined where one side has nothing of the kind. */
  mine: Json;
  theirs: Json;
}

const idOf = (v: Json) => (isObject(v) && typeof v.id === 'string' ? v.id : null);
const nameOf = (v: Json, otherwise: string) => {
  if (!isObject(v)) return otherwise;
  if (typeof v.name === 'string') return v.name;
  if (typeof v.text === 'string') return v.text.split('\n', 1).join('').slice(0, 40) || otherwise;
  return typeof v.kind === 'string' ? v.kind : otherwise;
};

/** Lists whose members have identifiers are compared by them; others place by place. */
function pairs(mine: Json[], theirs: Json[]): [mine: Json, theirs: Json, name: string][] {
  const named = [...mine, ...theirs].every((v) => idOf(v) !== null);
  if (!named) {
    return Array.from({ length: Math.max(mine.length, theirs.length) }, (_, i) => [
      mine[i],
      theirs[i],
      nameOf(mine[i] ?? theirs[i], String(i + 1)),
    ]);
  }
  const others = new Map(theirs.map((v) => [idOf(v), v]));
  const own = new Set(mine.map(idOf));
  return [
    ...mine.map((v): [Json, Json, string] => [v, others.get(idOf(v)), nameOf(v, 'one')]),
    ...theirs
      .filter((v) => !own.has(idOf(v)))
      .map((v): [Json, Json, string] => [undefined, v, nameOf(v, 'one')]),
  ];
}

/**
 * Where two versions differ, deepest places first named; lists of numbers count as one value.
 * @param most differences after which no more are looked for
 */
export function differences(mine: Json, theirs: Json, most = 1000): Difference[] {
  const found: Difference[] = [];
  const compare = (a: Json, b: Json, where: string[]): void => {
    if (found.length >= most || a === b) return;
    if (isObject(a) && isObject(b)) {
      for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
        compare(a[key], b[key], [...where, key]);
    } else if (Array.isArray(a) && Array.isArray(b)) {
      const plain = [...a, ...b].every((v) => typeof v !== 'object');
      if (!plain) for (const [x, y, name] of pairs(a, b)) compare(x, y, [...where, name]);
      else if (a.length !== b.length || a.some((v, i) => v !== b[i]))
        found.push({ where, mine: a, theirs: b });
    } else found.push({ where, mine: a, theirs: b });
  };
  compare(mine, theirs, []);
  return found;
}

/** Whether two values are the same JSON, in whatever order their keys are. */
export const sameJson = (a: Json, b: Json) => differences(a, b, 1).length === 0;

/** "looks[0].rig[1].strength" as its keys and indices. */
const keysOf = (path: string) =>
  [...path.matchAll(/([^.[\]]+)|\[(\d+)\]/g)].map(([, key, index]) =>
    key === undefined ? Number(index) : key,
  );

/**
 * A copy of a document with some places as they are in another version: a value goes back to what it was, a new
 * member of a list goes.
 * @param paths as the door names them
 * @returns null when a place cannot be found
 */
export function putBack<T>(document: T, other: T, paths: string[]): T | null {
  const made = structuredClone(document);
  /** Members to take out once all paths have been followed, by their lists. */
  const gone = new Map<Json[], Set<number>>();
  for (const path of new Set(paths)) {
    const keys = keysOf(path);
    let [at, from]: [Json, Json] = [made, other];
    for (const [i, key] of keys.entries()) {
      const last = i === keys.length - 1;
      if (typeof key === 'number') {
        if (!Array.isArray(at) || key >= at.length) return null;
        const member: Json = at[key];
        const id = idOf(member);
        const twin: Json = !Array.isArray(from)
          ? undefined
          : id === null
            ? from[key]
            : from.find((v) => idOf(v) === id);
        if (twin === undefined) {
          gone.set(at, (gone.get(at) ?? new Set()).add(key));
          break;
        }
        if (last) at[key] = structuredClone(twin);
        [at, from] = [member, twin];
      } else {
        if (!isObject(at) || !isObject(from)) return null;
        if (last) {
          if (key in from) at[key] = structuredClone(from[key]);
          else delete at[key];
        }
        [at, from] = [at[key], from[key]];
      }
    }
  }
  for (const [list, members] of gone)
    for (const index of [...members].sort((a, b) => b - a)) list.splice(index, 1);
  return made;
}
