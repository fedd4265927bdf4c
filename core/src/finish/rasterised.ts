/** What a rasteriser can only come near: it has one surface a pixel, nothing beyond it, and lights without a size. */
import type { Finish, Look, Piece, Shot, Surface } from '../document/index.ts';
import { isNormalMap } from './recipe.ts';

/** What is only come near, in the order it is told. */
export const NEARLY = [
  'glass',
  'bodies',
  'strokes',
  'normals',
  'distances',
  'lights',
  'depth',
  'motion',
  'shadows',
] as const;
export type Nearly = (typeof NEARLY)[number];

const isGlass = (s: Surface) => s.transmission_weight > 0 && s.base_metalness < 1 && !s.geometry_thin_walled;
const isBody = (s: Surface) =>
  (s.subsurface_weight > 0 && s.base_metalness < 1) ||
  (isGlass(s) && s.transmission_depth > 0 && s.transmission_scatter.some((v) => v > 0));

const BRUSHES = ['specular_roughness_anisotropy', 'coat_roughness_anisotropy'];
const isBrushed = (s: Surface) =>
  s.specular_roughness_anisotropy > 0 || (s.coat_weight > 0 && s.coat_roughness_anisotropy > 0);

const reachesAll = ({ mirrored, lights, blur_mirrored, seen, ground }: Look['surround']) =>
  mirrored === lights && (!mirrored || blur_mirrored === 0) && !(seen && ground);

/** Whether a light is drawn as it is: a point or a rectangle that reaches everything, everywhere. */
function isPlain(light: Look['rig'][number]): boolean {
  if (light.kind === 'card' || light.only.length > 0) return false;
  if (!light.diffuse || !light.mirrored || !light.through) return false;
  if (light.kind === 'array') return light.form !== 'ring' && light.form !== 'row';
  if (light.kind === 'area') return light.shape === 'rectangle' && !light.seen;
  if (light.kind === 'point') return light.radius === 0 && light.fall !== 'clamped' && !light.profile;
  if (light.kind === 'spot')
    return light.radius === 0 && light.fall !== 'clamped' && !light.profile && !light.pattern;
  return light.kind === 'directional' && light.size === 0;
}

/** What of some finishes, of a look's light and of a shot's stage the draft only comes near. */
export function onlyNearly(
  finishes: readonly Pick<Finish, 'surface' | 'coats' | 'feeds'>[],
  { rig, surround }: Pick<Look, 'rig' | 'surround'>,
  { camera, motion_blur }: Pick<Shot, 'camera' | 'motion_blur'>,
  pieces: readonly Pick<Piece, 'on' | 'catches'>[],
): Nearly[] {
  const surfaces = finishes.flatMap((f) => [f.surface, ...f.coats.filter((c) => c.on).map((c) => c.surface)]);
  const feeds = finishes.flatMap((f) => [...f.feeds, ...f.coats.filter((c) => c.on).flatMap((c) => c.feeds)]);
  const met: Record<Nearly, boolean> = {
    glass: surfaces.some(isGlass),
    bodies: surfaces.some(isBody),
    strokes: surfaces.some(isBrushed) || feeds.some((f) => BRUSHES.includes(f.parameter)),
    normals: feeds.some(isNormalMap),
    distances: feeds.some((f) => f.source === 'near'),
    lights: !reachesAll(surround) || rig.some((l) => l.on && !isPlain(l)),
    depth: camera.blurs && camera.view === 'perspective',
    motion: motion_blur,
    shadows: pieces.some((p) => p.on && p.catches),
  };
  return NEARLY.filter((n) => met[n]);
}
