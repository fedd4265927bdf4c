/** What a new project, block, light or look starts as. */
import type { Block } from './block.ts';
import { newId } from './edits.ts';
import type { Finish, Surface } from './finish.ts';
import type { Light, LightKind, Look } from './look.ts';
import { FORMAT, VERSION, type Project } from './project.ts';
import type { Shot } from './stage.ts';

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
    depth: 0.08,
    growth: 'both',
    front: { width: 0.012, height: 0.012, profile: 'round', segments: 6 },
    back: { width: 0.006, height: 0.006, profile: 'straight', segments: 1 },
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
