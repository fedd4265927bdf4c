/** Mutated copies of a document, from a seed: fields gone, of another kind, out of range, too many, too deep. */

/** A small generator of pseudo-random numbers in [0, 1) (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

type Parent = Record<string, unknown> | unknown[];

function places(value: unknown, out: [Parent, string][] = []): [Parent, string][] {
  if (typeof value !== 'object' || value === null) return out;
  for (const key of Object.keys(value)) {
    out.push([value as Parent, key]);
    places((value as Record<string, unknown>)[key], out);
  }
  return out;
}

function odd(random: () => number): unknown {
  const values: (() => unknown)[] = [
    () => null,
    () => undefined,
    () => [],
    () => ({}),
    () => '',
    () => 'text',
    () => '\ud800',
    () => 'a\0b',
    () => -1,
    () => 1.5,
    () => 1e308,
    () => -1e308,
    () => 2 ** 31,
    () => true,
    () => [[]],
    () => [null],
    () => ({ id: null }),
    () => Array.from({ length: 3000 }, () => null),
    () => 'x'.repeat(5000),
    () => {
      let deep: unknown = 1;
      for (let i = 0; i < 40; i++) deep = [deep];
      return deep;
    },
    () => JSON.parse('{"__proto__": {"a": 1}, "constructor": 1}'),
    () => Number((random() * 1000).toFixed(3)),
  ];
  return values[Math.floor(random() * values.length)]();
}

/** One mutated copy, as JSON text that may hold whatever JSON can. */
export function mutated(document: unknown, random: () => number): string {
  const copy = structuredClone(document) as Parent;
  for (let n = 1 + Math.floor(random() * 3); n > 0; n--) {
    const all = places(copy);
    const [parent, key] = all[Math.floor(random() * all.length)];
    const how = random();
    const held = parent as Record<string, unknown>;
    if (how < 0.2) delete held[key];
    else if (how < 0.3 && Array.isArray(parent)) parent.push(structuredClone(held[key]));
    else if (how < 0.35) held[`${key}\ud83d`] = 1;
    else held[key] = odd(random);
  }
  return JSON.stringify(copy);
}
