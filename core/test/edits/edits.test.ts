import fc from 'fast-check';
import { applyPatches, enablePatches } from 'immer';
import { describe, expect, it } from 'vitest';
import {
  BASELINES,
  FAMILIES,
  FED_KEYS,
  FORMS,
  LETTER_ORDERS,
  LIGHT_KINDS,
  MOST,
  MOVE_KINDS,
  newBlock,
  newCoat,
  newFeed,
  newKey,
  newId,
  newLight,
  newMove,
  newPanel,
  newPiece,
  newPose,
  newProject,
  newShot,
  newTrack,
  openDocument,
  PANEL_SHAPES,
  parametersIn,
  PROFILES,
  ZONES,
  zonesOf,
  type Project,
} from '../../src/document/index.ts';
import * as edits from '../../src/edits/index.ts';
import { lightsOf, rigOf } from '../../src/light/rigs.ts';
import { seenAt } from '../../src/motion/seen.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';

enablePatches();

/** Finishes of several coats, fed and plain, and a tube drawn with the pen. */
function plain(): Project {
  const project = newProject('Ostrel', 'OSTREL', structuredClone(READY_FINISHES.slice(0, 4)));
  project.looks[0].rig.push(newLight('spot', 'Spot'));
  project.looks[0].surround.panels.push(newPanel('Window'), newPanel('Sky', { shape: 'ramp' }));
  project.blocks[0].tube.drawn.push({ id: 't1', closed: false, nodes: nodes([1, 2, 3, 4, 5]) });
  for (const of of project.finishes.slice(0, 2)) {
    of.feeds.push(newFeed('f1', 'base_color', [1, 0, 0]), newFeed('f2', 'relief', 0));
    of.coats.push(
      newCoat({ id: 'c1', name: 'Patina', feeds: [newFeed('f3', 'cover', 0.5)] }),
      newCoat({ id: 'c2', name: 'Wax' }),
    );
  }
  project.blocks[0].poses.push(newPose(project.blocks[0].letters[1]));
  project.pieces.push(newPiece('plate', { id: 'plate' }), newPiece('model', { id: 'model' }));
  project.shots[0].tracks.push(
    newTrack(`looks/${project.looks[0].id}/grade/exposure`, [newKey(0, [0]), newKey(1, [1])]),
  );
  project.shots[0].moves.push(newMove('swing', `shots/${project.shots[0].id}/camera/azimuth`));
  project.shots.push(newShot({ name: 'Close' }));
  return project;
}

/** Chooses from a list by a number; undefined from an empty one. */
const pick = <T>(list: readonly T[], n: number): T =>
  list[(Number.isFinite(n) ? Math.abs(Math.floor(n)) : 0) % Math.max(1, list.length)];

const BUILT = ['floor', 'wall', 'backdrop', 'table', 'niche', 'grid'] as const;
const PLATE = { source: 'painted', id: 'hull-paint', name: 'Hull paint' } as const;

/** How each edit is made from a document and five numbers, which may be anything at all. */
type Maker = (p: Project, n: readonly number[], text: string) => edits.Edit | null;
const block = (p: Project, n: number) => pick(p.blocks, n)?.id ?? 'none';
const look = (p: Project, n: number) => pick(p.looks, n).id;
const light = (p: Project, l: number, n: number) => pick(pick(p.looks, l).rig, n)?.id ?? 'none';
const lightOf = (p: Project, l: number, kinds: readonly string[]) =>
  pick(p.looks, l).rig.find((of) => kinds.includes(of.kind))?.id ?? 'none';
