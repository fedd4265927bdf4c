/**
 * Finishes out of MaterialX documents: OpenPBR surfaces and Standard Surfaces, mixed ones as coats, inputs fed by
 * viewing angle or by pictures as feeds. What is not understood is told, by material and input.
 */
import {
  DocumentError,
  newCoat,
  newFeed,
  openFinish,
  MOST,
  plainFinish,
  plainSurface,
  VERSION,
} from '../document/index.ts';
import type { Coat, Feed, Finish, PictureRef, Surface } from '../document/index.ts';
import { SURFACE } from '../document/parameters.ts';
import { cutTo } from '../document/text.ts';
import {
  behind,
  MaterialXError,
  nodeBehind,
  openMaterialX,
  valueOf,
  type MaterialDocument,
  type MaterialNode,
} from './materialNodes.ts';
import { markOf, OPEN_PBR, openPbrInput, OWN_FINISH, OWN_MARK } from './openPbr.ts';
import { fromStandardSurface, LEFT_OUT, STANDARD_NAMES } from './standardSurface.ts';

export interface ReadMaterials {
  finishes: Finish[];
  /** What was not read, in words. */
  unread: string[];
}

/** What is known while one material is read. */
interface Reading {
  document: MaterialDocument;
  material: string;
  unread: Set<string>;
  /** The picture a file of the document's is; null where it is not at hand. */
  pictureOf: (file: string) => PictureRef | null;
  /** Mixes followed so far: they may lead round in a circle. */
  mixes: number;
  /** Identifiers for what is made. */
  newId: () => string;
}

const MOST_NAME = 80;
/** Mixes of a material that are followed. */
const MOST_MIXES = 64;
/** Nodes of an axis within each other. */
const DEEPEST_AXIS = 8;

const tell = (reading: Reading, text: string) => reading.unread.add(`${reading.material}: ${text}`);

/** One number of an input, 0 where it holds none. */
const one = (node: MaterialNode | null, name: string, plain = 0) =>
  (node && valueOf(node.inputs.get(name), 'lin_rec709')?.[0]) ?? plain;

/** What an axis node says; null when it is none that is known. */
function axisFeed(node: MaterialNode | null, reading: Reading, depth = 0): Partial<Feed> | null {
  // nodes may lead round in a circle
  if (!node || depth > DEEPEST_AXIS) return null;
  if (node.tag === 'remap') {
    const inner = axisFeed(behind(node, 'in'), reading, depth + 1);
    return inner && { ...inner, from: clamp01(one(node, 'inlow')), to: clamp01(one(node, 'inhigh', 1)) };
  }
  if (node.tag === 'power') {
    const inner = axisFeed(behind(node, 'in1'), reading, depth + 1);
    return inner?.source === 'angle' && one(node, 'in2') === 5 ? { ...inner, shape: 'fresnel' } : null;
  }
  if (node.tag === 'subtract') {
    const facing = behind(behind(node, 'in2'), 'in');
    const ends = ['in1', 'in2'].map((i) => behind(facing, i)?.tag);
    return one(node, 'in1') === 1 &&
      facing?.tag === 'dotproduct' &&
      ends.includes('viewdirection') &&
      ends.includes('normal')
      ? { source: 'angle' }
      : null;
  }
  if (node.tag === 'image' || node.tag === 'tiledimage') {
    const numbers = pictureFeed(node, reading);
    return numbers && { ...numbers, take: 'light' };
  }
  if (node.tag !== 'extract') return null;
  const from = behind(node, 'in');
  const take = from?.tag === 'luminance' ? 'light' : 'cover';
  const picture = pictureFeed(take === 'light' ? behind(from, 'in') : from, reading);
  return picture && { ...picture, take };
}

const clamp01 = (v: number) => Math.min(1, Math.max(0, v));

/** What an image node says. */
function pictureFeed(node: MaterialNode | null, reading: Reading): Partial<Feed> | null {
  if (node?.tag !== 'image' && node?.tag !== 'tiledimage') return null;
  const file = node.inputs.get('file');
  const picture = file?.value ? reading.pictureOf(file.value) : null;
  if (!picture) {
    tell(reading, `the picture ${file?.value ?? ''} is not in the file`);
    return null;
  }
  const coding = file!.colorspace === 'srgb_texture' ? 'colour' : 'numbers';
  return { source: 'picture', picture, coding, lay: 'letter', edges: 'repeat' };
}

/** At most so many of a list, its ends among them. */
const evenly = <T>(list: readonly T[], most: number): T[] =>
  list.length <= most
    ? [...list]
    : Array.from({ length: most }, (_, i) => list[Math.round((i * (list.length - 1)) / (most - 1))]!);

