/** Edits of blocks: adding and removing them, kerning, tubes, baselines, and where they stand. */
import {
  newBlock,
  newId,
  withRule,
  type BaselineKind,
  type Block,
  type CurveNode,
  type Form,
  type Zone,
} from '@wemlox/core/src/document/index.ts';
import { readyFinish } from '@wemlox/core/src/finish/readyFinishes.ts';
import type { ExportKind } from '@wemlox/core/src/scene/exportKinds.ts';
import { standingHeight } from '@wemlox/core/src/stage/camera.ts';
import { drawingKindOf } from '@wemlox/core/src/drawing/painted.ts';
import { engine } from '../engine/engine.ts';
import { useShown } from '../state/shown.ts';
import { editBlock, floorOf } from './actions.ts';
import { api } from '../state/api.ts';
import { choose, useChoice } from '../state/choice.ts';
import { attempt, notify } from '../state/notices.ts';
import { edit, shotOf, useStudio } from '../state/studio.ts';

const blockOf = (id: string) => useStudio.getState().project.blocks.find((b) => b.id === id)!;

/** A name for a block in lists and in the history. */
export const blockName = (block: Block) =>
  block.drawing?.name ?? (block.text.trim().split('\n')[0].slice(0, 24) || 'empty block');

/** Distance between a block and the next one placed above it, as a share of the height of a capital. */
const ABOVE = 0.35;

