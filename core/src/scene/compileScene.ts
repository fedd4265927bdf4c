/** Document, solids and environment picture to a RenderScene. */
import { wordsOf } from '../document/words.ts';
import {
  aspectOf,
  finishAt,
  plainSurface,
  standing,
  type Block,
  type Finish,
  type Light,
  type LightOf,
  type Look,
  type PictureRef,
  type Piece,
  type Project,
  type Shot,
  type Surface,
} from '../document/index.ts';
import { codingOf } from '../finish/recipe.ts';
import { finishOptics, opticsOf, type Optics } from '../finish/optics.ts';
import { arranged } from '../light/arrangement.ts';
import { followed } from '../light/following.ts';
import { modelFinishes } from '../model/finishes.ts';
import type { LoadedModel } from '../model/textures.ts';
import { glowsIn } from '../finish/glow.ts';
import { lightColour, placeLight, shining, standingOf, type Vec } from '../light/placing.ts';
import type { SurroundPicture } from '../light/surround.ts';
import { cos, pow, sin, tan } from '../maths/reproducible.ts';
import type { BlockSolids, LetterSolid } from '../solid/blockSolids.ts';
import { blockCorners, blockTransform } from '../stage/blockPlace.ts';
import { centreOf, type Box } from '../stage/camera.ts';
import { isThere, posesOf } from '../stage/pose.ts';
import { profileKey } from './profileTexture.ts';
import { shownMean, textureKey, type Coding, type Texture } from '../texture/texture.ts';
import {
  BARE,
  type Fall,
  type LightFace,
  type LightPattern,
  type Reach,
  type RenderScene,
  type SceneLight,
  type SceneSurround,
  type Thing,
} from './renderScene.ts';
import { posed } from './letterPose.ts';
import { SceneBuilder, type PartOf } from './sceneBuilder.ts';
import { SceneSolids } from './sceneSolids.ts';
import { IDENTITY } from './transform.ts';
import { filling, pieceTransform } from '../stage/pieces.ts';
import {
  BEYOND_FRAME,
  catching,
  footedAt,
  isMoved,
  ORIGIN,
  plateFinish,
  standingTransform,
} from './stagePieces.ts';

/** How a zone without a finish looks: raw filler. */
const BARE_SURFACE = plainSurface({ base_color: [0.45, 0.45, 0.45], specular_roughness: 0.8 });

interface SceneInput {
  project: Project;
  look: Look;
  shot: Shot;
  solids: readonly BlockSolids[];
  surround: SurroundPicture;
  textures: Texture[];
  /** Faces of area lights that are no rectangles, by their identifiers. */
  faces?: ReadonlyMap<string, LightFace>;
  /** Models of pieces, by the pieces' identifiers; those that are missing are left out. */
  models?: ReadonlyMap<string, LoadedModel>;
  /** Put the large arrays into shared memory. */
  shared?: boolean;
  /** Finishes that nothing wears yet. */
  trial?: readonly Finish[];
}

/** The block's ink and depth in world space. */
export function blockBox(block: Block, solids: BlockSolids): Box | null {
  if (!solids.bounds) return null;
  const corners = blockCorners(block.place, solids.bounds, solids.reach);
  return {
    min: [0, 1, 2].map((k) => Math.min(...corners.map((c) => c[k]))) as Vec,
    max: [0, 1, 2].map((k) => Math.max(...corners.map((c) => c[k]))) as Vec,
  };
}

/** Bounds of all type; a small box round the origin when there is none. */
export function typeBoxOf(blocks: readonly Block[], solids: readonly BlockSolids[]): Box {
  const boxes = blocks.flatMap((block) => {
    const of = solids.find((s) => s.block === block.id);
    const box = of && blockBox(block, of);
    return box ? [box] : [];
  });
  if (boxes.length === 0) return { min: [-0.1, 0, -0.05], max: [0.1, 0.2, 0.05] };
  return {
    min: [0, 1, 2].map((i) => Math.min(...boxes.map((b) => b.min[i]))) as Vec,
    max: [0, 1, 2].map((i) => Math.max(...boxes.map((b) => b.max[i]))) as Vec,
  };
}

