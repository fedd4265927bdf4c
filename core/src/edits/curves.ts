/** Edits of what is drawn by hand: baselines, tubes and the paint on them. */
import {
  MOST,
  newId,
  type BaselineKind,
  type CurveNode,
  type DrawnStroke,
  type Project,
} from '../document/index.ts';
import { EditRefused, found, room, within, type Edit } from './edit.ts';

const enough = (nodes: readonly CurveNode[], most: number) => {
  if (nodes.length > most) throw new EditRefused(`a curve has at most ${most} nodes`);
};

/** Chooses the line the letters stand on. @param nodes what a drawn one starts as */
export const setBaseline = (_project: Project, id: string, kind: BaselineKind, nodes: CurveNode[]): Edit => ({
  label: 'Baseline',
  make: (p) => {
    const { baseline } = found(p.blocks, id, 'block');
    baseline.kind = kind;
    if (kind === 'free' && baseline.nodes.length < 2) baseline.nodes = nodes;
  },
});

/** @throws EditRefused when the curve has too many nodes */
export function bendBaseline(_project: Project, id: string, nodes: CurveNode[]): Edit {
  enough(nodes, MOST.baselineNodes);
  return {
    label: 'Bend baseline',
    make: (p) => {
      found(p.blocks, id, 'block').baseline.nodes = nodes;
    },
  };
}

export const addDrawnTube = (_project: Project, id: string, nodes: CurveNode[]): Edit => ({
  label: 'Add drawn tube',
  make: (p) => {
    const { tube } = found(p.blocks, id, 'block');
    room(tube.drawn, MOST.drawnTubes, 'drawn tubes');
    tube.course = 'drawn';
    tube.drawn.push({ id: newId(), closed: false, nodes });
  },
});

export const removeLastTube = (_project: Project, id: string): Edit => ({
  label: 'Tube removed',
  make: (p) => {
    found(p.blocks, id, 'block').tube.drawn.pop();
  },
});

/** @throws EditRefused when the tube is gone, or has too many nodes */
export function bendTube(project: Project, id: string, stroke: string, nodes: CurveNode[]): Edit {
  enough(nodes, MOST.tubeNodes);
  const drawnOf = (p: Project): DrawnStroke[] => found(p.blocks, id, 'block').tube.drawn;
  const at = drawnOf(project).findIndex((d) => d.id === stroke);
  return {
    label: `Bend tube ${at + 1}`,
    make: (p) => {
      found(drawnOf(p), stroke, 'tube').nodes = nodes;
    },
  };
}

/** Paints a stretch of a tube over, joining what it meets; from and to are shares of its length. */
export const paintTube = (
  _project: Project,
  id: string,
  letter: string,
  stroke: number,
  from: number,
  to: number,
): Edit => ({
  label: 'Paint tube out',
  make: (p) => {
    const { tube } = found(p.blocks, id, 'block');
    const isMine = (x: { letter: string; stroke: number }) => x.letter === letter && x.stroke === stroke;
    let [low, high] = [within(Math.min(from, to), 0, 1), within(Math.max(from, to), 0, 1)];
    const apart = tube.paintOuts.filter((x) => {
      if (!isMine(x) || x.to < low || x.from > high) return true;
      [low, high] = [Math.min(low, x.from), Math.max(high, x.to)];
      return false;
    });
    room(apart, MOST.paintOuts, 'painted stretches');
    tube.paintOuts = [...apart, { letter, stroke, from: low, to: high }];
  },
});

/** Takes the paint off where a stretch of it covers a place of the tube. */
export const clearPaint = (
  _project: Project,
  id: string,
  letter: string,
  stroke: number,
  at: number,
): Edit => ({
  label: 'Clear painted stretch',
  make: (p) => {
    const { tube } = found(p.blocks, id, 'block');
    tube.paintOuts = tube.paintOuts.filter(
      (x) => x.letter !== letter || x.stroke !== stroke || at < x.from || at > x.to,
    );
  },
});

export const clearAllPaint = (_project: Project, id: string): Edit => ({
  label: 'Tube paint cleared',
  make: (p) => {
    found(p.blocks, id, 'block').tube.paintOuts = [];
  },
});

export const setStripColour = (_project: Project, id: string, at: number, rgb: number[]): Edit => ({
  label: 'Strip colour',
  make: (p) => {
    const { strip } = found(p.blocks, id, 'block');
    if (at < strip.colours.length) strip.colours[at] = rgb.map((v) => within(v, 0, 1));
  },
});

export const addStripColour = (_project: Project, id: string): Edit => ({
  label: 'Strip colour added',
  make: (p) => {
    const { strip } = found(p.blocks, id, 'block');
    room(strip.colours, MOST.stripColours, 'colours in a strip');
    strip.colours.push([1, 1, 1]);
  },
});

export const removeStripColour = (_project: Project, id: string, at: number): Edit => ({
  label: 'Strip colour removed',
  make: (p) => {
    const { strip } = found(p.blocks, id, 'block');
    if (strip.colours.length > 1) strip.colours.splice(at, 1);
  },
});