/** Middle of the type's top: as it stands, or before it has first been shaped by its lines and size. */
function topOfType(): [number, number, number] | null {
  const box = useShown.getState().scene?.typeBox;
  if (box) return [(box.min[0] + box.max[0]) / 2, box.max[1], (box.min[2] + box.max[2]) / 2];
  const last = useStudio.getState().project.blocks.at(-1);
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

function place(block: Block): void {
  const top = topOfType();
  if (!top) toStand.add(block.id);
  if (top) block.place.position = [top[0], top[1] + block.capHeight * (0.5 + ABOVE), top[2]];
  edit(`Add ${blockName(block)}`, (p) => {
    p.blocks.push(block);
  });
  choose({ block: block.id, face: null });
}

/** A new block above what is there, in the last block's font and size. */
export function addText(): void {
  const { project } = useStudio.getState();
  const last = project.blocks.at(-1);
  const block = newBlock('WORD', last && !last.drawing ? { font: last.font, capHeight: last.capHeight } : {});
  place(block);
}

/** Takes a drawing file in as a block as tall as the word. */
export async function addDrawing(file: File): Promise<void> {
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  const asset = await attempt(`${file.name} was not taken`, () => api.upload('drawing', file.name, file));
  if (!asset) return;
  const last = useStudio.getState().project.blocks.at(-1);
  place(
    newBlock('', {
      drawing: { id: asset.hash, name: asset.name, kind: drawingKindOf(head) },
      ...(last ? { capHeight: last.capHeight, depth: last.depth, front: last.front, back: last.back } : {}),
    }),
  );
}

export function copyBlock(id: string): void {
  const source = blockOf(id);
  const made = structuredClone(source);
  made.id = newId();
  const letters = new Map(source.letters.map((l) => [l, newId()]));
  made.letters = source.letters.map((l) => letters.get(l)!);
  for (const kern of made.kerns) kern.letter = letters.get(kern.letter) ?? kern.letter;
  for (const paint of made.tube.paintOuts) paint.letter = letters.get(paint.letter) ?? paint.letter;
  made.place.position[1] += source.capHeight * (1 + ABOVE);
  edit(`Copy ${blockName(source)}`, (p) => {
    p.blocks.push(made);
    // the copy wears what the original wears
    for (const look of p.looks) {
      for (const rule of [...look.chart]) {
        if (rule.block === id || (rule.letter !== undefined && letters.has(rule.letter)))
          look.chart.push({
            ...rule,
            ...(rule.block === id ? { block: made.id } : {}),
            ...(rule.letter === undefined ? {} : { letter: letters.get(rule.letter) ?? rule.letter }),
          });
      }
    }
  });
  choose({ block: made.id, face: null });
}

export function removeBlock(id: string): void {
  const block = blockOf(id);
  edit(`Remove ${blockName(block)}`, (p) => {
    p.blocks = p.blocks.filter((b) => b.id !== id);
    for (const look of p.looks) look.chart = look.chart.filter((r) => r.block !== id);
  });
  if (useChoice.getState().block === id) choose({ block: null, face: null });
}

/** What tubes are made of at first: glowing gas in thin glass, with pale ends. */
const TUBE_DRESS: readonly (readonly [Zone[], string])[] = [
  [['glass'], 'tube-glass'],
  [['gas'], 'tide-neon'],
  [['electrode', 'standOff'], 'lamp-nickel'],
];

/** Sets what the letters are; type that becomes tubes for the first time is dressed as glass over glowing gas. */
export function setForm(id: string, form: Form, name: string): void {
  edit(`Form → ${name}`, (p) => {
    p.blocks.find((b) => b.id === id)!.form = form;
    if (form !== 'tube') return;
    for (const look of p.looks) {
      if (look.chart.some((r) => r.zone === 'gas' && (r.block === undefined || r.block === id))) continue;
      for (const [zones, ready] of TUBE_DRESS) {
        const made = readyFinish(ready);
        let finish = p.finishes.find((f) => f.name === made.name)?.id;
        if (finish === undefined) {
          finish = newId();
          p.finishes.push({ ...made, id: finish });
        }
        for (const zone of zones) look.chart = withRule(look.chart, { block: id, zone }, finish);
      }
    }
  });
}

/** Moves a letter along its line, thousandths of an em. */
export function setKern(id: string, letter: string, by: number): void {
  const text = [...blockOf(id).text][blockOf(id).letters.indexOf(letter)] ?? '';
  editBlock(id, `Kerning before ${text}`, (b) => {
    b.kerns = b.kerns.filter((k) => k.letter !== letter);
    const rounded = Math.max(-5000, Math.min(5000, Math.round(by)));
    if (rounded !== 0) b.kerns.push({ letter, by: rounded });
  });
}

/** Opens the tracking until no letters of a line touch. */
export async function partLetters(id: string): Promise<void> {
  const block = blockOf(id);
  const found = await attempt('The letters could not be parted', () =>
    engine()!.ask({ ask: 'parting', block }),
  );
  if (!found) return;
  const { tracking } = found;
  if (tracking === null) {
    notify('problem', 'No tracking parts these letters; kern them, or weld them');
    return;
  }
  editBlock(id, 'Open tracking until letters part', (b) => {
    b.tracking = tracking;
  });
}

/** Paints a stretch of a tube over, joining what it meets; `out` false takes paint off. */
export function paintTube(id: string, letter: string, stroke: number, from: number, to: number): void {
  editBlock(id, 'Paint tube out', (b) => {
    const mine = b.tube.paintOuts.filter((p) => p.letter === letter && p.stroke === stroke);
    const others = b.tube.paintOuts.filter((p) => p.letter !== letter || p.stroke !== stroke);
    let [low, high] = [Math.max(0, Math.min(from, to)), Math.min(1, Math.max(from, to))];
    const apart = mine.filter((p) => {
      if (p.to < low || p.from > high) return true;
      [low, high] = [Math.min(low, p.from), Math.max(high, p.to)];
      return false;
    });
    b.tube.paintOuts = [...others, ...apart, { letter, stroke, from: low, to: high }];
  });
}

export const clearPaint = (id: string, letter: string, stroke: number, at: number) =>
  editBlock(id, 'Clear painted stretch', (b) => {
    b.tube.paintOuts = b.tube.paintOuts.filter(
      (p) => p.letter !== letter || p.stroke !== stroke || at < p.from || at > p.to,
    );
  });

/** A curve as wide as the block's type, gently arched, to start from. */
export function startingCurve(id: string): CurveNode[] {
  const bounds = useShown.getState().blocks.find((b) => b.block === id)?.bounds;
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

export function setBaseline(id: string, kind: BaselineKind): void {
  const nodes = startingCurve(id);
  editBlock(id, 'Baseline', (b) => {
    b.baseline.kind = kind;
    if (kind === 'free' && b.baseline.nodes.length < 2) b.baseline.nodes = nodes;
  });
}

/** A first tube to bend, across the middle of the block. */
export function addDrawnTube(id: string): void {
  const bounds = useShown.getState().blocks.find((b) => b.block === id)?.bounds;
  const half = bounds ? (bounds[2] - bounds[0]) / 2 : 0.4;
  const count = blockOf(id).tube.drawn.length;
  const y = (bounds ? (bounds[1] + bounds[3]) / 2 : 0) - count * half * 0.25;
  editBlock(id, 'Add drawn tube', (b) => {
    b.tube.course = 'drawn';
    b.tube.drawn.push({
      id: newId(),
      closed: false,
      nodes: [-1, 0, 1].map((x) => ({
        x: x * half,
        y: y + (x === 0 ? half * 0.15 : 0),
        inX: -half / 3,
        inY: 0,
        outX: half / 3,
        outY: 0,
      })),
    });
  });
}

/**
 * Puts a block's lowest point on the floor, or `above` it.
 * @param join as part of the edit before it
 */
export function standOnFloor(id: string, above = 0, join = false): void {
  const bounds = useShown.getState().blocks.find((b) => b.block === id)?.bounds;
  if (!bounds) return;
  editBlock(
    id,
    join ? useStudio.getState().label : above === 0 ? 'Stand on the floor' : 'Float above the floor',
    (b) => {
      b.place.position[1] = standingHeight(bounds, floorOf(useStudio.getState().project)) + above;
    },
    join,
  );
}

/** Puts a block's rearmost point `off` the wall, facing it squarely. */
export function standOffWall(id: string, off: number): void {
  const reach = useShown.getState().blocks.find((b) => b.block === id)?.reach;
  const wall = wallOf();
  if (!reach || wall === null) return;
  editBlock(id, off === 0 ? 'Stand on the wall' : 'Stand off the wall', (b) => {
    b.place.turn = 0;
    b.place.position[2] = wall - reach[0] + off;
  });
}

/** Where the wall stands, or null without one. */
export const wallOf = (): number | null =>
  useStudio.getState().project.pieces.find((p) => p.kind === 'wall' && p.on)?.at ?? null;

const TYPES: Record<ExportKind, string> = {
  glb: 'model/gltf-binary',
  obj: 'model/obj',
  svg: 'image/svg+xml',
};

/** Saves the type as a file for other programs. */
export async function exportType(kind: ExportKind): Promise<void> {
  const { project } = useStudio.getState();
  const bytes = await attempt(`The ${kind.toUpperCase()} file could not be made`, () =>
    engine()!.ask({
      ask: 'export',
      kind,
      project,
      look: useChoice.getState().lookId || project.looks[0].id,
      shot: shotOf(project).id,
    }),
  );
  if (!bytes) return;
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([bytes], { type: TYPES[kind] }));
  link.download = `${project.name}.${kind}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