/** The lights that shine, each in a share group of its own. */
function sceneLights(
  rig: readonly Light[],
  typeBox: Box,
  groupOf: (name: string) => number,
  faces: ReadonlyMap<string, LightFace>,
  whiteOf: (light: Light) => number,
): SceneLight[] {
  const centre = centreOf(typeBox);
  const single = (light: Light, { id, name }: Light, group: number): SceneLight => {
    const any = {
      id,
      name,
      shadow: light.kind === 'card' ? false : light.shadow,
      placed: placeLight(light, centre),
      group,
      ...(light.kind === 'card' ? {} : reachOf(light)),
    };
    switch (light.kind) {
      case 'area': {
        const { width, height, shape, seen } = light;
        const face = faces.get(light.id);
        const own =
          face && (shape === 'outline' || shape === 'letters') ? { face } : { round: shape === 'round' };
        return { ...any, kind: 'area', width, height, ...own, seen };
      }
      case 'card': {
        const { width, height, shape, face } = light;
        const card = { ...any, kind: 'area' as const, width, height, round: shape === 'round', card: true };
        if (face === 'glowing') return card;
        return { ...card, placed: { ...any.placed, colour: [0, 0, 0] }, white: whiteOf(light) };
      }
      case 'spot':
        return {
          ...any,
          kind: 'spot',
          cosOuter: cos(light.cone),
          cosInner: cos(light.cone * (1 - light.edge)),
          radius: light.radius,
          ...fallOf(light),
          ...patternOf(light),
          ...profiled(light),
        };
      case 'point': {
        const { radius, seen } = light;
        return { ...any, kind: 'point', radius, seen, ...fallOf(light), ...profiled(light) };
      }
      case 'directional':
        return { ...any, kind: 'directional', cosEdge: cos(light.size / 2) };
      case 'ambient':
        return { ...any, kind: 'directional', cosEdge: -1 };
      case 'array':
        throw new RangeError('an arrangement is no single light');
    }
  };
  return shining(rig).flatMap((light) => {
    const group = groupOf(light.name);
    const lamps = light.kind === 'array' ? arranged(light, faceSize(typeBox)) : [light];
    return lamps.map((lamp) => single(lamp, light, group));
  });
}

/** Tells lights what they fall on alone, once things stand. */
const fallingOn = (lights: readonly SceneLight[], look: Look, things: readonly Thing[]): SceneLight[] =>
  lights.map((light) => {
    const only = look.rig.find((l) => l.id === light.id)?.only ?? [];
    if (only.length === 0) return light;
    const chosen = things.flatMap(({ block, piece }, i) => (only.includes(block ?? piece ?? '') ? [i] : []));
    return { ...light, only: chosen };
  });

/** What a light reaches; nothing to say of one that reaches all. */
function reachOf({ diffuse, mirrored, through }: Reach): { reach?: Reach } {
  return diffuse && mirrored && through ? {} : { reach: { diffuse, mirrored, through } };
}

/** How a light fades: as it does at its distance, so that at the type all ways are alike. */
function fallOf(light: LightOf<'spot'> | LightOf<'point'>): { fall?: Fall } {
  const { fall, near } = light;
  if (fall === 'square') return {};
  return { fall: { way: fall, reference: fall === 'clamped' ? near : standingOf(light).distance } };
}

/** The widest cone that a pattern lies across, radians: it would have no end. */
const WIDEST = 1.55;

/** The picture a light is thrown through: as wide as its cone, or a share of that. */
function patternOf({ pattern, cone, ...light }: LightOf<'spot'>): { pattern?: LightPattern } {
  if (!pattern) return {};
  const texture = textureKey(pattern, 'colour');
  const scale = 1 / (tan(Math.min(WIDEST, cone)) * light.pattern_size);
  return { pattern: { texture, scale, soft: light.pattern_soft } };
}

