/** The edit that takes a balance of the traced picture over into a look: each source as much stronger or weaker. */
import {
  finishAt,
  MOST,
  wears,
  zonesOf,
  type Finish,
  type Light,
  type Project,
  type Surface,
  type Zone,
} from '../document/index.ts';
import { followed, followedBy } from '../light/following.ts';
import { glowsIn } from '../finish/glow.ts';
import { log } from '../maths/reproducible.ts';
import { hueOf } from '../light/placing.ts';
import { EditRefused, found, named, room, within, type Edit } from './edit.ts';
import { withLetters } from './patterns.ts';

/** A light seen through a colour: its hue is a colour from then on, its strength what the strongest channel needs. */
function tintLight(light: Light, tint: readonly number[]): void {
  const hue = hueOf(light).map((v, c) => v * within(tint[c] ?? 1, 0, 1));
  const most = Math.max(...hue, 1e-9);
  light.hue = 'colour';
  light.colour = hue.map((v) => v / most);
  light.strength = Math.min(MOST_STRENGTH, light.strength * most);
}

/** Has a light that follows be as strong as it was weighed, although what it follows is weighed too. */
function keepFollowing(
  light: Light,
  rig: Light[],
  finishes: Finish[],
  before: readonly Light[],
  changed: readonly Weighed[],
): void {
  const leads = followedBy(light, rig, glowsIn(finishes));
  if (!light.follows || !leads || !(leads.strength > 0)) return;
  const own = changed.find((w) => 'light' in w.source && w.source.light === light.id);
  const wanted = (before.find((l) => l.id === light.id)?.strength ?? 0) * (own?.factor ?? 1);
  if (wanted > 0) light.follows.offset = Math.min(30, Math.max(-30, log(wanted / leads.strength) / Math.LN2));
}

/** A source of light: a light of the rig, the surround, or what glows of a zone or a piece. */
export type Source =
  { light: string } | { surround: true } | { block: string; zone: Zone } | { piece: string };

/** How much stronger a source is to be; nought puts it out. A light and the surround may be tinted too. */
export interface Weighed {
  source: Source;
  factor: number;
  tint?: readonly number[];
}

/** Weakest surround, stops. */
const OUT = -20;
const STRONGEST = 20;
const MOST_NITS = 100_000;
const MOST_STRENGTH = 10_000_000;

const scaled = (v: number, factor: number, most: number) => Math.min(most, Math.max(0, v * factor));

/** A finish that gives so much more light, its coats and feeds with it. */
function brighter(finish: Finish, factor: number): Finish {
  const of = (surface: Surface): Surface => ({
    ...surface,
    emission_luminance: scaled(surface.emission_luminance, factor, MOST_NITS),
  });
  const feeds = (all: Finish['feeds']) =>
    all.map((feed) =>
      feed.parameter === 'emission_luminance'
        ? { ...feed, stops: feed.stops.map((s) => ({ ...s, value: scaled(s.value, factor, MOST_NITS) })) }
        : feed,
    );
  return {
    ...finish,
    surface: of(finish.surface),
    feeds: feeds(finish.feeds),
    coats: finish.coats.map((c) => ({ ...c, surface: of(c.surface), feeds: feeds(c.feeds) })),
  };
}

/** Faces and pieces that wear a finish, by look: names that are alike where they are the same. */
function wearers(project: Project, finish: string): Set<string> {
  const out = new Set<string>();
  const wearing = project.looks.filter((look) => look.chart.some((rule) => rule.finish === finish));
  for (const look of wearing)
    for (const block of project.blocks)
      for (const zone of zonesOf(block))
        for (const letter of block.letters)
          if (finishAt(look.chart, block.id, letter, zone) === finish)
            out.add(`${look.id} ${block.id} ${zone}`);
  for (const piece of project.pieces) if (wears(piece, finish)) out.add(`piece ${piece.id}`);
  for (const other of project.finishes) if (other.within === finish) out.add(`within ${other.id}`);
  return out;
}

