/** Document, solids and environment picture to a RenderScene. */
import {
  aspectOf,
  finishAt,
  plainSurface,
  type Block,
  type Look,
  type Piece,
  type Project,
  type Shot,
  type Surface,
} from '../document/index.ts';
import { placeLight, shining, type Vec } from '../light/placing.ts';
import type { SurroundPicture } from '../light/surround.ts';
import { cos, pow, sin } from '../maths/reproducible.ts';
import type { Box } from '../stage/camera.ts';
import type { BlockSolids } from '../solid/blockSolids.ts';
import { pieceTriangles } from '../stage/pieces.ts';
import type { Part, RenderScene, SceneLight } from './renderScene.ts';

/** How a zone without a finish looks: raw filler. */
export const BARE_SURFACE: Surface = plainSurface({
  base_color: [0.45, 0.45, 0.45],
  specular_roughness: 0.8,
});

export interface SceneInput {
  project: Project;
  look: Look;
  shot: Shot;
  solids: readonly BlockSolids[];
  surround: SurroundPicture;
  /** Put the large arrays into shared memory. */
  shared?: boolean;
}

/** The block's ink and depth in world space. */
export function blockBox(block: Block, solids: BlockSolids): Box | null {
  if (!solids.bounds) return null;
  const [x0, y0, x1, y1] = solids.bounds;
  const [c, s] = [cos(block.place.turn), sin(block.place.turn)];
  const [px, py, pz] = block.place.position;
  const min: Vec = [Infinity, py + y0, Infinity];
  const max: Vec = [-Infinity, py + y1, -Infinity];
  for (const x of [x0, x1]) {
    for (const z of solids.reach) {
      const wx = px + c * x + s * z;
      const wz = pz - s * x + c * z;
      min[0] = Math.min(min[0], wx);
      max[0] = Math.max(max[0], wx);
      min[2] = Math.min(min[2], wz);
      max[2] = Math.max(max[2], wz);
    }
  }
  return { min, max };
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

const centreOf = (box: Box) => box.min.map((v, i) => (v + box.max[i]) / 2) as Vec;

function sceneLights(look: Look, centre: Vec): SceneLight[] {
  return shining(look.rig).map((light) => {
    const placed = placeLight(light, centre);
    const { name, shadow } = light;
    if (light.kind === 'area')
      return { kind: 'area', name, placed, width: light.width, height: light.height, shadow };
    if (light.kind === 'spot') {
      return {
        kind: 'spot',
        name,
        placed,
        cosOuter: cos(light.cone),
        cosInner: cos(light.cone * (1 - light.edge)),
        shadow,
      };
    }
    return { kind: 'directional', name, placed, shadow };
  });
}

/** Corners of an area light as two triangles. */
function lightTriangles(light: SceneLight & { kind: 'area' }): number[] {
  const { position, right, up } = light.placed;
  const corner = (a: number, b: number) =>
    position.map((v, i) => v + (right[i] * a * light.width) / 2 + (up[i] * b * light.height) / 2);
  const [p, q, r, s] = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)];
  return [...p, ...q, ...r, ...p, ...r, ...s];
}

/** What of a scene stays alike while only finishes, surround and camera change. */
export interface SceneGeometry {
  positions: Float32Array;
  normals: Float32Array;
  tangents: Float32Array;
  uv: Float32Array;
  partOf: Uint32Array;
  geometryTriangles: number;
  /** Parts without their finish. */
  parts: Omit<Part, 'finish'>[];
  typeBox: Box;
}

export type GeometryInput = Pick<SceneInput, 'project' | 'look' | 'solids' | 'shared'>;

/**
 * Names everything the geometry depends on; alike keys mean alike geometry.
 * @param besides what else the solids come of: each block's coarseness, and what had to be replaced
 */
export function geometryKey(
  { project, look }: Omit<GeometryInput, 'solids'>,
  besides: readonly (number | string)[],
): string {
  const areas = shining(look.rig)
    .filter((l) => l.kind === 'area')
    .map((l) => [l.aim, l.azimuth, l.elevation, l.distance, l.width, l.height]);
  return JSON.stringify([
    project.blocks,
    besides,
    project.pieces.map((p) => [p.id, p.kind, p.on, p.at]),
    areas,
  ]);
}

