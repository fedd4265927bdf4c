/** Which face of the type, or which piece of the stage, each place of a picture shows first. */
import { ZONES, type Zone } from '../document/index.ts';
import { isMirror } from '../finish/highlight.ts';
import type { Optics } from '../finish/optics.ts';
import { NO_BYTE, type RenderScene } from '../scene/renderScene.ts';
import type { Eye } from './eye.ts';
import type { WaveTracer } from './waveTracer.ts';

/** What a row of a chart stands for: one zone of all letters, or a piece of the stage. */
export type FaceRow = { zone: Zone } | { piece: string };

/** Rows of a picture's places, every `stride`th pixel across and down. */
export interface FaceMask {
  stride: number;
  /** Places across and down. */
  across: number;
  down: number;
  /** A place in `rowsOf`'s rows, or NO_BYTE where nothing is. */
  rows: Uint8Array;
}

/** Pixels between the places of a mask. */
const STRIDE = 2;
const FAR = 1e30;

/** The rows of a scene: zones that some letter has, in their order, then pieces; and the row of each part. */
export function rowsOf({ parts, things }: Pick<RenderScene, 'parts' | 'things'>): {
  rows: FaceRow[];
  ofPart: Uint8Array;
} {
  const zones = ZONES.filter((_, z) => parts.zone.subarray(0, parts.count).includes(z));
  const pieces = [...new Set(things.flatMap((t) => (t.piece === null ? [] : [t.piece])))];
  const rows: FaceRow[] = [...zones.map((zone) => ({ zone })), ...pieces.map((piece) => ({ piece }))];
  const ofPart = Uint8Array.from({ length: parts.count }, (_, p) => {
    const { piece } = things[parts.thing[p]];
    const row = piece === null ? zones.indexOf(ZONES[parts.zone[p]]) : zones.length + pieces.indexOf(piece);
    return row < 0 ? NO_BYTE : row;
  });
  return { rows, ofPart };
}

/** Whether most parts of each row are of a kind. */
function mostly(
  scene: Pick<RenderScene, 'parts' | 'things' | 'finishes'>,
  is: (optics: Optics) => boolean,
): boolean[] {
  const { rows, ofPart } = rowsOf(scene);
  const counts = rows.map(() => [0, 0]);
  ofPart.forEach((row, p) => {
    if (row !== NO_BYTE) counts[row][is(scene.finishes[scene.parts.finish[p]]) ? 0 : 1]++;
  });
  return counts.map(([some, other]) => some > other);
}

/** What rows of faces are, for the most part: they mirror more than they scatter; they glow. */
export const rowKinds = (scene: Pick<RenderScene, 'parts' | 'things' | 'finishes'>) => ({
  mirrors: mostly(scene, isMirror),
  glows: mostly(scene, ({ glow }) => glow.luminance > 0),
});

/** Width of each row's lobe, radians: what it mirrors is spread about so much (the mean of its parts' GGX widths). */
export function lobeWidths(scene: Pick<RenderScene, 'parts' | 'things' | 'finishes'>): number[] {
  const { rows, ofPart } = rowsOf(scene);
  const sums = rows.map(() => ({ width: 0, count: 0 }));
  ofPart.forEach((row, p) => {
    if (row === NO_BYTE) return;
    sums[row].width += scene.finishes[scene.parts.finish[p]].roughness ** 2;
    sums[row].count++;
  });
  return sums.map(({ width, count }) => width / Math.max(1, count));
}

/**
 * The mask of a picture, by one ray through the middle of each of its places.
 * @param tracer aimed at the scene
 */
export function faceMask(tracer: WaveTracer, scene: RenderScene, eye: Eye): FaceMask {
  const { parts } = scene;
  const { ofPart } = rowsOf(scene);
  const partsOf = Array.from({ length: scene.instances.count }, (): number[] => []);
  for (let p = 0; p < parts.count; p++) partsOf[parts.instance[p]].push(p);
  const across = Math.ceil(eye.width / STRIDE);
  const down = Math.ceil(eye.height / STRIDE);
  const rows = new Uint8Array(across * down).fill(NO_BYTE);
  for (let j = 0; j < down; j++) {
    const sy = 1 - ((j * STRIDE + 0.5) * 2) / eye.height;
    const rays = Array.from({ length: across }, (_, i) => {
      const sx = ((i * STRIDE + 0.5) * 2) / eye.width - 1;
      return [0, 1, 2].map((k) => eye.forward[k] + eye.right[k] * sx + eye.up[k] * sy);
    });
    tracer.firstHits(eye.origin, rays, FAR, (i, instance, triangle) => {
      const part = partsOf[instance]?.find(
        (p) => triangle >= parts.first[p] && triangle < parts.first[p] + parts.triangles[p],
      );
      if (part !== undefined) rows[j * across + i] = ofPart[part];
    });
  }
  return { stride: STRIDE, across, down, rows };
}
