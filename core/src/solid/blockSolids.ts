/** A block's letters as solids in metres, cached per outline and shape. */
import { cos, sin } from '../maths/reproducible.ts';
import { zonesOf, type Block, type Zone } from '../document/index.ts';
import { courseOf, pointsOf } from '../plane/curve.ts';
import { buildDome, type DomeShape } from './dome.ts';
import type { Contour } from '../plane/flatten.ts';
import type { PlacedLetter, TextLayout } from '../type/layout.ts';
import type { BevelLimits } from './limits.ts';
import { outlined } from '../plane/region.ts';
import { nothing, together, type Solid } from './sheet.ts';
import { buildSolid, type SolidShape } from './solid.ts';
import { buildStrip, type StripShape } from './strip.ts';
import { touching } from '../type/touching.ts';
import { CrossingError } from '../plane/triangulate.ts';
import {
  buildLetterTube,
  buildTube,
  buildTubes,
  type TubeFacts,
  type TubeShape,
  type TubeSolid,
} from './tube.ts';

export interface LetterSolid {
  letter: string;
  text: string;
  missing: boolean;
  standIn: string | null;
  /** The solid about the glyph's own origin, thousandths of an em. */
  solid: Solid;
  /** Outline for column heads and letter pictures, about the glyph's origin, thousandths of an em. */
  outline: Contour[];
  /** Course of its tubes about the glyph's origin; null for other forms. */
  tube: TubeFacts | null;
  x: number;
  y: number;
  turn: number;
  advance: number;
}

export interface BlockSolids {
  block: string;
  letters: LetterSolid[];
  /** Zones the block's solids have. */
  zones: Zone[];
  /** Metres per thousandth of an em. */
  scale: number;
  /** Where the solids' z = 0 lies from the block's zero plane, metres. */
  backAt: number;
  /** Bounds of the solids about the block's centre, metres; null when there are none. */
  bounds: [number, number, number, number] | null;
  /** Least and greatest z from the block's zero plane, metres. */
  reach: [number, number];
  /** Bevel limits over all letters, metres; null when there is no ink to bevel. */
  limits: BevelLimits | null;
  /** Pairs of letters, by their places, that touch. */
  touches: [number, number][];
  /** How many solids had to be built rather than taken from the cache. */
  built: number;
}

/** Solids kept for reuse; the oldest go first. */
const MOST_CACHED = 2000;
/** Coarseness up to which corners are as round as for close views, and their sectors beyond. */
const SECTORS_FINE_TO = 8;
const COARSE_SECTOR = Math.PI / 5;
/** Flatness of drawn tubes, thousandths of an em. */
const FLATNESS = 0.3;

export class SolidCache {
  private readonly solids = new Map<string, Solid>();

  get<S extends Solid>(key: string, build: () => S): { solid: S; fresh: boolean } {
    const known = this.solids.get(key);
    if (known) {
      this.solids.delete(key);
      this.solids.set(key, known);
      return { solid: known as S, fresh: false };
    }
    const solid = build();
    this.solids.set(key, solid);
    if (this.solids.size > MOST_CACHED) this.solids.delete(this.solids.keys().next().value!);
    return { solid, fresh: true };
  }
}

/** Where solids that reach from low to high lie from the zero plane they grow from. */
function backOf(growth: Block['growth'], low: number, high: number): number {
  return { forward: -low, both: -(low + high) / 2, backward: -high }[growth];
}

/** Coarseness from which bevels narrower than this share of a capital are left out: not a pixel of them shows. */
const LEAVES_OUT_FROM = 16;
const LEFT_OUT = 0.05;

/** A bevel in the unit of outlines, with fewer segments, or none, where the frame cannot show them. */
function bevelIn(
  bevel: Block['front'],
  { capHeight }: Block,
  scale: number,
  coarseness: number,
): Block['front'] {
  const unseen = coarseness >= LEAVES_OUT_FROM && Math.max(bevel.width, bevel.height) < LEFT_OUT * capHeight;
  return {
    ...bevel,
    width: unseen ? 0 : bevel.width / scale,
    height: unseen ? 0 : bevel.height / scale,
    segments: Math.max(1, Math.round(bevel.segments / Math.sqrt(coarseness))),
  };
}

