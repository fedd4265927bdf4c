/** What the draft view draws a scene from, prepared here so that the page only hands it on to the graphics card. */
import type { Part, RenderScene } from '@wemlox/core/scene/renderScene';

export interface DraftBuffers {
  /** Corners and their normals; null when the geometry is the one sent before. WebGL takes no shared memory. */
  corners: { position: Float32Array<ArrayBuffer>; normal: Float32Array<ArrayBuffer> } | null;
  /** Corners ordered by finish. */
  index: Uint32Array<ArrayBuffer>;
  /** Stretches of the index that have one finish. */
  groups: { start: number; count: number; finish: number }[];
}

export function draftBuffers(scene: RenderScene, newGeometry: boolean): DraftBuffers {
  const floats = scene.geometryTriangles * 9;
  const copied = (from: Float32Array) => {
    const to = new Float32Array(floats);
    to.set(from.subarray(0, floats));
    return to;
  };
  const byFinish = scene.finishes.map((): Part[] => []);
  for (const part of scene.parts) byFinish[part.finish].push(part);
  const index = new Uint32Array(scene.geometryTriangles * 3);
  let at = 0;
  const groups = byFinish.flatMap((parts, finish) => {
    const start = at;
    for (const part of parts) {
      for (let v = part.firstTriangle * 3; v < (part.firstTriangle + part.triangles) * 3; v++)
        index[at++] = v;
    }
    return at > start ? [{ start, count: at - start, finish }] : [];
  });
  const corners = newGeometry ? { position: copied(scene.positions), normal: copied(scene.normals) } : null;
  return { corners, index, groups };
}

/** Memory that can be handed over instead of copied. */
export const handedOver = ({ corners, index }: DraftBuffers): ArrayBuffer[] => [
  index.buffer,
  ...(corners ? [corners.position.buffer, corners.normal.buffer] : []),
];
