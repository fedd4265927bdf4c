// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest';
import { finishAt, newBlock, newPiece, newTube, type Block } from '@wemlox/core/document';
import * as actions from './allActions.ts';
import { useChoice } from '../src/state/choice.ts';
import { undo } from '../src/state/studio.ts';
import { now, openStudio, shaped, steps } from './openStudio.ts';

let block: Block;
beforeEach(() => {
  [block] = openStudio().blocks;
});
const fresh = () => now().blocks.find((b) => b.id === block.id)!;

describe('blocks', () => {
  it('come above what is there, in its font and size, shaped yet or not', () => {
    actions.changeBlock(block.id, 'Cap height', (b) => void (b.capHeight = 0.5));
    actions.addText();
    const made = now().blocks[1];
    expect(made).toMatchObject({ text: 'WORD', font: block.font, capHeight: 0.5 });
    expect(made.place.position[1] - made.capHeight / 2).toBeGreaterThan(block.place.position[1] + 0.25);
    expect(useChoice.getState().block).toBe(made.id);
  });

  it('copied wear what their letters wore, and each copy is dressed apart from then on', () => {
    const [chrome, , red] = now().finishes;
    actions.dressFaces({ block: block.id }, chrome.id);
    actions.dressFaces({ block: block.id, letter: block.letters[2], zone: 'front' }, red.id);
    actions.setKern(block.id, block.letters[3], 40);
    actions.copyBlock(block.id);
    const copy = now().blocks[1];
    expect(copy.letters).toHaveLength(block.letters.length);
    expect(copy.letters.some((l) => block.letters.includes(l))).toBe(false);
    expect(copy.kerns).toEqual([{ letter: copy.letters[3], by: 40 }]);
    const worn = (i: number) => finishAt(now().looks[0].chart, copy.id, copy.letters[i], 'front');
    expect([worn(0), worn(2)]).toEqual([chrome.id, red.id]);
    actions.dressFaces({ block: copy.id }, red.id);
    expect(worn(0)).toBe(red.id);
    expect(finishAt(now().looks[0].chart, block.id, block.letters[0], 'front')).toBe(chrome.id);
  });

  it('removed take their rules with them, and bring them back', () => {
    actions.addText();
    const made = now().blocks[1];
    actions.dressFaces({ block: made.id }, now().finishes[0].id);
    const dressed = now();
    actions.removeBlock(made.id);
    expect(now().blocks.map((b) => b.id)).toEqual([block.id]);
    expect(now().looks[0].chart.some((r) => r.block === made.id)).toBe(false);
    expect(useChoice.getState().block).toBeNull();
    undo();
    expect(now()).toBe(dressed);
  });
});

describe('kerning', () => {
  it('is whole thousandths within bounds, and none is not kept', () => {
    const letter = block.letters[1];
    actions.setKern(block.id, letter, 12.4);
    expect(fresh().kerns).toEqual([{ letter, by: 12 }]);
    expect(steps()[0]).toBe('Kerning before S');
    actions.setKern(block.id, letter, 1e9);
    expect(fresh().kerns).toEqual([{ letter, by: 5000 }]);
    actions.setKern(block.id, letter, 0.3);
    expect(fresh().kerns).toEqual([]);
  });
});

describe('paint on tubes', () => {
  const paint = (from: number, to: number, stroke = 0) => actions.paintTube(block.id, 'a', stroke, from, to);
  const painted = () =>
    fresh()
      .tube.paintOuts.map(({ stroke, from, to }) => [stroke, from, to])
      .sort((a, b) => a[0] - b[0] || a[1] - b[1]);

  it('joins what it meets, whichever way it is drawn, and keeps to its stroke', () => {
    paint(0.2, 0.3);
    paint(0.6, 0.5);
    paint(0.1, 0.9, 1);
    expect(painted()).toEqual([
      [0, 0.2, 0.3],
      [0, 0.5, 0.6],
      [1, 0.1, 0.9],
    ]);
    paint(0.25, 0.55);
    expect(painted()).toEqual([
      [0, 0.2, 0.6],
      [1, 0.1, 0.9],
    ]);
    paint(-0.4, 1.7);
    expect(painted()[0]).toEqual([0, 0, 1]);
  });

  it('is taken off where it is clicked, and nowhere else', () => {
    paint(0.2, 0.3);
    paint(0.5, 0.6);
    actions.clearPaint(block.id, 'a', 0, 0.4);
    expect(painted()).toHaveLength(2);
    actions.clearPaint(block.id, 'a', 0, 0.55);
    expect(painted()).toEqual([[0, 0.2, 0.3]]);
  });
});

describe('standing', () => {
  it('puts the lowest point on the floor or above it, wherever the floor lies', () => {
    shaped(block.id, { bounds: [-1, -0.21, 1, 0.3] });
    actions.addPiece('floor');
    const floor = now().pieces.find((p) => p.kind === 'floor')!;
    actions.changePiece(floor.id, 'Height', (p) => void (p.at = -0.5));
    actions.standOnFloor(block.id);
    expect(fresh().place.position[1] - 0.21).toBeCloseTo(-0.5, 12);
    actions.standOnFloor(block.id, 0.04);
    expect(fresh().place.position[1] - 0.21).toBeCloseTo(-0.46, 12);
    expect(steps().slice(0, 2)).toEqual(['Float above the floor', 'Stand on the floor']);
  });

  it('puts the rearmost point off the wall, facing it, and does nothing without one', () => {
    shaped(block.id, { reach: [-0.03, 0.05] });
    const before = now();
    expect(before.pieces.some((p) => p.kind === 'wall')).toBe(false);
    actions.standOffWall(block.id, 0.1);
    expect(now()).toBe(before);
    actions.change('Wall', (p) => void p.pieces.push(newPiece('wall', { id: 'w', at: -0.7 })));
    actions.changeBlock(block.id, 'Turn', (b) => void (b.place.turn = 0.5));
    actions.standOffWall(block.id, 0.1);
    expect(fresh().place.position[2] - 0.03).toBeCloseTo(-0.6, 12);
    expect(fresh().place.turn).toBe(0);
  });
});

describe('curves to begin with', () => {
  it('span the type, and a drawn baseline is kept when another kind is tried', () => {
    shaped(block.id, { bounds: [-0.8, -0.1, 0.8, 0.2] });
    actions.setBaseline(block.id, 'free');
    const { nodes } = fresh().baseline;
    expect([nodes[0].x, nodes.at(-1)!.x]).toEqual([-0.8, 0.8]);
    actions.setBaseline(block.id, 'arc');
    actions.setBaseline(block.id, 'free');
    expect(fresh().baseline.nodes).toEqual(nodes);
  });

  it('of drawn tubes lie apart, each with a name of its own', () => {
    actions.change(
      'Tube',
      (p) => void (p.blocks[0] = { ...newBlock('TIDE', { form: 'tube', tube: newTube() }), id: block.id }),
    );
    shaped(block.id);
    for (let i = 0; i < 3; i++) actions.addDrawnTube(block.id);
    const { drawn, course } = fresh().tube;
    expect(course).toBe('drawn');
    expect(new Set(drawn.map((d) => d.id)).size).toBe(3);
    expect(new Set(drawn.map((d) => d.nodes[0].y)).size).toBe(3);
  });
});
