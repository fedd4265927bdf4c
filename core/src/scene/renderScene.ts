/**
 * What a picture is made from: flat arrays and small records, nothing of the document left to interpret.
 *
 *   things ◀── parts ──▶ instances ──▶ solids          shared by content
 *                │             └────▶ placements        what moves together: a block, a piece
 *                └────▶ finishes, groups
 *
 * Lengths in metres once placed. Numbers of things that may be absent are NONE.
 */
import type { Optics } from '../finish/optics.ts';
import type { PlacedLight } from '../light/placing.ts';
import type { SurroundPicture } from '../light/surround.ts';
import type { Box, OrbitCamera } from '../stage/camera.ts';
import type { Texture } from '../texture/texture.ts';

/** Stands in arrays of numbers for nothing. */
export const NONE = 0xffffffff;
/** Stands in arrays of bytes for nothing. */
export const NO_BYTE = 0xff;

/** Triangles about an origin of their own and in a unit of their own; alike keys are alike triangles. */
export interface SceneSolid {
  key: string;
  triangles: number;
  /** Nine floats a triangle. */
  positions: Float32Array;
  normals: Float32Array;
  /** Unit vectors along the outline, or along the line of text. */
  tangents: Float32Array;
  /** Twelve floats a triangle: along and across the outline, then the plane's x and y, in the solid's unit. */
  uv: Float32Array;
}

/** Places that carry instances into the world: one for each block and each piece. */
export interface Placements {
  count: number;
  /** Lasting names, by which one is known again in the next scene. */
  names: string[];
  /** Transforms at the opening and at the close of the shutter. */
  now: Float32Array;
  shut: Float32Array;
}

/** Solids where they stand. */
export interface Instances {
  count: number;
  solid: Uint32Array;
  placement: Uint32Array;
  /** Transforms from the solid into its placement; they scale alike in all directions. */
  local: Float32Array;
  /**
   * As `local`, but where letters would be that none has moved by itself: what feeds are laid along, so that they
   * travel with the letter. They turn in the plane alone.
   */
  rest: Float32Array;
}

/** Runs of triangles with one finish: one zone of one letter, or one piece. They follow their instances. */
export interface Parts {
  count: number;
  instance: Uint32Array;
  /** First triangle in the solid, and how many. */
  first: Uint32Array;
  triangles: Uint32Array;
  /** What it belongs to, a place in the scene's things. */
  thing: Uint32Array;
  /** A place in ZONES; NO_BYTE for pieces. */
  zone: Uint8Array;
  /** Which of its strip's colours a part's points of light have; NO_BYTE for all else. */
  colour: Uint8Array;
  /** Its finish, a place in the scene's finishes. */
  finish: Uint32Array;
  /** Whether it glows from both sides, as some meshes of files do; all else glows from its outside. */
  twoSided: Uint8Array;
  /** Share group of the light it gives; NONE when it gives none. */
  group: Uint32Array;
}

/** What a part belongs to: a letter of a block, or a piece. */
export interface Thing {
  block: string | null;
  letter: string | null;
  /** Which word of its block the letter is of, from 0. */
  word?: number;
  piece: string | null;
  /** The camera sees of it only what it leaves of the light: shadow and reflection. */
  catches?: boolean;
  /** It was there before all else: what catches shadows does not tell those that it throws itself. */
  stays?: boolean;
}

/** What of a surface a light reaches: its diffuse lobes, its mirroring ones, and what comes through it. */
export interface Reach {
  diffuse: boolean;
  mirrored: boolean;
  through: boolean;
}

/** How a light fades: as light does, or by a way that is true at a reference distance. */
export interface Fall {
  way: 'square' | 'linear' | 'none' | 'clamped';
  /** Metres. */
  reference: number;
}

/** The face of an area light, in shares of its width and height from its middle. */
export interface LightFace {
  /** Alike keys, alike faces. */
  key: string;
  /** Nine floats a triangle, in the plane z = 0; they look along −z. */
  positions: Float32Array;
  /** Share of width times height. */
  area: number;
}