const profiled = ({ profile }: LightOf<'spot'> | LightOf<'point'>) =>
  profile ? { profile: profileKey(profile) } : {};

/** The surround as it stands in a scene. */
function sceneSurround(
  { surround }: Look,
  picture: SurroundPicture,
  group: number,
  { min, max }: Box,
): SceneSurround {
  const { stops, turn, tilt, roll, tint, seen, mirrored, lights, blur_behind, blur_mirrored } = surround;
  const blur = { behind: seen ? blur_behind : 0, mirrored: mirrored ? blur_mirrored : 0 };
  return {
    picture,
    gain: pow(2, stops),
    turn,
    tilt,
    roll,
    tint,
    seen,
    group,
    ...reachOf({ diffuse: lights, mirrored, through: mirrored }),
    ...(blur.behind + blur.mirrored > 0 ? { blur } : {}),
    // its ground is at the height of the floor's own place
    ...(seen && surround.ground
      ? { ground: { at: [(min[0] + max[0]) / 2, 0, (min[2] + max[2]) / 2], eye: surround.eye_height } }
      : {}),
  };
}

/** Reflectance of white paper. */
const PAPER = 0.9;
/** What a white card is like: paper in the hue of its light. */
function whiteColour(light: Light): number[] {
  const hue = lightColour({ ...light, strength: 1 });
  const peak = Math.max(...hue, 1e-6);
  return hue.map((v) => (PAPER * v) / peak);
}

/** Mean opacity of pictures from which on nothing is seen of what is open. */
const OPAQUE = 0.9999;

/** Longer side of the type's face, metres. */
const faceSize = ({ min, max }: Box) => Math.max(max[0] - min[0], max[1] - min[1]);

/** From a letter's own origin and unit into its block's plane. */
function localOf({ x, y, turn }: LetterSolid, { scale, backAt }: BlockSolids): readonly number[] {
  const [c, s] = [cos(turn) * scale, sin(turn) * scale];
  return [c, -s, 0, x * scale, s, c, 0, y * scale, 0, 0, scale, backAt];
}

/** Finishes of a scene: bare, the project's, the points of light of each strip, then those only tried. */
class Finishes {
  readonly all: Optics[];
  readonly within: number[];
  private readonly numbers: Map<string, number>;
  private readonly points = new Map<string, number>();

  constructor(
    project: Project,
    trial: readonly Finish[],
    optics: (surface: Surface) => Optics,
    ofFinish: (finish: Finish) => Optics,
  ) {
    this.all = [optics(BARE_SURFACE), ...project.finishes.map(ofFinish)];
    this.numbers = new Map(project.finishes.map((f, i) => [f.id, i + 1]));
    this.within = [BARE, ...project.finishes.map((f) => this.of(f.within))];
    for (const { id, strip } of project.blocks) {
      if (!strip.on) continue;
      this.points.set(id, this.all.length);
      for (const emission_color of strip.colours)
        this.all.push(
          optics(
            plainSurface({ base_color: [0, 0, 0], emission_color, emission_luminance: strip.luminance }),
          ),
        );
    }
    this.all.push(...trial.map(ofFinish));
    while (this.within.length < this.all.length) this.within.push(BARE);
  }

  /** One more that no part wears. */
  added(optics: Optics): number {
    this.within.push(BARE);
    return this.all.push(optics) - 1;
  }

  of = (id: string | null): number => (id === null ? BARE : (this.numbers.get(id) ?? BARE));
  ofPoints = (block: string, colour: number): number => this.points.get(block)! + colour;
}

/** Interpreted surfaces kept; the oldest go first. */
const MOST_OPTICS = 1200;

/** Keeps what scenes share: solids in their memory, and surfaces as they were interpreted. */
export class SceneCompiler {
  private readonly shared: boolean;
  private readonly solids: SceneSolids;
  private readonly optics = new Map<string, Optics>();