function tubeShape({ tube }: Block, scale: number, letter: string): TubeShape {
  const { course, tightest, smoothing, electrodes } = tube;
  const inUnit = (v: number) => v / scale;
  return {
    course,
    tightest,
    smoothing,
    electrodes,
    diameter: inUnit(tube.diameter),
    wall: inUnit(tube.wall),
    inset: inUnit(tube.inset),
    electrode: inUnit(tube.electrode),
    standOff: inUnit(tube.standOff),
    supports: inUnit(tube.supports),
    paintOuts: tube.paintOuts
      .filter((p) => p.letter === letter)
      .map(({ stroke, from, to }) => ({ stroke, from, to })),
  };
}

function stripShape({ strip, depth }: Block, scale: number): StripShape {
  return {
    by: strip.by,
    count: strip.count,
    inset: strip.inset / scale,
    width: Math.min(strip.width, depth) / scale,
    spacing: strip.spacing / scale,
    size: strip.size / scale,
    middle: (strip.at * (depth - Math.min(strip.width, depth)) + Math.min(strip.width, depth) / 2) / scale,
    colours: strip.colours.length,
  };
}

/** Bounds of a letter's solid in the block. */
function boundsOf({ solid, x, y, turn }: LetterSolid): [number, number, number, number] | null {
  if (!solid.box) return null;
  const [x0, y0, , x1, y1] = solid.box;
  if (turn === 0) return [x + x0, y + y0, x + x1, y + y1];
  const [c, s] = [cos(turn), sin(turn)];
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  const p = solid.positions;
  for (let i = 0; i < p.length; i += 3) {
    const px = x + c * p[i] - s * p[i + 1];
    const py = y + s * p[i] + c * p[i + 1];
    box[0] = Math.min(box[0], px);
    box[1] = Math.min(box[1], py);
    box[2] = Math.max(box[2], px);
    box[3] = Math.max(box[3], py);
  }
  return box;
}

/** Tubes drawn by hand: each stands as a letter of its own. */
function drawnTubes(
  block: Block,
  scale: number,
  cache: SolidCache,
): { letters: LetterSolid[]; built: number } {
  let built = 0;
  const letters = block.tube.drawn.flatMap((stroke, i): LetterSolid[] => {
    const nodes = stroke.nodes.map((n) => ({
      x: n.x / scale,
      y: n.y / scale,
      inX: n.inX / scale,
      inY: n.inY / scale,
      outX: n.outX / scale,
      outY: n.outY / scale,
    }));
    if (nodes.length < 2) return [];
    const shape = tubeShape(block, scale, stroke.id);
    const key = `drawn/${JSON.stringify([nodes, stroke.closed, shape])}`;
    const course = courseOf(nodes, stroke.closed, FLATNESS);
    const { solid, fresh } = cache.get<TubeSolid>(key, () => buildTube([course], shape));
    if (fresh) built++;
    const line = pointsOf(course);
    const [open, closed] = stroke.closed ? [[], [line]] : [[line], []];
    return [
      {
        letter: stroke.id,
        text: `Tube ${i + 1}`,
        missing: false,
        standIn: null,
        solid,
        outline: outlined(open, closed, shape.diameter, 'round', 'round', 2, FLATNESS),
        tube: solid.tube,
        x: 0,
        y: 0,
        turn: 0,
        advance: 0,
      },
    ];
  });
  return { letters, built };
}

/**
 * Solids of a block's laid-out text; builds what the cache does not hold.
 * @param scale metres per thousandth of an em
 */
export function solidsOf(block: Block, layout: TextLayout, scale: number, cache: SolidCache): BlockSolids {
  const drawnByHand = block.form === 'tube' && block.tube.course === 'drawn';
  const { letters, built } = drawnByHand
    ? drawnTubes(block, scale, cache)
    : letterSolids(block, layout, scale, cache);
  let bounds: BlockSolids['bounds'] = null;
  let [low, high] = block.form === 'bevelled' ? [0, block.depth / scale] : [Infinity, -Infinity];
  for (const letter of letters) {
    const own = boundsOf(letter);
    if (!own) continue;
    bounds = bounds
      ? [
          Math.min(bounds[0], own[0]),
          Math.min(bounds[1], own[1]),
          Math.max(bounds[2], own[2]),
          Math.max(bounds[3], own[3]),
        ]
      : own;
    low = Math.min(low, letter.solid.box![2]);
    high = Math.max(high, letter.solid.box![5]);
  }
  if (low > high) [low, high] = [0, 0];
  // tubes stand off their zero plane by a distance of their own
  const backAt = block.form === 'tube' ? 0 : backOf(block.growth, low * scale, high * scale);
  const each = letters.flatMap((l) => l.solid.limits ?? []);
  const limits =
    each.length > 0
      ? {
          flat: Math.min(...each.map((l) => l.flat)) * scale,
          ridge: Math.max(...each.map((l) => l.ridge)) * scale,
        }
      : null;
  return {
    block: block.id,
    letters,
    zones: zonesOf(block),
    scale,
    backAt,
    bounds: bounds && (bounds.map((v) => v * scale) as BlockSolids['bounds']),
    reach: [low * scale + backAt, high * scale + backAt],
    limits,
    touches: drawnByHand || followsPen(block, layout) ? [] : touching(layout),
    built,
  };
}

