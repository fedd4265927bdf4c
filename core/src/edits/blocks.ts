/** Edits of blocks: adding, copying and removing them, what they are made into, and where they stand. */
import {
  blockName,
  FREE_PROFILE,
  MOST,
  newId,
  optionName,
  withRule,
  type Bevel,
  type Block,
  type Form,
  type Profile,
  type ProfilePoint,
  type Project,
  type Zone,
} from '../document/index.ts';
import { BLOCK } from '../document/parameters.ts';
import { readyFinish } from '../finish/readyFinishes.ts';
import { EditRefused, found, room, within, type Edit } from './edit.ts';
import { copyMotion } from './motion.ts';

export const addBlock = (project: Project, block: Block): Edit => {
  room(project.blocks, MOST.blocks, 'blocks');
  return {
    label: `Add ${blockName(block)}`,
    make: (p) => {
      p.blocks.push(block);
    },
  };
};

/** Distance between a block and the next one placed above it, as a share of the height of a capital. */
export const ABOVE = 0.35;

/** Copies a block above itself; the copy wears what the original wears. Its identifier is `copy`. */
export function copyBlock(project: Project, id: string, copy: string): Edit {
  const source = found(project.blocks, id, 'block');
  room(project.blocks, MOST.blocks, 'blocks');
  return {
    label: `Copy ${blockName(source)}`,
    make: (p) => {
      const made = structuredClone(source);
      made.id = copy;
      const letters = new Map(source.letters.map((l) => [l, newId()]));
      made.letters = source.letters.map((l) => letters.get(l)!);
      for (const kern of made.kerns) kern.letter = letters.get(kern.letter) ?? kern.letter;
      for (const pose of made.poses) pose.id = letters.get(pose.id) ?? pose.id;
      for (const paint of made.tube.paintOuts) paint.letter = letters.get(paint.letter) ?? paint.letter;
      const [x = 0, y = 0, z = 0] = made.place.position;
      made.place.position = [x, Math.min(1000, y + source.capHeight * (1 + ABOVE)), z];
      p.blocks.push(made);
      copyMotion(p, `blocks/${id}`, `blocks/${copy}`, true, letters);
      for (const look of p.looks) {
        for (const rule of [...look.chart]) {
          if (rule.block !== id && (rule.letter === undefined || !letters.has(rule.letter))) continue;
          room(look.chart, MOST.rules, 'rules in a chart');
          look.chart.push({
            ...rule,
            ...(rule.block === id ? { block: made.id } : {}),
            ...(rule.letter === undefined ? {} : { letter: letters.get(rule.letter) ?? rule.letter }),
          });
        }
      }
    },
  };
}

/** Removes a block, and what any chart says of it and its letters. */
export function removeBlock(project: Project, id: string): Edit {
  const block = found(project.blocks, id, 'block');
  const letters = new Set(block.letters);
  return {
    label: `Remove ${blockName(block)}`,
    make: (p) => {
      p.blocks = p.blocks.filter((b) => b.id !== id);
      for (const look of p.looks)
        look.chart = look.chart.filter(
          (r) => r.block !== id && (r.letter === undefined || !letters.has(r.letter)),
        );
    },
  };
}

/** What tubes are made of at first: glowing gas in thin glass, with pale ends. */
const TUBE_DRESS: readonly (readonly [Zone[], string])[] = [
  [['glass'], 'tube-glass'],
  [['gas'], 'tide-neon'],
  [['electrode', 'standOff'], 'lamp-nickel'],
];

/** Sets what the letters are; type that becomes tubes for the first time is dressed as glass over glowing gas. */
export const setForm = (_project: Project, id: string, form: Form): Edit => ({
  label: `Form → ${optionName(BLOCK.form, form)}`,
  make: (p) => {
    found(p.blocks, id, 'block').form = form;
    if (form !== 'tube') return;
    for (const look of p.looks) {
      if (look.chart.some((r) => r.zone === 'gas' && (r.block === undefined || r.block === id))) continue;
      for (const [zones, ready] of TUBE_DRESS) {
        const made = readyFinish(ready);
        let finish = p.finishes.find((f) => f.name === made.name)?.id;
        if (finish === undefined) {
          room(p.finishes, MOST.finishes, 'finishes');
          finish = newId();
          p.finishes.push({ ...made, id: finish });
        }
        for (const zone of zones) {
          look.chart = withRule(look.chart, { block: id, zone }, finish);
          room(look.chart, MOST.rules, 'rules in a chart', 0);
        }
      }
    }
  },
});

export type BevelSide = 'front' | 'back';
const BEVEL_NAMES: Record<BevelSide, string> = { front: 'Front bevel', back: 'Back bevel' };
/** Segments a newly chosen profile has at least: a curve of one segment is none. */
const FEWEST_SEGMENTS = 4;

const editBevel = (id: string, side: BevelSide, what: string, change: (bevel: Bevel) => void): Edit => ({
  label: `${BEVEL_NAMES[side]} ${what}`,
  make: (p) => change(found(p.blocks, id, 'block')[side]),
});

export const setProfile = (_project: Project, id: string, side: BevelSide, profile: Profile): Edit =>
  editBevel(id, side, 'profile', (bevel) => {
    bevel.profile = profile;
    bevel.segments = Math.max(bevel.segments, FEWEST_SEGMENTS);
    if (profile === 'free' && bevel.points.length < 2) bevel.points = structuredClone(FREE_PROFILE);
  });

/** Draws the free profile. @throws EditRefused when it has too many points */
export function drawProfile(_project: Project, id: string, side: BevelSide, points: ProfilePoint[]): Edit {
  if (points.length > MOST.profilePoints)
    throw new EditRefused(`a profile has at most ${MOST.profilePoints} points`);
  return editBevel(id, side, 'curve', (bevel) => {
    bevel.points = points;
  });
}

/** Puts a block somewhere: coordinates that are left out stay. @param upright faces it to the front, neither tilted nor rolled */
export const placeBlock = (
  _project: Project,
  id: string,
  label: string,
  { x, y, z, upright = false }: { x?: number; y?: number; z?: number; upright?: boolean },
  joins = false,
): Edit => ({
  label,
  joins,
  make: (p) => {
    const { place } = found(p.blocks, id, 'block');
    const [px = 0, py = 0, pz = 0] = place.position;
    place.position = [x ?? px, y ?? py, z ?? pz].map((v) => within(v, -1000, 1000));
    if (upright) Object.assign(place, { turn: 0, tilt: 0, roll: 0 });
  },
});