  constructor(shared = false) {
    this.shared = shared;
    this.solids = new SceneSolids(shared);
  }

  private ofSurface = (surface: Surface): Optics => this.kept(surface, () => opticsOf(surface));
  private ofFinish({ surface, feeds, coats }: Finish, textures: readonly Texture[]): Optics {
    const laid = (picture: PictureRef, coding: Coding) =>
      textures.find((t) => t.key === textureKey(picture, coding));
    // the same picture may be missing now and there later
    const fedFrom = [...feeds, ...coats.flatMap((c) => c.feeds)]
      .filter((f) => f.source === 'picture')
      .map((f) => laid(f.picture, codingOf(f))?.mean);
    return this.kept([surface, feeds, coats, fedFrom], () =>
      finishOptics({ surface, feeds, coats }, ({ picture, coding, channel, toPeak }) => {
        const texture = laid(picture, coding);
        return texture ? shownMean(texture, channel, toPeak) : null;
      }),
    );
  }

  private kept(what: unknown, make: () => Optics): Optics {
    const key = JSON.stringify(what);
    let known = this.optics.get(key);
    if (!known) {
      known = make();
      this.optics.set(key, known);
      if (this.optics.size > MOST_OPTICS) this.optics.delete(this.optics.keys().next().value!);
    }
    return known;
  }

  /** What the parts of a model wear: what they are dressed in, what all of it wears, or their own. */
  private wornBy(
    piece: Piece,
    { hash, model }: LoadedModel,
    finishes: Finishes,
    textures: readonly Texture[],
  ): (part: string, material: number) => number {
    const dressed = new Map(piece.dressings.map((d) => [d.part, d.finish]));
    const own = modelFinishes(hash, model, piece.size, pow(2, piece.stops));
    const added = new Map<number, number>();
    return (part, material) => {
      const given = dressed.get(part) ?? piece.finish;
      if (given !== null) return finishes.of(given);
      let finish = added.get(material);
      if (finish === undefined)
        added.set(material, (finish = finishes.added(this.ofFinish(own[material], textures))));
      return finish;
    };
  }

  /** What a plate is in a scene: its sheet, where it stands if the camera says so, and what it wears. */
  private plate(piece: Piece, textures: readonly Texture[], shot: Shot, typeBox: Box) {
    const { picture } = piece;
    const shown = picture && textures.find((t) => t.key === textureKey(picture, 'colour'));
    const aspect = shown ? shown.width / shown.height : 1;
    const isOpen = shown ? shown.mean[3] < OPAQUE : false;
    if (piece.stands === 'free')
      return { solid: this.solids.ofPiece(piece, typeBox, aspect), plain: plateFinish(piece, 1, isOpen) };
    const { width, transform } = filling(piece, shot.camera, aspectOf(shot), aspect);
    // about the origin: the camera has it stand where it does
    const solid = this.solids.ofPiece({ ...piece, at: 0, width: width * BEYOND_FRAME }, ORIGIN, aspect);
    return { solid, place: transform, plain: plateFinish(piece, BEYOND_FRAME, isOpen) };
  }

