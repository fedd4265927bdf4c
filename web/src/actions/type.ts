/** What is known of the type as it was last shaped. */
import { useShown } from '../state/shown.ts';

/** Size of the type, metres, to which lights and cameras are fitted. */
export function typeSize(): number {
  const box = useShown.getState().scene?.typeBox;
  return box ? Math.max(...box.max.map((v, i) => v - box.min[i])) : 1;
}

/** Longer side of the type's face, metres: what rigs are sized by. */
export function faceSize(): number {
  const box = useShown.getState().scene?.typeBox;
  return box ? Math.max(box.max[0] - box.min[0], box.max[1] - box.min[1]) : 1;
}

/** A block as it was last shaped. */
export const shapedBlock = (id: string) => useShown.getState().blocks.find((b) => b.block === id);
