import { describe, expect, it } from 'vitest';
import {
  conditionsOf,
  fitting,
  historyName,
  initialOf,
  isAsked,
  newFeed,
  newLight,
  newPanel,
  newPiece,
  newPlayback,
  newProject,
  openDocument,
  parameterAt,
  parametersAt,
  parametersIn,
  type Parameter,
  type Project,
} from '../../src/document/index.ts';
import { setParameter } from '../../src/edits/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';

/** Every parameter of a finish is in some of these: plain ones, one that is fed, and one with coats. */
const FINISHES = [
  ...READY_FINISHES.slice(0, 3),
  READY_FINISHES.find((f) => f.feeds.length > 1)!,
  READY_FINISHES.find((f) => f.feeds.some((feed) => feed.source === 'picture'))!,
  READY_FINISHES.find((f) => f.coats.some((c) => c.feeds.length > 0))!,
];

function project(finishes = FINISHES): Project {
  const p = newProject('Ostrel', 'OSTREL', structuredClone(finishes));
  p.looks[0].rig = [newLight('area', 'Key'), newLight('spot', 'Rim'), newLight('directional', 'Low sun')];
  // with moving pictures wherever there may be some
  const moving = () => ({
    source: 'asset' as const,
    id: 'a'.repeat(64),
    name: 'lamps.webm',
    plays: newPlayback(48, 24),
  });
  const spot = p.looks[0].rig[1];
  if (spot.kind === 'spot') spot.pattern = moving();
  p.looks[0].surround.plays = newPlayback(48, 24);
  p.looks[0].surround.panels.push(newPanel('Window', { picture: moving() }));
  p.pieces.push(newPiece('plate', { picture: moving() }), newPiece('model'));
  p.finishes[0].feeds.push({ ...newFeed('f', 'base_color', [1, 1, 1]), picture: moving() });
  return p;
}

/** A value that the registry says is not taken, where there is one. */
function beyond(parameter: Parameter): unknown[] {
  if (parameter.kind === 'number')
    return [parameter.max * 1.01 + 1, parameter.min - 1, NaN, 'much', ...(parameter.whole ? [1.5] : [])];
  if (parameter.kind === 'colour') return [[0, 0, 1.1], [0, 0], 'red'];
  if (parameter.kind === 'point')
    return [
      [0, 0, 1001],
      [0, 0, 0, 0],
    ];
  return ['nothing of the kind'];
}