const panel = (p: Project, l: number, n: number) => pick(pick(p.looks, l).surround.panels, n)?.id ?? 'none';
const finish = (p: Project, n: number) => pick(p.finishes, n)?.id ?? null;
const coat = (p: Project, f: number, n: number) => pick(pick(p.finishes, f)?.coats ?? [], n)?.id ?? null;
const feeds = (p: Project, f: number, of: string | null) => {
  const worn = pick(p.finishes, f);
  return (of === null ? worn : worn?.coats.find((c) => c.id === of))?.feeds ?? [];
};
const piece = (p: Project, n: number) => pick(p.pieces, n)?.id ?? 'none';
const node = (n: readonly number[]) => ({
  x: n[0] % 900,
  y: n[1] % 900,
  inX: n[2] % 9,
  inY: 0,
  outX: n[3] % 9,
  outY: 0,
});
const nodes = (n: readonly number[]) => [node(n), node([...n].reverse())].map((v) => fixed(v));
const fixed = <T extends object>(v: T): T =>
  Object.fromEntries(Object.entries(v).map(([k, x]) => [k, Number.isFinite(x) ? (x as number) : 0])) as T;
let made = 0;
const id = () => `made-${made++}`;

const shot = (p: Project) => p.shots[0].id;
const keyedAddresses = (p: Project) =>
  [...parametersIn(p)].filter(({ parameter }) => parameter.keyed && parameter.kind !== 'choice');
/** Some of the keys there are. */
const keyRefs = (p: Project, n: number): edits.KeyRef[] =>
  p.shots[0].tracks.flatMap((t) =>
    t.keys.filter((_, i) => (i + Math.floor(n)) % 2 === 0).map(({ at }) => ({ track: t.id, at })),
  );
