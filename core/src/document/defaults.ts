/** What a new project, block, light or look starts as. */
import type { Baseline } from './baseline.ts';
import type { Bevel, Block, FontRef, LetterPose, ProfilePoint } from './block.ts';
import { newId } from './ids.ts';
import type { Coat, Feed, Finish, PictureRef, Surface } from './finish.ts';
import type { LightKind, MoveKind, PieceKind } from './kinds.ts';
import { LIGHT_TABLES, type Corner, type Follow, type LightOf } from './light.ts';
import type { Grade, Look, Panel, Surround } from './look.ts';
import type { Key, Move, Track } from './motion.ts';
import { PIECE_NAMES } from './names.ts';
import { defaultsOf, type NumberParameter, type Parameter, type Table } from './parameter.ts';
import {
  BASELINE,
  BEVEL,
  BLOCK,
  CAMERA,
  COAT,
  EACH,
  FEED,
  FOLLOW,
  GRADE,
  MOVE,
  PANEL,
  PIECE,
  PLACE,
  POSE,
  SHOT,
  STRIP,
  SURFACE,
  SURROUND,
  TRACK,
  TUBE,
} from './parameters.ts';
import { FORMAT, VERSION, type Project } from './project.ts';
import type { Camera, Piece, Shot } from './stage.ts';
import type { Strip, Tube } from './tube.ts';

/** OpenPBR's own defaults, save that measured metals start as 'none'. */
export const plainSurface = (changes: Partial<Surface> = {}): Surface => ({
  ...defaultsOf(SURFACE),
  ...changes,
});

/** One coat, fed by nothing. */
export const plainFinish = (changes: Pick<Finish, 'id' | 'name'> & Partial<Finish>): Finish => ({
  family: 'matte paint',
  tags: [],
  surface: plainSurface(),
  within: null,
  feeds: [],
  coats: [],
  ...changes,
});

export const newCoat = (changes: Pick<Coat, 'id' | 'name'> & Partial<Coat>): Coat => ({
  ...defaultsOf(COAT),
  surface: plainSurface(),
  feeds: [],
  ...changes,
});

/** Picture that a feed shows until another is chosen. */
const FIRST_PICTURE: PictureRef = { source: 'painted', id: 'hull-paint', name: 'Hull paint' };

/** Height of the lumps that relief starts with, metres. */
const FIRST_RELIEF = 0.0003;

/**
 * A feed of a parameter as it starts: from the value it has to another that can be told from it, over the axis that
 * is asked for most.
 * @throws Error when the parameter cannot be fed
 */
export function newFeed(id: string, parameter: string, value: number | readonly number[]): Feed {
  const asked = { ...SURFACE, ...COAT }[parameter as keyof typeof SURFACE] as Parameter | undefined;
  if (!asked?.fed) throw new Error(`${parameter} cannot be fed`);
  const stops =
    asked.kind === 'colour'
      ? [value as number[], (value as number[]).map((v) => (v > 0.5 ? v * 0.1 : 0.5 + v * 0.5))].map(
          (colour, at) => ({ at, value: 0, colour: [...colour] }),
        )
      : [value as number, otherValue(asked as NumberParameter, parameter, value as number)].map(
          (number, at) => ({ at, value: number, colour: [1, 1, 1] }),
        );
  const source = parameter === 'relief' ? 'noise' : asked.kind === 'colour' ? 'angle' : 'up';
  const own = parameter === 'relief' ? { scale: 0.003 } : {};
  return { ...defaultsOf(FEED), id, parameter, source, picture: { ...FIRST_PICTURE }, ...own, stops };
}

const otherValue = ({ min, max }: NumberParameter, parameter: string, value: number) =>
  parameter === 'relief'
    ? value + FIRST_RELIEF
    : value - min > (max - min) / 2
      ? min
      : Math.min(max, value * 2 || 1);

/** What a free profile starts as: a round one's course. */
export const FREE_PROFILE: ProfilePoint[] = [
  { across: 0, up: 0, smooth: false },
  { across: 0.3, up: 0.7, smooth: true },
  { across: 1, up: 1, smooth: false },
];

/** Where things of one kind start differently for where they are: by the address of their place. */
export const STARTS: Readonly<Record<string, Record<string, unknown>>> = {
  'blocks/back': { width: 0.006, height: 0.006, profile: 'straight', segments: 1 } satisfies Partial<Bevel>,
};

export const newBaseline = (changes: Partial<Baseline> = {}): Baseline => ({
  ...defaultsOf(BASELINE),
  nodes: [],
  ...changes,
});

export const newBevel = (changes: Partial<Bevel> = {}): Bevel => ({
  ...defaultsOf(BEVEL),
  points: [],
  ...changes,
});

export const newTube = (changes: Partial<Tube> = {}): Tube => ({
  ...defaultsOf(TUBE),
  paintOuts: [],
  drawn: [],
  ...changes,
});

export const newStrip = (changes: Partial<Strip> = {}): Strip => ({
  ...defaultsOf(STRIP),
  colours: [
    [1, 0.42, 0.12],
    [0.1, 0.5, 1],
  ],
  ...changes,
});

