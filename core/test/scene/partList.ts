/** A scene's parts one by one, as tests look at them. */
import { ZONES } from '../../src/document/index.ts';
import { NO_BYTE, type RenderScene } from '../../src/scene/renderScene.ts';

export const partList = ({ parts, things }: RenderScene) =>
  Array.from({ length: parts.count }, (_, i) => ({
    ...things[parts.thing[i]],
    number: i,
    zone: ZONES[parts.zone[i]] ?? null,
    colour: parts.colour[i] === NO_BYTE ? null : parts.colour[i],
    finish: parts.finish[i],
    triangles: parts.triangles[i],
  }));

/** Triangles of the geometry as it is laid out in the world. */
export const trianglesOf = ({ solids, instances }: RenderScene): number =>
  [...instances.solid].reduce((sum, solid) => sum + solids[solid].triangles, 0);