const MAKERS: Record<string, Maker> = {
  keyParameter: (p, [a, b, c]) => {
    const { address, owner, key } = pick(keyedAddresses(p), a);
    const value = owner[key];
    return edits.keyParameter(p, shot(p), address, Math.abs(b), typeof value === 'number' ? c : value);
  },
  removeKeys: (p, [a]) => edits.removeKeys(p, shot(p), keyRefs(p, a).slice(0, 2)),
  removeTrack: (p, [a]) => edits.removeTrack(p, shot(p), pick(p.shots[0].tracks, a)?.id ?? 'none'),
  retimeKeys: (p, [a, b, c, d, e]) =>
    edits.retimeKeys(p, shot(p), keyRefs(p, a), { from: b, times: c, by: d, copies: e > 0 }),
  changeKeys: (p, [a, b, c]) =>
    edits.changeKeys(p, shot(p), keyRefs(p, a), b > 0 ? { ease: 'eased', x1: b, y1: c } : { value: [b] }),
  addMove: (p, [a, b]) =>
    edits.addMove(p, shot(p), pick(MOVE_KINDS, b), pick(keyedAddresses(p), a).address, {
      letters: pick(LETTER_ORDERS, b),
    }),
  steerMove: (p, [a, b]) => edits.steerMove(p, shot(p), pick(p.shots[0].moves, a)?.id ?? 'none', b),
  removeMove: (p, [a]) => edits.removeMove(p, shot(p), pick(p.shots[0].moves, a)?.id ?? 'none'),
  addShot: (p, [a]) => edits.addShot(p, pick(p.shots, a).id, newId()),
  renameShot: (p, [a], text) => edits.renameShot(p, pick(p.shots, a).id, text),
  removeShot: (p, [a]) => edits.removeShot(p, pick(p.shots, a).id),
  aimAtType: (p, [l, n]) => edits.aimAtType(p, look(p, l), light(p, l, n)),
  standLight: (p, [l, n, x, y, z]) => edits.standLight(p, look(p, l), light(p, l, n), [x, y, z]),
  timed: (p, [a, b, c, d, e], text) => {
    const frame = Number.isFinite(d) ? Math.abs(Math.floor(d)) : 0;
    const edit = pick([MAKERS.setParameter, MAKERS.keyParameter, MAKERS.removeTrack, MAKERS.moveLight], e)(
      seenAt(p, shot(p), frame),
      [a, b, c, d, e],
      text,
    );
    return edit && edits.timed(edit, shot(p), frame);
  },
  setParameter: (p, [a, b]) => {
    const all = [...parametersIn(p)];
    const { address, parameter } = pick(all, a);
    const value =
      parameter.kind === 'number'
        ? b
        : parameter.kind === 'choice'
          ? pick(parameter.options, b)[0]
          : parameter.kind === 'switch'
            ? b > 0
            : [b, a, b / 2];
    return edits.setParameter(p, address, value);
  },
  setAxis: (p, [a, b, c]) =>
    edits.setAxis(p, `blocks/${block(p, a)}/place/position`, Math.abs(Math.floor(b)) % 3, c),
  takeBalance: (p, [a, b, c]) => {
    const look = pick(p.looks, a);
    if (!look) return null;
    const factor = Math.abs(b) % 4;
    const at = pick(p.blocks, c);
    const light = pick(look.rig, c);
    return edits.takeBalance(
      p,
      look.id,
      [
        { source: { surround: true }, factor },
        ...(light ? [{ source: { light: light.id }, factor }] : []),
        ...(at ? [{ source: { block: at.id, zone: pick(zonesOf(at), b) }, factor }] : []),
      ],
      newId(),
    );
  },
  renameProject: (p, _n, text) => edits.renameProject(p, text),
  setText: (p, [a], text) => edits.setText(p, block(p, a), text),
  setFont: (p, [a]) => edits.setFont(p, block(p, a), { source: 'shipped', id: 'anton', name: 'Anton' }),
  setKern: (p, [a, b, c]) =>
    edits.setKern(p, block(p, a), pick(pick(p.blocks, a)?.letters ?? [], b) ?? 'x', c),
  poseLetter: (p, [a, b]) =>
    edits.poseLetter(p, block(p, a), pick(pick(p.blocks, a)?.letters ?? [], b) ?? 'x'),
  placeLetter: (p, [a, b, c]) =>
    edits.placeLetter(p, block(p, a), pick(pick(p.blocks, a)?.poses ?? [], a)?.id ?? 'x', (pose) => ({
      shift: [b, c, pose.shift[2]],
      roll: pose.roll + b,
    })),
  unposeLetter: (p, [a]) =>
    edits.unposeLetter(p, block(p, a), pick(pick(p.blocks, a)?.poses ?? [], a)?.id ?? 'x'),
  resetKerning: (p, [a]) => edits.resetKerning(p, block(p, a)),
  setFeature: (p, [a, b]) =>
    edits.setFeature(p, block(p, a), { tag: 'ss01', name: 'Set', byItself: false }, b > 0),
  setFontAxis: (p, [a, b]) =>
    edits.setFontAxis(
      p,
      block(p, a),
      { tag: 'wght', name: 'Weight', initial: 400 },
      Number.isFinite(b) ? b : 0,
    ),
  addBlock: (p, [a]) => edits.addBlock(p, newBlock('TIDE', { capHeight: 0.1 + (Math.abs(a) % 1 || 0) })),
  copyBlock: (p, [a]) => edits.copyBlock(p, block(p, a), id()),
  removeBlock: (p, [a]) => edits.removeBlock(p, block(p, a)),
  setForm: (p, [a, b]) => edits.setForm(p, block(p, a), pick(FORMS, b)),
  setProfile: (p, [a, b, c]) => edits.setProfile(p, block(p, a), b > 0 ? 'front' : 'back', pick(PROFILES, c)),
  placeBlock: (p, [a, b, c]) =>
    edits.placeBlock(p, block(p, a), 'Stand', {
      y: Number.isFinite(b) ? b : undefined,
      upright: c > 0,
    }),
  setBaseline: (p, n) => edits.setBaseline(p, block(p, n[0]), pick(BASELINES, n[1]), nodes(n)),
  bendBaseline: (p, n) => edits.bendBaseline(p, block(p, n[0]), nodes(n)),
  addDrawnTube: (p, n) => edits.addDrawnTube(p, block(p, n[0]), nodes(n)),
  removeLastTube: (p, [a]) => edits.removeLastTube(p, block(p, a)),
  bendTube: (p, n) =>
    edits.bendTube(
      p,
      block(p, n[0]),
      pick(pick(p.blocks, n[0])?.tube.drawn ?? [], n[1])?.id ?? 'x',
      nodes(n),
    ),
  paintTube: (p, [a, b, c, d]) =>
    edits.paintTube(
      p,
      block(p, a),
      pick(pick(p.blocks, a)?.letters ?? ['l'], b) ?? 'l',
      0,
      fixed({ c }).c,
      fixed({ d }).d,
    ),
  clearPaint: (p, [a, b]) => edits.clearPaint(p, block(p, a), 'l', 0, b),
  clearAllPaint: (p, [a]) => edits.clearAllPaint(p, block(p, a)),
  setStripColour: (p, [a, b, c]) =>
    edits.setStripColour(p, block(p, a), Math.abs(Math.floor(b)) % 3, [fixed({ c }).c, 0, 1]),
  addStripColour: (p, [a]) => edits.addStripColour(p, block(p, a)),
  removeStripColour: (p, [a, b]) => edits.removeStripColour(p, block(p, a), Math.abs(Math.floor(b)) % 3),
  dressFaces: (p, [a, b, c, d]) =>
    edits.dressFaces(
      p,
      look(p, a),
      {
        ...(b > 0 ? { block: block(p, b) } : {}),
        ...(c > 0 ? { letter: pick(pick(p.blocks, b)?.letters ?? [], c) } : {}),
        ...(d > 0 ? { zone: pick(ZONES, d) } : {}),
      },
      a > 0 ? finish(p, c) : null,
      b > 0 && c > 0 && d > 0 ? pick(p.blocks, b)?.letters : [],
    ),
  paintFace: (p, [a, b, c]) => {
    const of = pick(p.blocks, b);
    const letter = of && pick(of.letters, c);
    if (!letter) return null;
    return edits.paintFace(p, look(p, a), { block: of.id, letter, zone: pick(zonesOf(of), c) }, finish(p, a));
  },
  addFinish: (p, [a]) => edits.addFinish(p, a > 0 ? (pick(p.finishes, a) ?? null) : null, id()),
  renameFinish: (p, [a], text) => edits.renameFinish(p, finish(p, a) ?? 'none', text),
  setTags: (p, [a], text) => edits.setTags(p, finish(p, a) ?? 'none', [text, ' spar', 'spar ', '']),
  setFamily: (p, [a, b]) => edits.setFamily(p, finish(p, a) ?? 'none', pick(FAMILIES, b)),
  setReflectance: (p, [a]) => edits.setReflectance(p, finish(p, a) ?? 'none', { specular_ior: 1.7 }),
  setWithin: (p, [a, b, c]) => edits.setWithin(p, finish(p, a) ?? 'none', b > 0 ? finish(p, c) : null),
  addCoat: (p, [a, b, c]) =>
    edits.addCoat(p, finish(p, a) ?? 'none', b > 0 ? pick(READY_FINISHES, c) : null, newId()),
  renameCoat: (p, [a, b], text) =>
    edits.renameCoat(p, finish(p, a) ?? 'none', coat(p, a, b) ?? 'none', text || 'Coat'),
  removeCoat: (p, [a, b]) => edits.removeCoat(p, finish(p, a) ?? 'none', coat(p, a, b) ?? 'none'),
  soloCoat: (p, [a, b]) => edits.soloCoat(p, finish(p, a) ?? 'none', coat(p, a, b) ?? 'none'),
  moveCoat: (p, [a, b, c]) => edits.moveCoat(p, finish(p, a) ?? 'none', coat(p, a, b) ?? 'none', c),
  feedParameter: (p, [a, b, c]) =>
    edits.feedParameter(p, finish(p, a) ?? 'none', b > 0 ? coat(p, a, b) : null, pick(FED_KEYS, c), newId()),
  removeFeed: (p, [a, b, c]) => {
    const of = b > 0 ? coat(p, a, b) : null;
    return edits.removeFeed(p, finish(p, a) ?? 'none', of, pick(feeds(p, a, of), c)?.id ?? 'none');
  },
  setStops: (p, [a, b, c, d]) => {
    const of = b > 0 ? coat(p, a, b) : null;
    const stop = { at: c, value: 2, colour: [c, c, 1] };
    const more = { at: 0.5, value: d, colour: [0, 1, 0] };
    return edits.setStops(p, finish(p, a) ?? 'none', of, pick(feeds(p, a, of), c)?.id ?? 'none', [
      stop,
      more,
    ]);
  },
  feedPicture: (p, [a, b, c, d]) => {
    const of = b > 0 ? coat(p, a, b) : null;
    const picture =
      d > 0.5
        ? { source: 'asset' as const, id: 'ab'.repeat(32), name: 'Scan' }
        : { source: 'painted' as const, id: 'canvas', name: 'Canvas' };
    return edits.feedPicture(p, finish(p, a) ?? 'none', of, pick(feeds(p, a, of), c)?.id ?? 'none', picture);
  },
  layPicture: (p, [a, b, c, d]) => {
    const of = b > 0 ? coat(p, a, b) : null;
    const place = { shift_x: d * 40 - 20, zoom: d * 300, turn: c * 9 - 4 };
    return edits.layPicture(p, finish(p, a) ?? 'none', of, pick(feeds(p, a, of), c)?.id ?? 'none', place);
  },
  paintParameter: (p, [a, b, c, d]) => {
    const of = b > 0 ? coat(p, a, b) : null;
    const key = pick([...FED_KEYS], c) ?? 'cover';
    const picture = { source: 'asset' as const, id: 'cd'.repeat(32), name: 'Painted by hand' };
    const sheet = { tile: d * 200, shift_x: d * 40 - 20, shift_y: 0.5 };
    return edits.paintParameter(p, finish(p, a) ?? 'none', of, key, newId(), picture, sheet);
  },
  dressPattern: (p, [a, b, c, d]) =>
    edits.dressPattern(
      p,
      look(p, a),
      block(p, b),
      pick(Object.keys(edits.PATTERNS) as edits.Pattern[], c),
      d > 0.5 ? 'front' : null,
      finish(p, d),
    ),
  copyDress: (p, [a, b, c]) => {
    const of = pick(p.blocks, b);
    const letter = of && pick(of.letters, c);
    if (!of || !letter) throw new edits.EditRefused('no letter');
    const to = of.letters.map((l) => ({ block: of.id, letter: l }));
    return edits.copyDress(p, look(p, a), { block: of.id, letter }, to);
  },
  ownFinish: (p, [a, b]) => edits.ownFinish(p, look(p, a), finish(p, b) ?? 'none', newId()),
  removeFinish: (p, [a, b]) => edits.removeFinish(p, finish(p, a) ?? 'none', b > 0 ? finish(p, b) : null),
  addLights: (p, [a, b]) => edits.addLights(p, look(p, a), [newLight(pick(LIGHT_KINDS, b), 'Lamp')]),
  cardsAndStrips: (p, [a, b, c]) =>
    edits.addLights(p, look(p, a), edits.cardsAndStrips(1, { azimuth: b % 3 || 0, elevation: c % 1.5 || 0 })),
  threePoint: (p, [a]) => edits.addLights(p, look(p, a), edits.threePoint(1), 'Key, fill and rim'),
  copyLight: (p, [a, b, c]) => edits.copyLight(p, look(p, a), light(p, a, b), id(), c > 0),
  removeLights: (p, [a, b]) => edits.removeLights(p, look(p, a), [light(p, a, b)]),
  renameLight: (p, [a, b], text) => edits.renameLight(p, look(p, a), light(p, a, b), text),
  setTogether: (p, [a, b, c, d]) => {
    const of = `looks/${look(p, a)}/rig`;
    return edits.setTogether(p, `${of}/${light(p, a, b)}/strength`, [`${of}/${light(p, a, c)}`], d);
  },
  moveLights: (p, [a, b, c, d]) =>
    edits.moveLights(p, look(p, a), [light(p, a, b), light(p, a, c)], fixed({ azimuth: c, elevation: d })),
  standBefore: (p, [a, b, c, d, e]) =>
    edits.standBefore(p, look(p, a), light(p, a, b), [c, d, e], [0, 0, 1], e),
  outlineLight: (p, [a, , c, d]) =>
    edits.outlineLight(
      p,
      look(p, a),
      lightOf(p, a, ['area']),
      [c, d, 0, 0.2].map((x, i) => ({ x, y: i * d })),
    ),
  letterLight: (p, [a], text) => edits.letterLight(p, look(p, a), lightOf(p, a, ['area']), { text }),
  patternLight: (p, [a, , c]) =>
    edits.patternLight(
      p,
      look(p, a),
      lightOf(p, a, ['spot']),
      c > 0 ? { source: 'painted', id: 'panes', name: 'Wheelhouse window' } : null,
    ),
  profileLight: (p, [a, b, c]) =>
    edits.profileLight(
      p,
      look(p, a),
      lightOf(p, a, b > 0 ? ['spot'] : ['point', 'spot']),
      c > 0 ? { source: 'ready', id: 'beam', name: 'Narrow beam', candela: 0, lumens: 0.1 } : null,
    ),
  takeRig: (p, [a, b, c]) => {
    const kept = rigOf('Kept', 0.5 + Math.abs(Number.isFinite(b) ? b % 9 : 1), pick(p.looks, a).rig);
    return kept.lights.length > 0
      ? edits.takeRig(p, look(p, a), kept.name, lightsOf(kept, 2, id), c > 0)
      : null;
  },
  picturePanel: (p, [a, b, c]) =>
    edits.picturePanel(
      p,
      look(p, a),
      panel(p, a, b),
      c > 0 ? { source: 'painted', id: 'canvas', name: 'Canvas' } : null,
    ),
  sizePanel: (p, [a, b, c, d, e]) =>
    edits.sizePanel(p, look(p, a), panel(p, a, b), { width: c, height: d, turn: e }),
  moveLight: (p, [a, b, c, d]) =>
    edits.moveLight(p, look(p, a), light(p, a, b), fixed({ azimuth: c, elevation: d })),
  followLight: (p, [a, b, c]) =>
    edits.followLight(
      p,
      look(p, a),
      light(p, a, b),
      c > 2
        ? { source: 'finish', id: finish(p, c) ?? 'none' }
        : c > 0
          ? { source: 'light', id: light(p, a, c) }
          : null,
    ),
  fallOn: (p, [a, b, c]) =>
    edits.fallOn(p, look(p, a), light(p, a, b), c > 0 ? [block(p, c), piece(p, c)] : []),
  addPanels: (p, [a, b]) =>
    edits.addPanels(p, look(p, a), [newPanel('Box', { shape: pick(PANEL_SHAPES, b) })]),
  copyPanel: (p, [a, b]) => edits.copyPanel(p, look(p, a), panel(p, a, b), id()),
  removePanel: (p, [a, b]) => edits.removePanel(p, look(p, a), panel(p, a, b)),
  renamePanel: (p, [a, b], text) => edits.renamePanel(p, look(p, a), panel(p, a, b), text || 'Window'),
  movePanel: (p, [a, b, c, d]) =>
    edits.movePanel(p, look(p, a), panel(p, a, b), fixed({ azimuth: c, elevation: d })),
  raisePanel: (p, [a, b, c]) => edits.raisePanel(p, look(p, a), panel(p, a, b), c),
  setPanelStops: (p, [a, b, c, d]) =>
    edits.setPanelStops(p, look(p, a), panel(p, a, b), [
      { at: edits.within(c || 0, 0, 1), value: edits.within(d || 0, -9, 9), colour: [1, 0.5, 0] },
      { at: 0.2, value: 0, colour: [1, 1, 1] },
    ]),
  keptSurround: (p, [a]) => edits.keptSurround(p, look(p, a), { id: 'f'.repeat(64), name: 'Painted' }),
  splitSun: (p, [a]) =>
    edits.splitSun(p, look(p, a), newLight('directional', 'Sun'), newPanel('Sun’s place')),
  standSurround: (p, [a, b, c, d]) => edits.standSurround(p, look(p, a), { turn: b, tilt: c, roll: d }),
  chooseSurround: (p, [a]) =>
    edits.chooseSurround(p, look(p, a), { source: 'painted', id: 'lamp-studio', name: 'Lamp studio' }),
  addLook: (p, [a]) => edits.addLook(p, look(p, a), id()),
  renameLook: (p, [a], text) => edits.renameLook(p, look(p, a), text),
  removeLook: (p, [a]) => edits.removeLook(p, look(p, a)),
  addPiece: (p, [a, b]) =>
    edits.addPiece(
      p,
      pick(BUILT, a),
      fixed({ b }).b,
      { piece: id(), finish: id() },
      { width: 1 + fixed({ a }).a },
    ),
  renamePiece: (p, [a], text) => edits.renamePiece(p, piece(p, a), text),
  placePiece: (p, [a, b, c]) =>
    edits.placePiece(p, piece(p, a), 'Move', { move: [b, c, a], turn: c, size: b }),
  addPlate: (p, [a]) => edits.addPlate(p, PLATE, fixed({ a }).a, id()),
  showOnPlate: (p, [a]) =>
    edits.showOnPlate(p, p.pieces.find((x) => x.kind === 'plate' && a > 0)?.id ?? piece(p, a), PLATE),
  addModel: (p, [a, b, c]) =>
    edits.addModel(
      p,
      { id: 'a'.repeat(64), name: 'bollard.glb' },
      { id: id(), ...fixed({ at: a, size: b }), move: [fixed({ c }).c, 0, 0] },
    ),
  dressPart: (p, [a, b]) =>
    edits.dressPart(p, a > 0 ? 'model' : piece(p, a), 'cap', b > 0 ? finish(p, b) : null),
  removePiece: (p, [a]) => edits.removePiece(p, piece(p, a)),
  dressPiece: (p, [a, b]) => edits.dressPiece(p, piece(p, a), b > 0 ? finish(p, b) : null),
  moveCamera: (p, [a, b, c]) =>
    edits.moveCamera(p, p.shots[0].id, 'Orbit', {
      ...p.shots[0].camera,
      azimuth: a,
      distance: b,
      target: [c, a, b],
    }),
  drawProfile: (p, [a, b]) =>
    edits.drawProfile(p, block(p, a), b > 0 ? 'front' : 'back', [
      { across: 0, up: 0, smooth: false },
      { across: 1, up: 1, smooth: false },
    ]),
  goBackTo: (p, _n, text) => edits.goBackTo(p, text, plain()),
  replaceDocument: (p) => edits.replaceDocument(p, 'Put back', plain()),
};