/** Stops of a chain of mixes along one axis; null when it is something else. */
function chainFeed(node: MaterialNode | null, reading: Reading): Partial<Feed> | null {
  const stops: { at: number; of: number[] }[] = [];
  let along: Partial<Feed> | null = null;
  let here = node;
  while (here?.tag === 'mix' && stops.length < 64) {
    const slope = behind(behind(here, 'mix'), 'in');
    const past = behind(slope, 'in1');
    if (slope?.tag !== 'divide' || past?.tag !== 'subtract') return null;
    along ??= axisFeed(behind(past, 'in1'), reading);
    const low = one(past, 'in2');
    const fg = valueOf(here.inputs.get('fg'), reading.document.colorspace);
    if (!along || !fg) return null;
    stops.unshift({ at: low + one(slope, 'in2'), of: fg });
    const bg = valueOf(here.inputs.get('bg'), reading.document.colorspace);
    if (bg) {
      stops.unshift({ at: low, of: bg });
      break;
    }
    here = behind(here, 'bg');
  }
  if (!along || stops.length < 2) return null;
  return {
    ...along,
    blend: 'linear',
    stops: evenly(stops, MOST.stops).map(({ at, of }) => ({
      at: clamp01(Math.round(at * 1e6) / 1e6),
      value: of.length === 1 ? of[0]! : 0,
      colour: of.length === 3 ? of.map(clamp01) : [1, 1, 1],
    })),
  };
}

/** A feed of a parameter from the node that an input leads to; null when it is not understood. */
function feedOf(parameter: string, node: MaterialNode, colour: boolean, reading: Reading): Feed | null {
  const whole = colour ? pictureFeed(node, reading) : null;
  const made = whole ?? chainFeed(node, reading);
  if (!made) return null;
  const feed = newFeed(reading.newId(), parameter, colour ? [1, 1, 1] : 0);
  return { ...feed, ...made, ...(whole ? { take: 'colour' as const } : {}) };
}

/** A surface with what feeds it. */
function surfaceOf(node: MaterialNode, reading: Reading): { surface: Surface; feeds: Feed[] } {
  const feeds: Feed[] = [];
  const standard = node.tag === 'standard_surface';
  const given = new Map<string, number[]>();
  for (const [name, input] of node.inputs) {
    const parameter = standard ? STANDARD_NAMES[name] : openPbrInput(name) && name;
    const leads = nodeBehind(node, input);
    if (leads?.tag === 'constant') {
      const held = valueOf(leads.inputs.get('value'), reading.document.colorspace);
      if (held) given.set(name, held);
      continue;
    }
    if (!leads) {
      const held = valueOf(input, reading.document.colorspace);
      if (held) given.set(name, held);
      else if (input.value === undefined) tell(reading, `${name} leads to nothing in the file`);
      else if (input.type === 'float' || input.type === 'color3')
        tell(reading, `${name} is "${input.value.slice(0, 40)}", which is no number`);
      continue;
    }
    if (name === 'geometry_tangent' || name === 'geometry_coat_tangent') {
      if (leads.tag === 'rotate3d') given.set(`${name} turn`, [one(leads, 'amount')]);
      else if (leads.tag !== 'tangent') tell(reading, `${name} is fed by ${leads.tag}`);
      continue;
    }
    const kind = parameter && SURFACE[parameter as keyof typeof SURFACE]?.kind;
    const feed =
      parameter && SURFACE[parameter as keyof typeof SURFACE]?.fed
        ? feedOf(parameter, leads, kind === 'colour', reading)
        : null;
    if (feed) feeds.push(feed);
    else tell(reading, `${name} is fed by ${leads.tag}, which is not read`);
  }
  if (standard) {
    for (const name of LEFT_OUT)
      if ((given.get(name)?.[0] ?? 0) !== 0) tell(reading, `${name} has no counterpart`);
    const surface = fromStandardSurface({
      number: (name, plain) => given.get(name)?.[0] ?? plain,
      colour: (name, plain) => held3(given.get(name)) ?? [...plain],
      flag: (name) => node.inputs.get(name)?.value === 'true',
    });
    return { surface: inRange(surface, reading), feeds };
  }
  const made: Record<string, unknown> = {};
  for (const { name, type } of OPEN_PBR) {
    const held = given.get(name);
    if (type === 'boolean') {
      if (node.inputs.has(name)) made[name] = node.inputs.get(name)!.value === 'true';
    } else if (held) made[name] = type === 'color3' ? (held3(held) ?? held) : held[0];
  }
  const turn = given.get('geometry_tangent turn')?.[0];
  if (turn !== undefined) made.specular_rotation = (turn * Math.PI) / 180;
  const turnOfCoat = given.get('geometry_coat_tangent turn')?.[0];
  if (turnOfCoat !== undefined && turnOfCoat !== turn)
    tell(reading, 'geometry_coat_tangent has no counterpart: the clear coat is turned as what lies under it');
  return { surface: inRange(plainSurface(made as Partial<Surface>), reading), feeds };
}

const held3 = (v: number[] | undefined) => (v && v.length >= 3 ? v.slice(0, 3) : null);

