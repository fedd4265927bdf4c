/** What things are called, on the screen and in history. */
import type { Block } from './block.ts';
import type { FeedSource, LightKind, PieceKind, Zone } from './kinds.ts';
import type { Parameter } from './parameter.ts';
import { FEED } from './parameters.ts';
import type { Piece } from './stage.ts';

export const ZONE_NAMES: Record<Zone, string> = {
  front: 'Front',
  frontBevel: 'Bevel',
  side: 'Side',
  backBevel: 'Back bevel',
  back: 'Back',
  glass: 'Glass',
  gas: 'Gas',
  electrode: 'Electrode',
  paintOut: 'Paint-out',
  standOff: 'Stand-off',
  strip: 'Strip',
  points: 'Points',
};

export const LIGHT_NAMES: Record<LightKind, string> = {
  area: 'Area',
  card: 'Card',
  spot: 'Spot',
  point: 'Point',
  directional: 'Directional',
  ambient: 'Ambient',
  array: 'Arrangement',
};

export const PIECE_NAMES: Record<PieceKind, string> = {
  floor: 'Floor',
  wall: 'Wall',
  backdrop: 'Curved backdrop',
  table: 'Table top',
  niche: 'Niche',
  grid: 'Grid',
  plate: 'Plate',
  model: 'Model',
};

/** A name for a block in lists and in the history. */
export const blockName = (block: Block): string =>
  block.drawing?.name ?? (block.text.trim().split('\n', 1).join('').slice(0, 24) || 'empty block');

/** What a piece is called within a sentence: "the floor", or the name that it was given. */
export const pieceInWords = ({ name, kind }: Pick<Piece, 'name' | 'kind'>): string =>
  name.startsWith(PIECE_NAMES[kind]) ? `the ${name.toLowerCase()}` : name;

/** What an option of a choice is called. */
export const optionName = (parameter: Parameter, value: unknown): string =>
  parameter.kind === 'choice' ? (parameter.options.find(([v]) => v === value)?.[1] ?? String(value)) : '';

/** What a parameter is fed by, in words. */
export const FEED_NAMES = Object.fromEntries(FEED.source.options) as Record<FeedSource, string>;