  /** Compiles one moment of a project under one look. */
  compile({
    project,
    look,
    shot,
    solids,
    surround,
    textures,
    trial = [],
    faces = new Map(),
    models = new Map(),
  }: SceneInput): RenderScene {
    const typeBox = typeBoxOf(project.blocks, solids);
    const finishes = new Finishes(project, trial, this.ofSurface, (finish) =>
      this.ofFinish(finish, textures),
    );
    const groups: string[] = [];
    const groupOf = (name: string) => groups.push(name) - 1;
    const rig = followed(look.rig, glowsIn(project.finishes));
    const lights = sceneLights(rig, typeBox, groupOf, faces, (light) =>
      finishes.added(this.ofSurface(plainSurface({ base_color: whiteColour(light), specular_weight: 0 }))),
    );
    const surroundGroup = groupOf('Surround');
    const glowing = new Map<string, number>();
    /** Share group of what a part gives; alike things of one kind share one. */
    const glowGroup = (finish: number, what: string): number | null => {
      if (finishes.all[finish].glow.luminance <= 0) return null;
      if (!glowing.has(what)) glowing.set(what, groupOf(what));
      return glowing.get(what)!;
    };
    const builder = new SceneBuilder();
    for (const block of project.blocks) {
      const of = solids.find((s) => s.block === block.id);
      if (!of) continue;
      builder.place(`block/${block.id}`, blockTransform(block.place));
      const words = wordsOf(block);
      const poseOf = posesOf(block);
      for (const letter of of.letters) {
        const pose = poseOf(letter.letter);
        if (!isThere(pose)) continue;
        const { zones, zoneStarts } = letter.solid;
        let colours = 0;
        const parts = zones.map((zone, k): PartOf => {
          const colour = zone === 'points' ? colours++ : null;
          const finish =
            colour === null
              ? finishes.of(finishAt(look.chart, block.id, letter.letter, zone))
              : finishes.ofPoints(block.id, colour);
          const triangles = zoneStarts[k + 1] - zoneStarts[k];
          const group = glowGroup(finish, `${block.id}/${zone}`);
          return { first: zoneStarts[k], triangles, zone, colour, finish, group };
        });
        const thing = { block: block.id, letter: letter.letter, word: words.get(letter.letter), piece: null };
        const rest = localOf(letter, of);
        const local = posed(rest, letter, pose, block.each.about, of.scale);
        builder.add(this.solids.ofLetter(letter.solid), local, thing, parts, rest);
      }
    }
    for (const piece of standing(project.pieces)) {
      const thing = {
        block: null,
        letter: null,
        piece: piece.id,
        ...(catching(piece) ? { catches: true } : {}),
        ...(piece.kind === 'plate' ? { stays: true } : {}),
      };
      const part = (triangles: number, finish: number) => ({
        first: 0,
        triangles,
        zone: null,
        colour: null,
        finish,
        group: glowGroup(finish, piece.id),
      });
      const moved = isMoved(piece) ? pieceTransform(piece, typeBox) : IDENTITY;
      if (piece.kind === 'model') {
        const loaded = models.get(piece.id);
        if (!loaded) continue;
        builder.place(`piece/${piece.id}`, standingTransform(piece, typeBox));
        const worn = this.wornBy(piece, loaded, finishes, textures);
        const parts = loaded.model.parts.map(({ first, triangles, material, name, twoSided }) => {
          const finish = worn(name, material);
          return { ...part(triangles, finish), first, twoSided };
        });
        builder.add(this.solids.ofModel(loaded), footedAt(loaded.model, piece.size), thing, parts);
        continue;
      }
      if (piece.kind === 'plate') {
        const { solid, place, plain } = this.plate(piece, textures, shot, typeBox);
        builder.place(`piece/${piece.id}`, place ?? moved);
        const worn = finishes.added(this.ofFinish(plain, textures));
        builder.add(solid, IDENTITY, thing, [part(solid.triangles, worn)]);
        continue;
      }
      const solid = this.solids.ofPiece(piece, typeBox);
      builder.place(`piece/${piece.id}`, moved);
      builder.add(solid, IDENTITY, thing, [part(solid.triangles, finishes.of(piece.finish))]);
    }
    return {
      solids: builder.solids,
      things: builder.things,
      ...builder.built(this.shared),
      finishes: finishes.all,
      within: finishes.within,
      textures,
      lights: fallingOn(lights, look, builder.things),
      surround: sceneSurround(look, surround, surroundGroup, typeBox),
      groups,
      typeBox,
      camera: shot.camera,
      aspect: aspectOf(shot),
      bounces: shot.bounces,
      limits: { scattered: shot.scattered, mirrored: shot.mirrored, through: shot.through },
      time: 0,
    };
  }
}