describe('the registry', () => {
  it('is what the door goes by: every parameter takes its bounds and refuses what is beyond, by its address', () => {
    // one finish: each document is opened some thousand times
    const p = project(FINISHES.slice(0, 1));
    let count = 0;
    for (const { address, parameter, key } of parametersIn(p)) {
      const set = (value: unknown) => {
        const copy = structuredClone(p);
        parameterAt(copy, address)!.owner[key] = value;
        return copy;
      };
      const good =
        parameter.kind === 'number'
          ? [parameter.min, parameter.max, parameter.default]
          : parameter.kind === 'choice'
            ? parameter.options.map(([v]) => v)
            : parameter.kind === 'switch'
              ? [true, false]
              : [parameter.default];
      for (const value of good) expect(() => openDocument(set(value)), address).not.toThrow();
      for (const value of beyond(parameter))
        expect(() => openDocument(set(value)), `${address} ${String(value)}`).toThrow(new RegExp(key));
      count++;
    }
    expect(count).toBeGreaterThan(100);
  });

  it('has a default within its own range for each, and new things start with them', () => {
    const p = project();
    for (const placed of parametersIn(p)) {
      const { parameter, owner, key, address } = placed;
      expect(fitting(parameter, parameter.default), address).toEqual(parameter.default);
      if (/^(blocks|shots)\//.test(address)) expect(owner[key], address).toEqual(initialOf(placed));
    }
    expect(p.blocks[0].back.profile).toBe('straight');
  });

  it('names every parameter once among its neighbours, and says what it turns on and off', () => {
    const p = project();
    const seen = new Map<string, Set<string>>();
    for (const { address, parameter } of parametersIn(p)) {
      const place = address.slice(0, address.lastIndexOf('/'));
      const names = seen.get(place) ?? new Set();
      seen.set(place, names);
      expect(names.has(parameter.name), `${address}: ${parameter.name}`).toBe(false);
      names.add(parameter.name);
      expect(parameterAt(p, address), address).not.toBeNull();
      expect(historyName(p, parameterAt(p, address)!, parameter.default), address).not.toMatch(
        /undefined|null/,
      );
      for (const [key] of conditionsOf(parameter))
        expect(
          // what a thing is stands beside its parameters
          key === 'kind' || parametersAt(p, place).some((q) => q.key === key),
          address,
        ).toBe(true);
    }
  });

  it('speaks of changes as history shows them', () => {
    const p = project();
    const [key, rim] = p.looks[0].rig;
    const look = `looks/${p.looks[0].id}`;
    const said = (address: string, value: unknown) => historyName(p, parameterAt(p, address)!, value);
    expect(said(`${look}/rig/${key.id}/strength`, 4)).toBe('Strength of Key');
    expect(said(`${look}/rig/${rim.id}/on`, false)).toBe('Rim off');
    expect(said(`${look}/rig/${rim.id}/solo`, true)).toBe('Rim solo');
    expect(said(`${look}/rig/${rim.id}/shadow`, false)).toBe('No shadow of Rim');
    expect(said(`pieces/${p.pieces[0].id}/on`, false)).toBe('Floor off');
    expect(said(`${look}/surround/seen`, true)).toBe('Show the surround');
    expect(said(`${look}/grade/exposure`, 1)).toBe('Exposure');
    expect(said(`blocks/${p.blocks[0].id}/front/width`, 0.1)).toBe('Front bevel width');
    expect(said(`blocks/${p.blocks[0].id}/weld`, true)).toBe('Weld letters');
    expect(said(`finishes/${p.finishes[0].id}/surface/specular_roughness`, 0.1)).toBe(
      `Roughness of ${p.finishes[0].name}`,
    );
    expect(said(`pieces/${p.pieces[0].id}/at`, 0.1)).toBe('Place of the floor');
  });

  it('asks only for what matters beside its neighbours', () => {
    const p = project();
    const rig = `looks/${p.looks[0].id}/rig/${p.looks[0].rig[0].id}`;
    const asked = (key: string) => isAsked(parameterAt(p, `${rig}/${key}`)!);
    expect([asked('kelvin'), asked('colour')]).toEqual([true, false]);
    p.looks[0].rig[0].hue = 'colour';
    expect([asked('kelvin'), asked('colour')]).toEqual([false, true]);
  });

  it('finds nothing at addresses that lead nowhere, and edits there are refused', () => {
    const p = project();
    for (const address of ['', 'looks', 'blocks/none/depth', 'name', 'blocks/0/depth', 'looks/x/rig/y/z/q'])
      expect(parameterAt(p, address), address).toBeNull();
    expect(() => setParameter(p, 'blocks/none/depth', 1)).toThrow(/any more/);
    expect(() => setParameter(p, `blocks/${p.blocks[0].id}/depth`, 'deep')).toThrow(/Depth cannot be/);
  });

  it('gives older documents the default of what came after them, and newer ones nothing', () => {
    const p = project() as unknown as { version: number; pieces: Record<string, unknown>[] };
    const table = parametersAt(p as unknown as Project, `pieces/${String(p.pieces[0].id)}`);
    const at = table.find((q) => q.key === 'at')!.parameter;
    delete p.pieces[0].at;
    expect(() => openDocument(structuredClone(p))).toThrow(/pieces\[0\]\.at/);
    at.since = p.version;
    try {
      expect(openDocument({ ...structuredClone(p), version: p.version - 1 }).pieces[0].at).toBe(0);
      expect(() => openDocument(structuredClone(p))).toThrow(/pieces\[0\]\.at/);
    } finally {
      delete at.since;
    }
  });
});
