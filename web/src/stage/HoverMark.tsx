/** The place that is under the pointer in the chart, marked on the letter in the picture. */
import type { FrameRect } from '../engine/draft.ts';
import { useHover } from '../state/choice.ts';
import { useShot } from '../state/time.ts';
import { onStage } from './projection.ts';

export function HoverMark({ frame }: { frame: FrameRect }) {
  const point = useHover((h) => h.point);
  const { camera } = useShot();
  const at = point && onStage(camera, frame, point);
  if (!at) return null;
  return (
    <span
      className="pointer-events-none absolute h-4 w-4 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-primary shadow-[0_0_0_1px_var(--color-base-100)]"
      data-testid="hover-mark"
      style={{ left: at[0], top: at[1] }}
    />
  );
}