/** Brings every number into its parameter's range, and says so where that changes it. */
function inRange(surface: Surface, reading: Reading): Surface {
  const out: Record<string, unknown> = { ...surface };
  for (const [key, parameter] of Object.entries(SURFACE)) {
    const own = out[key];
    if (parameter.kind === 'number') {
      const { min, max } = parameter as unknown as { min: number; max: number };
      const kept = Math.min(max, Math.max(min, own as number));
      if (Math.abs(kept - (own as number)) > 1e-9) tell(reading, `${key} ${String(own)} is taken as ${kept}`);
      out[key] = kept;
    } else if (parameter.kind === 'colour') {
      const kept = (own as number[]).map(clamp01);
      if (kept.some((v, c) => Math.abs(v - (own as number[])[c]!) > 1e-9))
        tell(reading, `${key} is cut to what a surface can reflect`);
      out[key] = kept;
    }
  }
  return out as unknown as Surface;
}

/** A shader, or a mix of shaders, from the lowest coat up. */
function layersOf(
  node: MaterialNode | null,
  reading: Reading,
): { surface: Surface; feeds: Feed[]; cover: number | Partial<Feed> }[] {
  if (!node) return [];
  if (node.tag === 'mix') {
    if (++reading.mixes > MOST_MIXES) return [];
    const under = layersOf(behind(node, 'bg'), reading);
    const over = layersOf(behind(node, 'fg'), reading);
    const masks = behind(node, 'mix');
    const cover = masks
      ? (chainFeed(masks, reading) ?? axisFeed(masks, reading) ?? 0.5)
      : clamp01(one(node, 'mix'));
    if (masks && cover === 0.5) tell(reading, `the mask of a coat is fed by ${masks.tag}, which is not read`);
    return [...under, ...over.map((layer, i) => (i === over.length - 1 ? { ...layer, cover } : layer))];
  }
  if (node.tag !== 'open_pbr_surface' && node.tag !== 'standard_surface') {
    tell(reading, `${node.tag} is not read`);
    return [];
  }
  return [{ ...surfaceOf(node, reading), cover: 1 }];
}

function coatsOf(layers: ReturnType<typeof layersOf>, reading: Reading): Coat[] {
  return layers.slice(1).map(({ surface, feeds, cover }, i) => {
    const fed =
      typeof cover === 'number' ? [] : [{ ...newFeed(reading.newId(), 'cover', 0), ...cover } as Feed];
    return newCoat({
      id: reading.newId(),
      name: `Coat ${i + 1}`,
      cover: typeof cover === 'number' ? cover : 1,
      surface,
      feeds: [...feeds, ...fed],
    });
  });
}

/** The finish that was written whole, when the nodes are still those it was written as. */
function ownFinish(material: MaterialNode, text: string): Finish | null {
  const own = material.attributes[OWN_FINISH];
  if (!own || material.attributes[OWN_MARK] !== markOf(text)) return null;
  try {
    const { version, finish } = JSON.parse(own) as { version: unknown; finish: unknown };
    return openFinish(version, finish);
  } catch (error) {
    if (error instanceof DocumentError || error instanceof SyntaxError) return null;
    throw error;
  }
}

/**
 * Reads every material of a document.
 * @param pictureOf the picture a file it names is; null where it is not at hand
 * @throws MaterialXError when it is no such document, or holds no material that is read
 */
export function readMaterialX(
  text: string,
  pictureOf: (file: string) => PictureRef | null,
  newId: () => string,
): ReadMaterials {
  const document = openMaterialX(text);
  const unread = new Set<string>();
  const finishes: Finish[] = [];
  const shaders = new Set<string>();
  const read = (name: string, node: MaterialNode | null, material: MaterialNode | null) => {
    const own = material && ownFinish(material, text);
    if (own) {
      finishes.push({ ...own, id: newId() });
      return;
    }
    const reading: Reading = { document, material: name, unread, pictureOf, newId, mixes: 0 };
    const layers = layersOf(node, reading);
    if (layers.length === 0) return;
    const [{ surface, feeds }] = layers;
    const finish = plainFinish({
      id: newId(),
      name: cutTo(name.trim() || 'Material', MOST_NAME),
      surface,
      feeds,
      coats: coatsOf(layers, reading),
    });
    finishes.push(openFinish(VERSION, finish));
  };
  for (const node of document.nodes) {
    if (node.tag !== 'surfacematerial') continue;
    const shader = behind(node, 'surfaceshader');
    if (shader) shaders.add(shader.name);
    read(node.attributes.uiname ?? node.name.replace(/^M_/, '').replace(/_/g, ' '), shader, node);
  }
  // documents of shaders alone
  if (shaders.size === 0)
    for (const node of document.nodes)
      if (node.tag === 'open_pbr_surface' || node.tag === 'standard_surface')
        read(node.attributes.uiname ?? node.name.replace(/_/g, ' '), node, null);
  if (finishes.length === 0)
    throw new MaterialXError(
      unread.size > 0 ? `nothing in it can be read: ${[...unread].join('; ')}` : 'there is no material in it',
    );
  return { finishes, unread: [...unread] };
}