const NUMBER = fc.oneof(
  fc.integer({ min: -40, max: 40 }),
  fc.double({ min: -3, max: 3, noNaN: true }),
  fc.constantFrom(1e9, -1e9, NaN, Infinity, 0),
);
interface Step {
  what: string;
  numbers: number[];
  text: string;
}
const STEP: fc.Arbitrary<Step> = fc.record({
  what: fc.constantFrom(...Object.keys(MAKERS)),
  numbers: fc.array(NUMBER, { minLength: 5, maxLength: 5 }),
  text: fc.oneof(
    fc.string({ maxLength: 30 }),
    fc.constantFrom('a\0b', '\ud800', 'x'.repeat(3000), 'ö😀\nB', ''),
  ),
});

/** Makes an edit, and tries it and its inverse; null where it was refused. */
function tried(now: Project, { what, numbers, text }: Step): Project | null {
  let next: edits.Edited;
  try {
    const edit = MAKERS[what](now, numbers, text);
    if (!edit) return null;
    next = edits.edited(now, edit);
  } catch (error) {
    if (error instanceof edits.EditRefused) return null;
    throw error;
  }
  const before = JSON.stringify(now);
  expect(JSON.stringify(applyPatches(next.project, next.inverse)), what).toBe(before);
  expect(JSON.stringify(applyPatches(now, next.patches)), what).toBe(JSON.stringify(next.project));
  expect(JSON.stringify(now), what).toBe(before);
  try {
    openDocument(JSON.parse(JSON.stringify(next.project)));
  } catch (error) {
    throw new Error(`after ${what}(${numbers.join()}): ${(error as Error).message}`, { cause: error });
  }
  return next.project;
}