const FIRST_FONT: FontRef = { source: 'shipped', id: 'alfa-slab-one', name: 'Alfa Slab One' };

/** Outline that a light of its own outline starts with: a sail. */
const FIRST_OUTLINE: Corner[] = [
  { x: -0.5, y: -0.5 },
  { x: 0.5, y: -0.5 },
  { x: -0.1, y: 0.5 },
];

/** A letter as its line has it. */
export const newPose = (id: string, changes: Partial<LetterPose> = {}): LetterPose => ({
  ...defaultsOf(POSE),
  id,
  ...changes,
});

export function newBlock(text: string, changes: Partial<Block> = {}): Block {
  return {
    ...defaultsOf(BLOCK),
    id: newId(),
    text,
    letters: [...text].map(() => newId()),
    font: { ...FIRST_FONT },
    kerns: [],
    features: [],
    axes: [],
    baseline: newBaseline(),
    drawing: null,
    front: newBevel(),
    back: newBevel(STARTS['blocks/back']),
    tube: newTube(),
    strip: newStrip(),
    place: defaultsOf(PLACE),
    each: defaultsOf(EACH),
    poses: [],
    ...changes,
  };
}

/** What lights of a kind have beside their parameters. */
const ownOf = (kind: LightKind) =>
  kind === 'area'
    ? {
        outline: FIRST_OUTLINE.map((corner) => ({ ...corner })),
        text: 'A',
        font: { ...FIRST_FONT },
      }
    : kind === 'spot'
      ? { pattern: null, profile: null }
      : kind === 'point'
        ? { profile: null }
        : {};

export const newLight = <K extends LightKind>(
  kind: K,
  name: string,
  changes: Partial<LightOf<K>> = {},
): LightOf<K> =>
  ({
    id: newId(),
    name,
    kind,
    only: [],
    follows: null,
    ...ownOf(kind),
    ...defaultsOf<Table>(LIGHT_TABLES[kind]),
    ...changes,
  }) as unknown as LightOf<K>;

export const newFollow = (source: Follow['source'], id: string, changes: Partial<Follow> = {}): Follow => ({
  ...defaultsOf(FOLLOW),
  source,
  id,
  ...changes,
});

export const newSurround = (changes: Partial<Surround> = {}): Surround => ({
  ...defaultsOf(SURROUND),
  source: 'painted',
  id: 'lamp-studio',
  name: 'Lamp studio',
  panels: [],
  ...changes,
});

export const newPanel = (name: string, changes: Partial<Panel> = {}): Panel => ({
  ...defaultsOf(PANEL),
  id: newId(),
  name,
  stops: [],
  picture: null,
  ...changes,
});

export const newGrade = (changes: Partial<Grade> = {}): Grade => ({ ...defaultsOf(GRADE), ...changes });

export function newLook(name: string, changes: Partial<Look> = {}): Look {
  return {
    id: newId(),
    name,
    chart: [],
    surround: newSurround(),
    rig: [newLight('area', 'Key')],
    grade: defaultsOf(GRADE),
    ...changes,
  };
}

/** A camera as shots start with it. */
export const newCamera = (changes: Partial<Camera> = {}): Camera => ({ ...defaultsOf(CAMERA), ...changes });

export function newShot(changes: Partial<Shot> = {}): Shot {
  return {
    ...defaultsOf(SHOT),
    id: newId(),
    name: 'Front',
    camera: newCamera(),
    tracks: [],
    moves: [],
    ...changes,
  };
}

/** A key whose way to the next begins and ends gently. */
export const newKey = (at: number, value: readonly number[], changes: Partial<Key> = {}): Key => ({
  at,
  value: [...value],
  ease: 'eased',
  x1: 0.4,
  y1: 0,
  x2: 0.6,
  y2: 1,
  ...changes,
});

export const newTrack = (address: string, keys: Key[], changes: Partial<Track> = {}): Track => ({
  ...defaultsOf(TRACK),
  id: newId(),
  address,
  keys,
  ...changes,
});

export const newMove = (kind: MoveKind, address: string, changes: Partial<Move> = {}): Move => ({
  ...defaultsOf(MOVE),
  id: newId(),
  kind,
  address,
  axis: 0,
  ...changes,
});

export const newPiece = (kind: PieceKind, changes: Partial<Piece> = {}): Piece => ({
  ...defaultsOf(PIECE),
  id: newId(),
  kind,
  name: PIECE_NAMES[kind],
  finish: null,
  picture: null,
  model: null,
  dressings: [],
  ...changes,
});

/** A project with one word, one look, one shot and a floor. */
export function newProject(name: string, text: string, finishes: Finish[]): Project {
  const finish = finishes[0]?.id ?? null;
  return {
    format: FORMAT,
    version: VERSION,
    name,
    blocks: [newBlock(text)],
    finishes,
    pieces: [newPiece('floor', { finish: finishes[1]?.id ?? finish })],
    looks: [newLook('First look', { chart: finish === null ? [] : [{ finish }] })],
    shots: [newShot()],
  };
}
