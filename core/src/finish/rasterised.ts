/** What of finishes a rasteriser can only come near: it has one surface a pixel, and nothing beyond it. */
import type { Finish, Surface } from '../document/index.ts';

/** What is only come near, in the order it is told. */
export const NEARLY = ['glass', 'bodies', 'distances'] as const;
export type Nearly = (typeof NEARLY)[number];

const isGlass = (s: Surface) => s.transmission_weight > 0 && s.base_metalness < 1 && !s.geometry_thin_walled;
const isBody = (s: Surface) =>
  (s.subsurface_weight > 0 && s.base_metalness < 1) ||
  (isGlass(s) && s.transmission_depth > 0 && s.transmission_scatter.some((v) => v > 0));

/** What of some finishes the draft only comes near. */
export function onlyNearly(finishes: readonly Pick<Finish, 'surface' | 'coats' | 'feeds'>[]): Nearly[] {
  const surfaces = finishes.flatMap((f) => [f.surface, ...f.coats.filter((c) => c.on).map((c) => c.surface)]);
  const feeds = finishes.flatMap((f) => [...f.feeds, ...f.coats.filter((c) => c.on).flatMap((c) => c.feeds)]);
  const met: Record<Nearly, boolean> = {
    glass: surfaces.some(isGlass),
    bodies: surfaces.some(isBody),
    distances: feeds.some((f) => f.source === 'near'),
  };
  return NEARLY.filter((n) => met[n]);
}