/** A picture that a light is thrown through. */
export interface LightPattern {
  /** Key of a texture of the scene. */
  texture: string;
  /** One over its half width, a metre before the light. */
  scale: number;
  /** How far out of focus it is: 0 … 1. */
  soft: number;
}

interface AnyLight {
  id: string;
  name: string;
  placed: PlacedLight;
  shadow: boolean;
  /** All of it where absent. */
  reach?: Reach;
  /** Things it falls on, places in the scene's things; on all where absent. */
  only?: readonly number[];
  /** Its share group. */
  group: number;
}

export type SceneLight = AnyLight &
  (
    | {
        kind: 'area';
        width: number;
        height: number;
        /** The ellipse in its rectangle. */
        round?: boolean;
        /** Its own face, in place of the rectangle. */
        face?: LightFace;
        /** It also stands in the way of what mirrors see. */
        card?: boolean;
        /** Number of the finish that mirrors see on a card, lit as it stands. */
        white?: number;
        /** The camera sees it. */
        seen?: boolean;
      }
    /**
     * `range`: metres at which it has faded to nothing; only lights from files have one.
     * `profile`: key of a texture of the scene, over all directions.
     */
    | {
        kind: 'spot';
        cosInner: number;
        cosOuter: number;
        /** Of the disc across its axis that it shines from; a point where absent, metres. */
        radius?: number;
        range?: number;
        fall?: Fall;
        pattern?: LightPattern;
        profile?: string;
      }
    /**
     * Shines alike all around, or as its profile says; a ball where it has a radius, metres, which rays meet where it
     * has no profile.
     */
    | { kind: 'point'; range?: number; fall?: Fall; radius?: number; profile?: string; seen?: boolean }
    /** A disc at infinity where the cosine of its angular radius is below one; −1 is all of the sphere. */
    | { kind: 'directional'; cosEdge?: number }
  );

export interface SceneSurround {
  picture: SurroundPicture;
  /** Linear factor (2 to the stops). */
  gain: number;
  /** Linear colour it is seen through; white where absent. */
  tint?: readonly number[];
  /** Radians: about the upright axis, then about the one across, then about the one towards the front. */
  turn: number;
  tilt?: number;
  roll?: number;
  seen: boolean;
  /** What of surfaces it reaches; all where absent. */
  reach?: Reach;
  /** Standard deviations of the blur in what the camera sees of it, and mirrors, radians; sharp where absent. */
  blur?: { behind: number; mirrored: number };
  /** Where the camera sees its lower half lie on the ground: beneath the eye that took it, and its height over that, metres. */
  ground?: { at: readonly number[]; eye: number };
  group: number;
}

/** Bounces of each kind that a path may have had at a surface that is still shaded; 0 … 64. */
export interface BounceLimits {
  scattered: number;
  mirrored: number;
  through: number;
}

export interface RenderScene {
  solids: SceneSolid[];
  placements: Placements;
  instances: Instances;
  parts: Parts;
  things: Thing[];
  /** The first is the bare, undressed surface. */
  finishes: Optics[];
  /** Pictures that finishes are fed from. */
  textures: Texture[];
  /** Of each finish, the one that is met from within in its place; 0 where it is the same. */
  within: number[];
  lights: SceneLight[];
  surround: SceneSurround;
  /** Names of the share groups: lights, surround, and what glows. */
  groups: string[];
  /** Bounds of the type, metres. */
  typeBox: Box;
  camera: OrbitCamera;
  aspect: number;
  /** Bounces of a path in all, and of each kind; no kinds are limited when null. */
  bounces: number;
  limits: BounceLimits | null;
  /** Seconds from the beginning. */
  time: number;
}

/** Number of the bare finish. */
export const BARE = 0;

/** Whether something of a scene leaves only shadow and reflection, so that its films are to catch them. */
export const catchesShadow = ({ things }: Pick<RenderScene, 'things'>): boolean =>
  things.some((t) => t.catches);
