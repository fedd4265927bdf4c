/** What an artist does with blocks: adding and copying them, kerning, tubes, baselines, and where they stand. */
import { newBlock, newId, type BaselineKind, type Block, type CurveNode } from '@wemlox/core/document';
import { drawingKindOf } from '@wemlox/core/drawing/painted';
import * as edits from '@wemlox/core/edits';
import { lowestCorner } from '@wemlox/core/stage/blockPlace';
import { engine } from '../engine/engine.ts';
import { api } from '../state/api.ts';
import { choose, useChoice } from '../state/choice.ts';
import { attempt, notify } from '../state/notices.ts';
import { useShown } from '../state/shown.ts';
import { perform, useStudio } from '../state/studio.ts';
import { blockAddress, set } from './document.ts';
import { floorOf, wallOf } from './stage.ts';
import { shapedBlock } from './type.ts';

const blockOf = (id: string) => useStudio.getState().seen.blocks.find((b) => b.id === id)!;

/** Middle of the type's top: as it stands, or before it has first been shaped by its lines and size. */
function topOfType(): [number, number, number] | null {
  const box = useShown.getState().scene?.typeBox;
  if (box) return [(box.min[0] + box.max[0]) / 2, box.max[1], (box.min[2] + box.max[2]) / 2];
  const last = useStudio.getState().seen.blocks.at(-1);
  if (!last) return null;
  const [x, y, z] = last.place.position;
  return [x, y + (last.capHeight * last.text.split('\n').length) / 2, z];
}

/** Blocks that have yet to be shaped before their lowest point can be put on the floor. */
const toStand = new Set<string>();

useShown.subscribe(({ blocks }, before) => {
  if (blocks === before.blocks || toStand.size === 0) return;
  for (const { block, bounds } of blocks) if (bounds && toStand.delete(block)) standOnFloor(block, 0, true);
});

function add(block: Block): void {
  const top = topOfType();
  if (!top) toStand.add(block.id);
  if (top)
    block.place.position = [top[0], Math.min(1000, top[1] + block.capHeight * (0.5 + edits.ABOVE)), top[2]];
  if (perform((p) => edits.addBlock(p, block))) choose({ block: block.id, face: null });
}

/** A new block above what is there, in the last block's font and size. */
export function addText(): void {
  const last = useStudio.getState().seen.blocks.at(-1);
  add(newBlock('WORD', last && !last.drawing ? { font: last.font, capHeight: last.capHeight } : {}));
}

/** Takes a drawing file in as a block as tall as the word. */
export async function addDrawing(file: File): Promise<void> {
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  const asset = await attempt(`${file.name} was not taken`, () => api.upload('drawing', file.name, file));
  if (!asset) return;
  const last = useStudio.getState().seen.blocks.at(-1);
  add(
    newBlock('', {
      drawing: { id: asset.hash, name: asset.name, kind: drawingKindOf(head) },
      ...(last ? { capHeight: last.capHeight, depth: last.depth, front: last.front, back: last.back } : {}),
    }),
  );
}

export function copyBlock(id: string): void {
  const copy = newId();
  if (perform((p) => edits.copyBlock(p, id, copy))) choose({ block: copy, face: null });
}

export function removeBlock(id: string): void {
  perform((p) => edits.removeBlock(p, id));
  if (useChoice.getState().block === id) choose({ block: null, face: null });
}

export const setText = (id: string, text: string) => perform((p) => edits.setText(p, id, text));

/** Moves a letter along its line, thousandths of an em. */
export const setKern = (id: string, letter: string, by: number) =>
  perform((p) => edits.setKern(p, id, letter, by));

/** Opens the tracking until no letters of a line touch. */
export async function partLetters(id: string): Promise<void> {
  const block = blockOf(id);
  const found = await attempt('The letters could not be parted', () =>
    engine()!.ask({ ask: 'parting', block }),
  );
  if (!found) return;
  if (found.tracking === null) {
    notify('problem', 'No tracking parts these letters; kern them, or weld them');
    return;
  }
  set(`${blockAddress(id)}/tracking`, found.tracking);
}

/** A curve as wide as the block's type, gently arched, to start from. */
function startingCurve(id: string): CurveNode[] {
  const bounds = shapedBlock(id)?.bounds;
  const half = bounds ? (bounds[2] - bounds[0]) / 2 : 0.5;
  const foot = bounds ? bounds[1] : 0;
  const node = (x: number, y: number, reach: number): CurveNode => ({
    x,
    y,
    inX: -reach,
    inY: 0,
    outX: reach,
    outY: 0,
  });
  return [node(-half, foot, half / 4), node(0, foot + half * 0.2, half / 3), node(half, foot, half / 4)];
}

export const setBaseline = (id: string, kind: BaselineKind) =>
  perform((p) => edits.setBaseline(p, id, kind, startingCurve(id)));

/** A first tube to bend, across the middle of the block. */
export function addDrawnTube(id: string): void {
  const bounds = shapedBlock(id)?.bounds;
  const half = bounds ? (bounds[2] - bounds[0]) / 2 : 0.4;
  const count = blockOf(id).tube.drawn.length;
  const y = (bounds ? (bounds[1] + bounds[3]) / 2 : 0) - count * half * 0.25;
  const nodes = [-1, 0, 1].map((x) => ({
    x: x * half,
    y: y + (x === 0 ? half * 0.15 : 0),
    inX: -half / 3,
    inY: 0,
    outX: half / 3,
    outY: 0,
  }));
  perform((p) => edits.addDrawnTube(p, id, nodes));
}

/**
 * Puts a block's lowest point on the floor, or `above` it.
 * @param join as part of the edit before it
 */
export function standOnFloor(id: string, above = 0, join = false): void {
  const shaped = shapedBlock(id);
  const { seen: project, label } = useStudio.getState();
  const place = project.blocks.find((b) => b.id === id)?.place;
  if (!shaped?.bounds || !place) return;
  const named = above === 0 ? 'Stand on the floor' : 'Float above the floor';
  const y = place.position[1] + floorOf(project) - lowestCorner(place, shaped.bounds, shaped.reach) + above;
  perform((p) => edits.placeBlock(p, id, join ? label : named, { y }, join));
}

/** Puts a block's rearmost point `off` the wall, facing it squarely. */
export function standOffWall(id: string, off: number): void {
  const reach = shapedBlock(id)?.reach;
  const wall = wallOf(useStudio.getState().seen);
  if (!reach || wall === null) return;
  const label = off === 0 ? 'Stand on the wall' : 'Stand off the wall';
  perform((p) => edits.placeBlock(p, id, label, { z: wall - reach[0] + off, upright: true }));
}
