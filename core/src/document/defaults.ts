/** What a new project, block, light or look starts as. */
import type { Baseline } from './baseline.ts';
import type { Bevel, Block, ProfilePoint } from './block.ts';
import { newId } from './edits.ts';
import type { Finish, Surface } from './finish.ts';
import type { Light, LightKind, Look } from './look.ts';
import { FORMAT, VERSION, type Project } from './project.ts';
import type { Shot } from './stage.ts';
import type { Strip, Tube } from './tube.ts';

/** OpenPBR's own defaults, save that measured metals start as 'none'. */
export function plainSurface(changes: Partial<Surface> = {}): Surface {
  return {
    base_weight: 1,
    base_color: [0.8, 0.8, 0.8],
    base_diffuse_roughness: 0,
    base_metalness: 0,
    base_metal: 'none',
    specular_weight: 1,
    specular_color: [1, 1, 1],
    specular_roughness: 0.3,
    specular_ior: 1.5,
    specular_roughness_anisotropy: 0,
    specular_rotation: 0,
    transmission_weight: 0,
    transmission_color: [1, 1, 1],
    transmission_depth: 0,
    coat_weight: 0,
    coat_color: [1, 1, 1],
    coat_roughness: 0,
    coat_ior: 1.6,
    emission_color: [1, 1, 1],
    emission_luminance: 0,
    geometry_thin_walled: false,
    ...changes,
  };
}

/** What a free profile starts as: a round one's course. */
export const FREE_PROFILE: ProfilePoint[] = [
  { across: 0, up: 0, smooth: false },
  { across: 0.3, up: 0.7, smooth: true },
  { across: 1, up: 1, smooth: false },
];

export const STRAIGHT_BASELINE: Baseline = {
  kind: 'straight',
  slope: 0,
  bend: Math.PI / 3,
  radius: 0.6,
  inside: false,
  nodes: [],
  upright: false,
  offset: 0,
  shift: 0,
};

export function newBevel(
  changes: Pick<Bevel, 'width' | 'height' | 'profile' | 'segments'> & Partial<Bevel>,
): Bevel {
  return { way: 'inward', shading: 'drawn', points: [], ...changes };
}

export function newTube(changes: Partial<Tube> = {}): Tube {
  return {
    course: 'centre',
    diameter: 0.012,
    wall: 0.001,
    inset: 0.01,
    tightest: 1.5,
    smoothing: 0.5,
    electrodes: true,
    electrode: 0.008,
    standOff: 0.03,
    supports: 0.25,
    paintOuts: [],
    drawn: [],
    ...changes,
  };
}

export function newStrip(changes: Partial<Strip> = {}): Strip {
  return {
    on: false,
    inset: 0.006,
    at: 0.5,
    width: 0.01,
    by: 'spacing',
    count: 60,
    spacing: 0.016,
    size: 0.005,
    colours: [
      [1, 0.42, 0.12],
      [0.1, 0.5, 1],
    ],
    luminance: 60,
    ...changes,
  };
}

export function newBlock(text: string, changes: Partial<Block> = {}): Block {
  return {
    id: newId(),
    text,
    letters: [...text].map(() => newId()),
    font: { source: 'shipped', id: 'alfa-slab-one', name: 'Alfa Slab One' },
    capHeight: 0.3,
    tracking: 20,
    leading: 1,
    alignment: 'centre',
    kerns: [],
    features: [],
    axes: [],
    baseline: { ...STRAIGHT_BASELINE },
    drawing: null,
    weld: false,
    form: 'bevelled',
    depth: 0.08,
    growth: 'both',
    front: newBevel({ width: 0.012, height: 0.012, profile: 'round', segments: 6 }),
    back: newBevel({ width: 0.006, height: 0.006, profile: 'straight', segments: 1 }),
    pressure: 1,
    tube: newTube(),
    strip: newStrip(),
    place: { position: [0, 0.16, 0], turn: 0 },
    ...changes,
  };
}

export function newLight(kind: LightKind, name: string, changes: Partial<Light> = {}): Light {
  return {
    id: newId(),
    name,
    kind,
    on: true,
    solo: false,
    strength: kind === 'area' ? 12 : kind === 'spot' ? 10 : 3,
    hue: 'temperature',
    colour: [1, 1, 1],
    kelvin: 5000,
    azimuth: -0.7,
    elevation: 0.7,
    distance: 2.4,
    width: 0.9,
    height: 0.5,
    cone: 0.45,
    edge: 0.3,
    shadow: true,
    aim: [0, 0, 0],
    ...changes,
  };
}

export function newLook(name: string, changes: Partial<Look> = {}): Look {
  return {
    id: newId(),
    name,
    chart: [],
    surround: {
      source: 'painted',
      id: 'lamp-studio',
      name: 'Lamp studio',
      stops: 0,
      turn: 0,
      seen: false,
    },
    rig: [newLight('area', 'Key')],
    grade: { exposure: 0, view: 'soft' },
    ...changes,
  };
}

export function newShot(changes: Partial<Shot> = {}): Shot {
  return {
    id: newId(),
    name: 'Front',
    camera: { target: [0, 0.16, 0], azimuth: 0, elevation: 0.06, distance: 3, focal: 50 },
    frame: '16:9',
    bounces: 8,
    ...changes,
  };
}

/** A project with one word, one look, one shot and a floor. */
export function newProject(name: string, text: string, finishes: Finish[]): Project {
  const finish = finishes[0]?.id ?? null;
  return {
    format: FORMAT,
    version: VERSION,
    name,
    blocks: [newBlock(text)],
    finishes,
    pieces: [{ id: newId(), kind: 'floor', on: true, at: 0, finish: finishes[1]?.id ?? finish }],
    looks: [newLook('First look', { chart: finish === null ? [] : [{ finish }] })],
    shots: [newShot()],
  };
}
