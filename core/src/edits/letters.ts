/** Edits of a block's text and how its letters stand together. */
import {
  fitting,
  MOST,
  newId,
  newPose,
  storable,
  type Block,
  type FontRef,
  type LetterPose,
  type Project,
} from '../document/index.ts';
import { POSE } from '../document/parameters.ts';
import { EditRefused, found, room, within, type Edit } from './edit.ts';

/**
 * The block with a new text. Characters before and after the changed stretch keep their identifiers, and so
 * do replaced ones as far as they go, so that the word keeps its dress.
 */
export function withText(block: Block, text: string): Pick<Block, 'text' | 'letters'> {
  const before = [...block.text];
  const after = [...text];
  const shorter = Math.min(before.length, after.length);
  let head = 0;
  while (head < shorter && before[head] === after[head]) head++;
  let tail = 0;
  while (tail < shorter - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
  const kept = block.letters.slice(head, block.letters.length - tail);
  const middle = after.slice(head, after.length - tail).map((_, i) => kept[i] ?? newId());
  return {
    text,
    letters: [
      ...block.letters.slice(0, head),
      ...middle,
      ...block.letters.slice(block.letters.length - tail, tail === 0 ? 0 : undefined),
    ],
  };
}

/** Sets a block's text; what is longer than a block holds is cut. */
export const setText = (_project: Project, id: string, text: string): Edit => ({
  label: 'Text',
  joins: true,
  make: (p) => {
    const block = found(p.blocks, id, 'block');
    const whole = storable(text);
    // by code points, within both counts of characters
    let cut = [...whole].slice(0, MOST.text).join('');
    while (cut.length > MOST.text) cut = [...cut].slice(0, -1).join('');
    Object.assign(block, withText(block, cut));
  },
});

export const setFont = (_project: Project, id: string, font: FontRef): Edit => ({
  label: `Font → ${font.name}`,
  make: (p) => {
    found(p.blocks, id, 'block').font = font;
  },
});

const MOST_KERN = 5000;

/** Moves a letter along its line, thousandths of an em; 0 takes the kern away. */
export function setKern(project: Project, id: string, letter: string, by: number): Edit {
  const block = found(project.blocks, id, 'block');
  const text = [...block.text][block.letters.indexOf(letter)] ?? '';
  return {
    label: `Kerning before ${text}`,
    make: (p) => {
      const b = found(p.blocks, id, 'block');
      b.kerns = b.kerns.filter((k) => k.letter !== letter);
      const rounded = Math.round(within(by, -MOST_KERN, MOST_KERN));
      if (rounded === 0 || !b.letters.includes(letter)) return;
      room(b.kerns, MOST.text, 'kerned letters');
      b.kerns.push({ letter, by: rounded });
    },
  };
}

/** Lets a letter be moved, turned and sized by itself. */
export function poseLetter(project: Project, id: string, letter: string): Edit {
  const block = found(project.blocks, id, 'block');
  if (!block.letters.includes(letter)) throw new EditRefused('this letter is no longer there');
  room(block.poses, MOST.text, 'letters that are moved by themselves');
  return {
    label: 'A letter moves by itself',
    make: (p) => {
      const { poses } = found(p.blocks, id, 'block');
      if (!poses.some((of) => of.id === letter)) poses.push(newPose(letter));
    },
  };
}

/** Moves or rolls a letter that moves by itself, as one step with what follows closely. */
export function placeLetter(
  project: Project,
  id: string,
  letter: string,
  to: (pose: LetterPose) => Partial<Pick<LetterPose, 'shift' | 'roll'>>,
): Edit {
  found(found(project.blocks, id, 'block').poses, letter, 'letter');
  return {
    label: 'Move a letter',
    joins: true,
    make: (p) => {
      const pose = found(found(p.blocks, id, 'block').poses, letter, 'letter');
      const { shift, roll } = to(pose);
      Object.assign(pose, {
        shift: fitting(POSE.shift, shift) ?? pose.shift,
        roll: fitting(POSE.roll, roll) ?? pose.roll,
      });
    },
  };
}

/** A letter does what every other does. */
export function unposeLetter(project: Project, id: string, letter: string): Edit {
  found(project.blocks, id, 'block');
  return {
    label: 'A letter moves as the others',
    make: (p) => {
      const block = found(p.blocks, id, 'block');
      block.poses = block.poses.filter((of) => of.id !== letter);
    },
  };
}

export const resetKerning = (_project: Project, id: string): Edit => ({
  label: 'Reset kerning',
  make: (p) => {
    found(p.blocks, id, 'block').kerns = [];
  },
});

/** Switches an OpenType feature; as the font does by itself takes the switch away. */
export const setFeature = (
  _project: Project,
  id: string,
  { tag, name, byItself }: { tag: string; name: string; byItself: boolean },
  on: boolean,
): Edit => ({
  label: `${name} ${on ? 'on' : 'off'}`,
  make: (p) => {
    const b = found(p.blocks, id, 'block');
    b.features = b.features.filter((f) => f.tag !== tag);
    if (on === byItself) return;
    room(b.features, MOST.features, 'switched features');
    b.features.push({ tag, on });
  },
});

/** Goes to a place on one of a variable font's axes, in the axis's own unit; its initial place takes it away. */
export const setFontAxis = (
  _project: Project,
  id: string,
  { tag, name, initial }: { tag: string; name: string; initial: number },
  value: number,
): Edit => ({
  label: name,
  make: (p) => {
    const b = found(p.blocks, id, 'block');
    b.axes = b.axes.filter((a) => a.tag !== tag);
    if (value === initial) return;
    room(b.axes, MOST.axes, 'axes');
    b.axes.push({ tag, value: within(value, -32768, 32767) });
  },
});