/** Steps that an edit which no sequence reached is tried with. */
const MOST_TRIES = 300;

describe('edits', () => {
  it('in any sequence leave a valid document, and their inverse gives back the same bytes', () => {
    const seen = new Set<string>();
    fc.assert(
      fc.property(fc.array(STEP, { minLength: 1, maxLength: 25 }), (steps) => {
        let now: Project = plain();
        for (const step of steps) {
          const next = tried(now, step);
          if (!next) continue;
          now = next;
          seen.add(step.what);
        }
      }),
      { numRuns: 130, seed: 20261127 },
    );
    // every edit there is is made at least once: those that chance left out by themselves
    const chances = fc.sample(STEP, { numRuns: MOST_TRIES, seed: 20261127 });
    for (const what of Object.keys(MAKERS))
      if (!seen.has(what) && chances.some((step) => tried(plain(), { ...step, what }))) seen.add(what);
    expect([...seen].sort()).toEqual(Object.keys(MAKERS).sort());
  });

  it('all stand in this test', () => {
    const constructors = Object.keys(edits).filter(
      (name) =>
        typeof edits[name as keyof typeof edits] === 'function' &&
        ![
          'edited',
          'found',
          'room',
          'freeName',
          'givenName',
          'named',
          'within',
          'characterOf',
          'targetName',
          'wornAt',
          'looksWearing',
          'picked',
          'alikeLetters',
          'withText',
          'EditRefused',
          'copyMotion',
          'motionName',
        ].includes(name),
    );
    expect(constructors.sort()).toEqual(Object.keys(MAKERS).sort());
  });

  it('refuse what a project has no room for, and what is gone, in words', () => {
    const full = plain();
    while (full.blocks.length < MOST.blocks) full.blocks.push(newBlock('A'));
    expect(() => edits.addBlock(full, newBlock('B'))).toThrow(/at most 100 blocks/);
    expect(() => edits.copyBlock(full, full.blocks[0].id, 'c')).toThrow(edits.EditRefused);
    expect(() => edits.edited(plain(), edits.setText(plain(), 'gone', 'X'))).toThrow(/not there any more/);
  });

  it('take along what hung on a thing that goes: rules of a block and its letters, and the dress of a finish', () => {
    let p = plain();
    const apply = (edit: edits.Edit) => (p = edits.edited(p, edit).project);
    const [first] = p.blocks;
    apply(edits.addBlock(p, newBlock('TIDE', { id: 'second' })));
    apply(edits.dressFaces(p, p.looks[0].id, { letter: first.letters[0], zone: 'front' }, p.finishes[1].id));
    apply(edits.dressFaces(p, p.looks[0].id, { block: 'second' }, p.finishes[2].id));
    apply(edits.removeBlock(p, first.id));
    expect(p.looks[0].chart.some((r) => r.letter === first.letters[0])).toBe(false);
    expect(p.looks[0].chart.some((r) => r.block === 'second')).toBe(true);
    const [gone, instead] = [p.finishes[2].id, p.finishes[3].id];
    apply(edits.removeFinish(p, gone, instead));
    expect(p.looks[0].chart.find((r) => r.block === 'second')!.finish).toBe(instead);
  });
});
