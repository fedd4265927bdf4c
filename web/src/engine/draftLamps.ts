/** Lights of a scene as three.js draws them. */
import {
  AmbientLight,
  DataTexture,
  DirectionalLight,
  LinearFilter,
  PointLight,
  RectAreaLight,
  SpotLight,
  SRGBColorSpace,
  type Object3D,
} from 'three';
import { BEAM_SIDE, beamPicture } from '@wemlox/core/scene/beamPicture';
import type { RenderScene, SceneLight } from '@wemlox/core/scene/renderScene';

const SHADOW_MAP = 1024;
/** Distance of directional lights, in sizes of the type. */
const FAR_AWAY = 50;
/** Between which distances from a spot shadows and patterns are drawn, in sizes of the type. */
const NEAREST = 0.02;
const FARTHEST = 200;
/** Lamps of one arrangement that are drawn; more are drawn as so many brighter ones. */
const MOST_LAMPS = 8;

/** What spots throw, by what makes it; kept while lamps are pushed about. */
const thrown = new Map<string, DataTexture>();
/** Pictures that are kept: more lamps than that throw the oldest away. */
const MOST_THROWN = 16;

/** The picture a spot throws, or nothing. */
function thrownBy(light: SceneLight & { kind: 'spot' }, scene: RenderScene): DataTexture | null {
  if (!light.pattern && !light.profile) return null;
  const { texture, scale, soft } = light.pattern ?? {};
  const key = [texture, scale, soft, light.profile, light.cosOuter].join(' ');
  let map = thrown.get(key) ?? null;
  if (!map) {
    const picture = beamPicture(light, scene);
    if (!picture) return null;
    map = new DataTexture(picture, BEAM_SIDE, BEAM_SIDE);
    map.colorSpace = SRGBColorSpace;
    map.magFilter = map.minFilter = LinearFilter;
    map.needsUpdate = true;
  }
  thrown.delete(key);
  thrown.set(key, map);
  for (const [old, picture] of thrown) {
    if (thrown.size <= MOST_THROWN) break;
    picture.dispose();
    thrown.delete(old);
  }
  return map;
}

/** Lights as they are drawn. */
function drawn(lights: readonly SceneLight[]): SceneLight[] {
  const groups = new Map<number, SceneLight[]>();
  for (const light of lights) groups.set(light.group, [...(groups.get(light.group) ?? []), light]);
  return [...groups.values()].flatMap((lamps) => {
    if (lamps.length <= MOST_LAMPS) return lamps;
    const share = lamps.length / MOST_LAMPS;
    return Array.from({ length: MOST_LAMPS }, (_, i) => {
      const lamp = lamps[Math.floor(i * share)];
      const colour = lamp.placed.colour.map((v) => v * share) as typeof lamp.placed.colour;
      return { ...lamp, placed: { ...lamp.placed, colour } };
    });
  });
}

/** Lamps and what they aim at. */
export const lampsOf = (scene: RenderScene): Object3D[] =>
  drawn(scene.lights).flatMap((light) => lampOf(light, scene));

function lampOf(light: SceneLight, scene: RenderScene): Object3D[] {
  const { position, forward, colour } = light.placed;
  const peak = Math.max(...colour, 1e-9);
  const aimed = position.map((v, i) => v + forward[i]);
  if (light.kind === 'area') {
    // a face of its own glows over its share of the rectangle
    const share = light.face?.area ?? (light.round ? Math.PI / 4 : 1);
    const lamp = new RectAreaLight(0xffffff, peak * share, light.width, light.height);
    lamp.color.setRGB(colour[0] / peak, colour[1] / peak, colour[2] / peak);
    lamp.position.fromArray(position);
    lamp.lookAt(aimed[0], aimed[1], aimed[2]);
    return [lamp];
  }
  if (light.kind === 'directional' && light.cosEdge === -1) {
    // what it counts is what falls on a plane
    const lamp = new AmbientLight(0xffffff, peak * Math.PI);
    lamp.color.setRGB(colour[0] / peak, colour[1] / peak, colour[2] / peak);
    return [lamp];
  }
  const { way = 'square', reference = 1 } = (light.kind === 'directional' ? undefined : light.fall) ?? {};
  const decay = { square: 2, clamped: 2, linear: 1, none: 0 }[way];
  const strength = peak / reference ** (2 - decay);
  if (light.kind === 'point') {
    const lamp = new PointLight(0xffffff, strength, 0, decay);
    lamp.color.setRGB(colour[0] / peak, colour[1] / peak, colour[2] / peak);
    lamp.position.fromArray(position);
    return [lamp];
  }
  const lamp =
    light.kind === 'spot'
      ? new SpotLight(
          0xffffff,
          strength,
          0,
          Math.acos(light.cosOuter),
          1 - Math.acos(light.cosInner) / Math.acos(light.cosOuter),
          decay,
        )
      : new DirectionalLight(0xffffff, peak);
  lamp.color.setRGB(colour[0] / peak, colour[1] / peak, colour[2] / peak);
  lamp.position.fromArray(position);
  lamp.target.position.fromArray(aimed);
  lamp.castShadow = light.shadow;
  lamp.shadow.mapSize.set(SHADOW_MAP, SHADOW_MAP);
  lamp.shadow.normalBias = 0.002;
  const { min, max } = scene.typeBox;
  const size = Math.hypot(...max.map((v, i) => v - min[i]));
  if (lamp instanceof SpotLight && light.kind === 'spot') {
    lamp.map = thrownBy(light, scene);
    // a pattern is turned as its lamp is
    lamp.shadow.camera.up.fromArray(light.placed.up);
    Object.assign(lamp.shadow.camera, { near: size * NEAREST, far: size * FARTHEST });
  }
  if (lamp instanceof DirectionalLight) {
    // it comes from infinitely far away: from beyond all that casts shadows
    lamp.position.fromArray(aimed.map((v, i) => v - forward[i] * FAR_AWAY * size));
    Object.assign(lamp.shadow.camera, {
      left: -size,
      right: size,
      top: size,
      bottom: -size,
      near: 0.01,
      far: 2 * FAR_AWAY * size,
    });
  }
  return [lamp, lamp.target];
}
