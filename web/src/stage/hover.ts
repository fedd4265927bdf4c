/** What of the type is under the pointer in the picture, for the chart to mark. */
import { useEffect, type RefObject } from 'react';
import type { Draft } from '../engine/draft.ts';
import { useHover } from '../state/choice.ts';

/** Shortest time between two looks, milliseconds: each goes through the triangles of a letter. */
const REST = 60;

export function useHoverOnStage(
  stage: RefObject<HTMLDivElement | null>,
  draft: Draft | null,
  wanted: boolean,
): void {
  useEffect(() => {
    const element = stage.current;
    if (!element || !draft || !wanted) return;
    let due = 0;
    let at: readonly [number, number] = [0, 0];
    const look = () => {
      due = 0;
      const hit = draft.pick(...at);
      useHover.setState(
        hit?.block && hit.letter && hit.zone
          ? { face: { block: hit.block, letter: hit.letter, zone: hit.zone }, point: hit.point }
          : { face: null, point: null },
      );
    };
    const move = (event: PointerEvent) => {
      if (event.buttons !== 0) return;
      const box = element.getBoundingClientRect();
      at = [event.clientX - box.left, event.clientY - box.top];
      if (due === 0) due = window.setTimeout(look, REST);
    };
    const leave = () => {
      window.clearTimeout(due);
      due = 0;
      useHover.setState({ face: null, point: null });
    };
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerleave', leave);
    return () => {
      leave();
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerleave', leave);
    };
  }, [stage, draft, wanted]);
}