const followsPen = ({ form, tube }: Block, { lines }: TextLayout) =>
  form === 'tube' && tube.course === 'centre' && lines !== undefined && lines.size > 0;

/** Tubes along the lines that a pen drew, laid among each other. */
function alongPen(block: Block, { letters, lines = new Map() }: TextLayout, scale: number) {
  const drawn = letters.filter((l) => lines.has(l.glyph));
  const sets = drawn.map((l) => ({
    lines: lines.get(l.glyph)!,
    shape: { ...tubeShape(block, scale, l.letter), coarseness: l.coarseness },
  }));
  const shapes = JSON.stringify(sets.map((s) => s.shape));
  let built: TubeSolid[] | null = null;
  return {
    has: (l: PlacedLetter) => lines.has(l.glyph),
    key: (l: PlacedLetter) => `${l.glyph}/pen/${shapes}`,
    build: (l: PlacedLetter): Solid => (built ??= buildTubes(sets))[drawn.indexOf(l)],
  };
}

function letterSolids(
  block: Block,
  layout: TextLayout,
  scale: number,
  cache: SolidCache,
): { letters: LetterSolid[]; built: number } {
  const strip = block.strip.on && block.form !== 'tube' ? stripShape(block, scale) : null;
  const depth = block.depth / scale;
  /** What names the form letters of a coarseness get, and what makes it. */
  const former = (coarseness: number): { key: string; build: (region: Contour[]) => Solid } => {
    if (block.form === 'bevelled') {
      const shape: SolidShape = {
        depth,
        front: bevelIn(block.front, block, scale, coarseness),
        back: bevelIn(block.back, block, scale, coarseness),
        ...(coarseness > SECTORS_FINE_TO ? { sector: COARSE_SECTOR } : {}),
      };
      return { key: JSON.stringify(shape), build: (region) => buildSolid(region, shape) };
    }
    const { pressure } = block;
    const shape: DomeShape = { form: block.form as DomeShape['form'], depth, pressure, coarseness };
    return { key: JSON.stringify(shape), build: (region) => buildDome(region, shape) };
  };
  const formers = new Map<number, ReturnType<typeof former>>();
  const penned = followsPen(block, layout) ? alongPen(block, layout, scale) : null;
  const solidOf = (placed: PlacedLetter, outline: Contour[]) => {
    const { glyph, letter, coarseness } = placed;
    if (block.form === 'tube') {
      if (penned?.has(placed)) return cache.get<Solid>(penned.key(placed), () => penned.build(placed));
      const shape = { ...tubeShape(block, scale, letter), coarseness };
      return cache.get<Solid>(`${glyph}/${JSON.stringify(shape)}`, () => buildLetterTube(outline, shape));
    }
    let form = formers.get(coarseness);
    if (!form) formers.set(coarseness, (form = former(coarseness)));
    const { key, build } = form;
    return cache.get(`${glyph}/${key}/${stripKey}`, () => {
      try {
        return strip ? together(build(outline), buildStrip(outline, strip)) : build(outline);
      } catch (error) {
        if (error instanceof CrossingError) return nothing(zonesOf(block));
        throw error;
      }
    });
  };
  const stripKey = JSON.stringify(strip);
  let built = 0;
  const letters = layout.letters.map((l): LetterSolid => {
    const outline = layout.outlines.get(l.glyph)!;
    const { solid, fresh } = solidOf(l, outline);
    if (fresh) built++;
    const { letter, text, missing, standIn, x, y, turn, advance } = l;
    const tube = 'tube' in solid ? (solid as TubeSolid).tube : null;
    return { letter, text, missing, standIn, solid, outline, tube, x, y, turn, advance };
  });
  return { letters, built };
}
