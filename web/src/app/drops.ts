/** Where a finish that is dragged would land: what is topmost under the pointer, scrolled or not. */
import type { CollisionDetection } from '@dnd-kit/core';
import type { ChartTarget, Zone } from '@wemlox/core/document';
import { PICTURE } from '../stage/drop.ts';
import { engine } from '../engine/engine.ts';

/** Elements that take a drop carry this attribute with the droppable's identifier. */
const DROP = 'data-drop';

/**
 * The droppable whose element is on top at the pointer. Rectangles alone do not tell: heads that stay in sight lie
 * over columns that are scrolled under them.
 */
export const topmost: CollisionDetection = ({ pointerCoordinates: at, droppableContainers }) => {
  if (!at) return [];
  for (const element of document.elementsFromPoint(at.x, at.y)) {
    // the chip that follows the pointer is no place, nor is what lies about all places
    const id = element.closest(`[${DROP}]`)?.getAttribute(DROP);
    const container = droppableContainers.find((c) => c.id === id);
    if (container) return [{ id: container.id, data: { droppableContainer: container, value: 1 } }];
  }
  return [];
};

/** Where the pointer is: what the drag's own events say of it lags behind a quick hand. */
const pointer = { x: 0, y: 0 };
for (const event of ['pointerdown', 'pointermove', 'pointerup'] as const)
  window.addEventListener(
    event,
    ({ clientX, clientY }) => Object.assign(pointer, { x: clientX, y: clientY }),
    true,
  );

/** What a place of the chart stands for, by its identifier. */
function targetOf(id: string): ChartTarget {
  if (id === 'corner') return {};
  const [first, second, third] = id.split('/');
  if (first === 'row') return { zone: second as Zone };
  if (first === 'column') return { block: second, letter: third };
  return { block: first, letter: second, zone: third as Zone };
}

interface Landing {
  target: ChartTarget;
  /** Whether it is a face in the picture rather than a place of the chart. */
  inPicture: boolean;
}

/** Where a finish let go of now would land; null where nothing takes it. */
export function landing(): Landing | null {
  for (const element of document.elementsFromPoint(pointer.x, pointer.y)) {
    const id = element.closest(`[${DROP}]`)?.getAttribute(DROP);
    if (!id) continue;
    if (id !== PICTURE) return { target: targetOf(id), inPicture: false };
    const part = engine()?.partAt(pointer.x, pointer.y);
    return part?.block && part.letter && part.zone && part.zone !== 'points'
      ? { target: { block: part.block, letter: part.letter, zone: part.zone }, inPicture: true }
      : null;
  }
  return null;
}
