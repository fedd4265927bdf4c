/** glTF 2.0 binary files as scenes: a model with the file's own camera and punctual lights. */
import type { Node } from '@gltf-transform/core';
import { KHRLightsPunctual, type Light } from '@gltf-transform/extensions';
import { newShot } from '@wemlox/core/document';
import { finishOptics } from '@wemlox/core/finish/optics';
import type { SurroundPicture } from '@wemlox/core/light/surround';
import { direction, point } from '@wemlox/core/model/carrying';
import { modelFinishes } from '@wemlox/core/model/finishes';
import { ModelError } from '@wemlox/core/model/model';
import { modelOf, nodesOf, openGlb } from '@wemlox/core/model/readModel';
import { modelTextures } from '@wemlox/core/model/textures';
import type { RenderScene, SceneLight } from '@wemlox/core/scene/renderScene';
import { SceneBuilder } from '@wemlox/core/scene/sceneBuilder';
import { IDENTITY } from '@wemlox/core/scene/transform';
import { fitted } from '@wemlox/core/stage/camera';
import { shownMean, textureKey } from '@wemlox/core/texture/texture';
import type { Eye } from '@wemlox/core/trace/eye';
import { decoders } from './codecs.ts';

interface GlbScene {
  scene: RenderScene;
  /** The file's own camera, for a picture of a size; null when it has none. */
  view: ((width: number, height: number) => Eye) | null;
  /** What of the file was left out, in words. */
  leftOut: string[];
}

type Vec = [number, number, number];

/** Stands for the file where its pictures are named. */
const FILE = 'file';

function lightOf(node: Node, light: Light, group: number): SceneLight {
  const m = node.getWorldMatrix();
  const colour = light.getColor().map((v) => v * light.getIntensity()) as Vec;
  const placed = {
    position: point(m, [0, 0, 0]),
    forward: direction(m, [0, 0, -1]),
    right: direction(m, [1, 0, 0]),
    up: direction(m, [0, 1, 0]),
    colour,
  };
  const name = light.getName() || node.getName();
  const any = { id: `light-${group}`, name, placed, shadow: true, group };
  const type = light.getType();
  const range = light.getRange() ?? undefined;
  if (type === 'spot') {
    const cosInner = Math.cos(light.getInnerConeAngle());
    return { ...any, kind: 'spot', cosInner, cosOuter: Math.cos(light.getOuterConeAngle()), range };
  }
  return type === 'point' ? { ...any, kind: 'point', range } : { ...any, kind: 'directional' };
}

/** The first perspective camera of a file. */
function viewOf(nodes: readonly Node[], bounces: number): GlbScene['view'] {
  const node = nodes.find((n) => n.getCamera()?.getType() === 'perspective');
  if (!node) return null;
  const m = node.getWorldMatrix();
  const half = Math.tan(node.getCamera()!.getYFov() / 2);
  const scaled = (v: Vec, s: number) => v.map((x) => x * s) as Vec;
  return (width, height) => ({
    width,
    height,
    orthographic: false,
    origin: point(m, [0, 0, 0]),
    forward: direction(m, [0, 0, -1]),
    right: scaled(direction(m, [1, 0, 0]), (half * width) / height),
    up: scaled(direction(m, [0, 1, 0]), half),
    visible: null,
    dress: null,
    bounces,
    limits: null,
  });
}

/**
 * Reads a .glb file as a scene.
 * @param surround environment picture; null for a black one
 * @throws ModelError when it is not one, is damaged, or holds nothing to see
 */
export async function readGlb(
  bytes: Uint8Array,
  surround: SurroundPicture | null,
  bounces = 8,
): Promise<GlbScene> {
  const document = await openGlb(bytes, [KHRLightsPunctual]);
  const nodes = nodesOf(document);
  const model = modelOf(document);
  const lights = nodes.flatMap((node) => {
    const light = node.getExtension<Light>('KHR_lights_punctual');
    return light ? [{ node, light }] : [];
  });
  const lamps = lights.map(({ node, light }, group) => lightOf(node, light, group));
  const leftOut = [...model.leftOut];
  const textures = await modelTextures(FILE, model, decoders, leftOut, (n) => new SharedArrayBuffer(n));
  const finishes = modelFinishes(FILE, model, 1).map((finish) =>
    finishOptics(finish, ({ picture, coding, channel, toPeak }) => {
      const texture = textures.find((t) => t.key === textureKey(picture, coding));
      return texture ? shownMean(texture, channel, toPeak) : null;
    }),
  );
  const glows = (finish: number) => finishes[finish].glow.luminance > 0;
  if (!surround && lamps.length === 0 && !model.parts.some((p) => glows(p.material)))
    throw new ModelError('the file holds no lights; give an environment with --surround');
  const shared = (values: Float32Array) => {
    const out = new Float32Array(new SharedArrayBuffer(values.byteLength));
    out.set(values);
    return out;
  };
  const groups = [...lamps.map((l) => l.name), 'Surround'];
  const builder = new SceneBuilder();
  builder.place('file', IDENTITY);
  for (const { name, first, triangles, material, twoSided } of model.parts) {
    const of = (values: Float32Array, each: number) =>
      shared(values.subarray(first * each, (first + triangles) * each));
    const solid = {
      key: name,
      triangles,
      positions: of(model.positions, 9),
      normals: of(model.normals, 9),
      tangents: of(model.tangents, 9),
      uv: of(model.uv, 12),
    };
    const group = glows(material) ? groups.push(name) - 1 : null;
    builder.add(solid, IDENTITY, { block: null, letter: null, piece: name }, [
      { first: 0, triangles, zone: null, colour: null, finish: material, group, twoSided },
    ]);
  }
  return {
    leftOut,
    view: viewOf(nodes, bounces),
    scene: {
      solids: builder.solids,
      things: builder.things,
      ...builder.built(true),
      finishes,
      within: finishes.map(() => 0),
      textures,
      lights: lamps,
      surround: {
        picture: surround ?? { width: 2, height: 1, data: new Float32Array(6) },
        gain: 1,
        turn: 0,
        seen: surround !== null,
        group: lamps.length,
      },
      groups,
      typeBox: model.box,
      camera: fitted(newShot(), model.box),
      aspect: 16 / 9,
      bounces,
      limits: null,
      time: 0,
    },
  };
}