/** What glows of a zone or piece gives more or less; a finish that others wear too is copied first. */
function weighGlow(
  p: Project,
  lookId: string,
  source: { block: string; zone: Zone } | { piece: string },
  factor: number,
  copyId: () => string,
): void {
  const look = found(p.looks, lookId, 'look');
  const own = (id: string): string => {
    const at = p.finishes.findIndex((f) => f.id === id);
    const worn = found(p.finishes, id, 'finish');
    const where = 'piece' in source ? `piece ${source.piece}` : `${lookId} ${source.block} ${source.zone}`;
    const all = wearers(p, id);
    if (all.size === 1 && all.has(where)) {
      p.finishes[at] = brighter(worn, factor);
      return id;
    }
    room(p.finishes, MOST.finishes, 'finishes');
    const made = named({ ...brighter(plain(worn), factor), id: copyId() }, p.finishes);
    p.finishes.splice(at + 1, 0, made);
    return made.id;
  };
  if ('piece' in source) {
    const piece = found(p.pieces, source.piece, 'piece');
    const once = new Map<string, string>();
    const weighed = (finish: string) => {
      if (!once.has(finish)) once.set(finish, own(finish));
      return once.get(finish)!;
    };
    if (piece.finish) piece.finish = weighed(piece.finish);
    // what models and plates show by themselves
    else piece.stops = within(factor === 0 ? OUT : piece.stops + log(factor) / Math.LN2, OUT, STRONGEST);
    for (const dressing of piece.dressings) if (dressing.finish) dressing.finish = weighed(dressing.finish);
    return;
  }
  const { block: id, zone } = source;
  const block = found(p.blocks, id, 'block');
  if (zone === 'points') {
    block.strip.luminance = scaled(block.strip.luminance, factor, MOST_NITS);
    return;
  }
  const now = new Map<string, string>();
  const rules = block.letters.flatMap((letter) => {
    const finish = finishAt(look.chart, id, letter, zone);
    if (finish === null) return [];
    if (!now.has(finish)) now.set(finish, own(finish));
    return now.get(finish) === finish ? [] : [{ block: id, letter, zone, finish: now.get(finish)! }];
  });
  const dressed = new Set(rules.map((r) => r.letter));
  look.chart = withLetters(
    look.chart,
    (r) => r.letter !== undefined && dressed.has(r.letter) && r.zone === zone && r.block === id,
    rules,
  );
}

/** A draft's part as plain data. */
const plain = <T>(of: T): T => JSON.parse(JSON.stringify(of)) as T;

/**
 * Makes sources of a look as much stronger or weaker as they were weighed in the picture.
 * @param copy identifier that copies of finishes are named after
 */
export function takeBalance(project: Project, look: string, weighed: readonly Weighed[], copy: string): Edit {
  const changed = weighed.filter((w) => w.factor !== 1 || w.tint);
  if (changed.length === 0) throw new EditRefused('nothing is weighed anew');
  if (changed.some((w) => !(w.factor >= 0) || w.factor === Infinity))
    throw new EditRefused('that is not a number');
  found(project.looks, look, 'look');
  return {
    label: 'Balance of the light',
    make: (p) => {
      const of = found(p.looks, look, 'look');
      const before = followed(of.rig, glowsIn(p.finishes));
      let copies = 0;
      const copyId = () => `${copy.slice(0, 56)}-${++copies}`;
      for (const { source, factor, tint } of changed) {
        if ('light' in source) {
          const light = found(of.rig, source.light, 'light');
          if (factor === 0) light.on = false;
          else light.strength = scaled(light.strength, factor, MOST_STRENGTH);
          if (tint) tintLight(light, tint);
        } else if ('surround' in source) {
          const stops = factor === 0 ? OUT : of.surround.stops + log(factor) / Math.LN2;
          of.surround.stops = Math.min(STRONGEST, Math.max(OUT, stops));
          if (tint) of.surround.tint = of.surround.tint.map((v, c) => within(v * (tint[c] ?? 1), 0, 1));
        } else weighGlow(p, look, source, factor, copyId);
      }
      for (const light of of.rig) keepFollowing(light, of.rig, p.finishes, before, changed);
    },
  };
}
