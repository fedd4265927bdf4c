/** Small traced pictures for the finish chart and the rack: who wants one, and what has been traced so far. */
import { useSyncExternalStore } from 'react';
import type { Camera, Grade } from '@wemlox/core/document';
import type { Unfolded } from '@wemlox/core/scene/unfolded';
import type { CellOrder } from '../workers/messages.ts';
import type { CellPicture } from './tracePool.ts';

interface WantedCell {
  key: string;
  block: string;
  letter: string;
  /** Finish to show on the whole letter; null shows what it wears. */
  finish: string | null;
  width: number;
  height: number;
  /** The letter unfolded, which is seen as the camera sees it; null for a look at the letter by itself. */
  unfolded: Unfolded | null;
}

interface Known {
  picture: ImageData | null;
  /** Scene the picture was traced from, and its samples. */
  version: number;
  samples: number;
  /** What it was seen with and where, if it is unfolded. */
  camera: Camera;
  unfolded: Unfolded | null;
}

const wanted = new Map<string, WantedCell>();
const known = new Map<string, Known>();
const listeners = new Map<string, Set<() => void>>();
let onWanted = () => {};

/** Called whenever a cell is asked for that has no current picture. */
export const whenWanted = (listener: () => void) => {
  onWanted = listener;
};

/** Asks for a cell's picture; the returned function takes the wish back. */
export function want(cell: WantedCell): () => void {
  wanted.set(cell.key, cell);
  onWanted();
  return () => {
    if (wanted.get(cell.key) === cell) wanted.delete(cell.key);
  };
}

/** Orders for all wanted cells that have fewer samples of this version of the scene. */
export function orders(
  version: number,
  samples: number,
  grade: Grade,
  camera: Camera,
  finishIndex: (id: string) => number | null,
): CellOrder[] {
  return [...wanted.values()].flatMap(({ finish, ...cell }) => {
    const have = known.get(cell.key);
    const same = have?.unfolded === cell.unfolded && (cell.unfolded === null || have.camera === camera);
    if (have && same && have.version === version && have.samples >= samples) return [];
    const dress = finish === null ? -1 : finishIndex(finish);
    // the scene at hand may not have it yet
    if (dress === null) return [];
    return [{ ...cell, dress, samples, grade, camera }];
  });
}

export function arrived(cell: CellPicture, version: number, { camera, unfolded }: CellOrder): void {
  const picture = cell.pixels && new ImageData(cell.pixels, cell.width, cell.height);
  known.set(cell.key, { picture, version, samples: cell.samples, camera, unfolded });
  for (const tell of listeners.get(cell.key) ?? []) tell();
}

export function useCellPicture(key: string): ImageData | null {
  return useSyncExternalStore(
    (tell) => {
      const all = listeners.get(key) ?? new Set();
      listeners.set(key, all.add(tell));
      return () => {
        all.delete(tell);
        if (all.size === 0) listeners.delete(key);
      };
    },
    () => known.get(key)?.picture ?? null,
  );
}