/** Lays all solids, pieces and area lights out as triangles. */
export function compileGeometry(input: GeometryInput): SceneGeometry {
  const { project, look, solids } = input;
  const typeBox = typeBoxOf(project.blocks, solids);
  const areaLights = sceneLights(look, centreOf(typeBox)).filter((l) => l.kind === 'area');
  const pieces = project.pieces
    .filter((p) => p.on)
    .map((piece) => ({ piece, soup: pieceTriangles(piece, typeBox) }));

  let count = pieces.reduce((sum, p) => sum + p.soup.positions.length / 9, 0);
  for (const block of solids) for (const l of block.letters) count += l.solid.positions.length / 9;
  const memory = (bytes: number) => (input.shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
  const positions = new Float32Array(memory((count + areaLights.length * 2) * 36));
  const normals = new Float32Array(memory(count * 36));
  const tangents = new Float32Array(memory(count * 36));
  const uv = new Float32Array(memory(count * 48));
  const partOf = new Uint32Array(memory(count * 4));
  const parts: SceneGeometry['parts'] = [];
  let at = 0;
  const addPart = (part: Omit<Part, 'firstTriangle' | 'finish'>) => {
    if (part.triangles === 0) return;
    partOf.fill(parts.length, at, at + part.triangles);
    parts.push({ ...part, firstTriangle: at });
    at += part.triangles;
  };

  for (const block of project.blocks) {
    const of = solids.find((s) => s.block === block.id);
    if (!of) continue;
    const [c, s] = [cos(block.place.turn), sin(block.place.turn)];
    const [px, py, pz] = block.place.position;
    for (const letter of of.letters) {
      const { solid } = letter;
      const [ct, st] = [cos(letter.turn), sin(letter.turn)];
      const base = at * 9;
      /** Turns a direction of the glyph into the world. */
      const turned = (to: Float32Array, from: Float32Array, i: number) => {
        const x = ct * from[i] - st * from[i + 1];
        to[base + i] = c * x + s * from[i + 2];
        to[base + i + 1] = st * from[i] + ct * from[i + 1];
        to[base + i + 2] = -s * x + c * from[i + 2];
      };
      for (let i = 0; i < solid.positions.length; i += 3) {
        const [gx, gy] = [solid.positions[i], solid.positions[i + 1]];
        const x = (ct * gx - st * gy + letter.x) * of.scale;
        const y = (st * gx + ct * gy + letter.y) * of.scale;
        const z = solid.positions[i + 2] * of.scale + of.backAt;
        positions[base + i] = px + c * x + s * z;
        positions[base + i + 1] = py + y;
        positions[base + i + 2] = pz - s * x + c * z;
        turned(normals, solid.normals, i);
        turned(tangents, solid.tangents, i);
      }
      for (let i = 0; i < solid.uv.length; i += 4) {
        const to = at * 12 + i;
        uv[to] = solid.uv[i] * of.scale;
        uv[to + 1] = solid.uv[i + 1] * of.scale;
        uv[to + 2] = (ct * solid.uv[i + 2] - st * solid.uv[i + 3] + letter.x) * of.scale;
        uv[to + 3] = (st * solid.uv[i + 2] + ct * solid.uv[i + 3] + letter.y) * of.scale;
      }
      let colour = 0;
      solid.zones.forEach((zone, k) =>
        addPart({
          block: block.id,
          letter: letter.letter,
          zone,
          colour: zone === 'points' ? colour++ : null,
          piece: null,
          triangles: solid.zoneStarts[k + 1] - solid.zoneStarts[k],
          right: [c * ct, st, -s * ct],
          out: [s, 0, c],
        }),
      );
    }
  }
  for (const { piece, soup } of pieces) {
    positions.set(soup.positions, at * 9);
    normals.set(soup.normals, at * 9);
    tangents.set(soup.tangents, at * 9);
    uv.set(soup.uv, at * 12);
    addPart(piecePart(piece, soup.positions.length / 9));
  }
  let end = count * 9;
  for (const light of areaLights) {
    positions.set(lightTriangles(light), end);
    end += 18;
  }
  return { positions, normals, tangents, uv, partOf, geometryTriangles: count, parts, typeBox };
}

/**
 * Compiles one moment of a project under one look into a scene.
 * @param geometry of the same project and look, when it is known
 */
export function compileScene(input: SceneInput, geometry = compileGeometry(input)): RenderScene {
  const { project, look, shot } = input;
  const finishIndex = new Map(project.finishes.map((f, i) => [f.id, i + 1]));
  const indexOf = (id: string | null) => (id === null ? 0 : (finishIndex.get(id) ?? 0));
  // points of light glow in the colours of their strip
  const glows: Surface[] = [];
  const firstGlow = new Map<string, number>();
  for (const { id, strip } of project.blocks) {
    if (!strip.on) continue;
    firstGlow.set(id, 1 + project.finishes.length + glows.length);
    glows.push(
      ...strip.colours.map((colour) =>
        plainSurface({
          base_color: [0, 0, 0],
          emission_color: colour,
          emission_luminance: strip.luminance,
        }),
      ),
    );
  }
  const finishOfPiece = new Map(project.pieces.map((p) => [p.id, indexOf(p.finish)]));
  const { parts, ...arrays } = geometry;
  return {
    ...arrays,
    parts: parts.map((part) => ({
      ...part,
      finish:
        part.piece !== null
          ? finishOfPiece.get(part.piece)!
          : part.colour !== null
            ? firstGlow.get(part.block!)! + part.colour
            : indexOf(finishAt(look.chart, part.block!, part.letter!, part.zone!)),
    })),
    finishes: [BARE_SURFACE, ...project.finishes.map((f) => f.surface), ...glows],
    lights: sceneLights(look, centreOf(geometry.typeBox)),
    surround: {
      picture: input.surround,
      gain: pow(2, look.surround.stops),
      turn: look.surround.turn,
      seen: look.surround.seen,
    },
    camera: shot.camera,
    aspect: aspectOf(shot.frame),
    bounces: shot.bounces,
  };
}

function piecePart(piece: Piece, triangles: number): Omit<Part, 'firstTriangle' | 'finish'> {
  return {
    block: null,
    letter: null,
    zone: null,
    colour: null,
    piece: piece.id,
    triangles,
    right: [1, 0, 0],
    out: [0, 0, 1],
  };
}
