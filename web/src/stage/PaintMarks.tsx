/** The brush over the picture: its size where it points, and strokes until they are traced. */
import { useEffect, useRef, useState } from 'react';
import { finishAt, wears as wearsSomewhere } from '@wemlox/core/document';
import { cameraFrame } from '@wemlox/core/stage/camera';
import { dabAt, endStroke } from '../actions/painting.ts';
import { currentLook } from '../actions/document.ts';
import type { Draft } from '../engine/draft.ts';
import type { Picked } from '../engine/pick.ts';
import { LEAST_RADIUS, MOST_RADIUS, setBrush, usePainting } from '../state/painting.ts';
import { useShown } from '../state/shown.ts';
import { shotOf, useStudio } from '../state/studio.ts';
import { keyBrush } from './keyBrush.ts';
import { placeInWords } from './placeInWords.ts';
import { onStage } from './projection.ts';

const SIZED = 0.0012;
/** Places of a stroke lie at most so far apart, in radii of the brush as it is seen, and at least so many pixels. */
const STEP = 0.5;
const LEAST_STEP = 2;
/** Radius of the ring where keys have led the brush beside what is painted, pixels. */
const LEAST_RING = 4;
const PAINT = 'rgb(127 224 184 / 0.35)';
const TAKEN = 'rgb(20 20 22 / 0.35)';

/** Whether a place wears the finish that is painted. */
function wears(hit: Picked, finish: string): boolean {
  const project = useStudio.getState().seen;
  const piece = project.pieces.find((p) => p.id === hit.piece);
  if (piece) return wearsSomewhere(piece, finish);
  if (!hit.block || !hit.letter || !hit.zone) return false;
  return finishAt(currentLook(project).chart, hit.block, hit.letter, hit.zone) === finish;
}

/** Radius of the brush on a face as it is seen, pixels. */
function seenRadius(draft: Draft, { point }: Picked): number {
  const { camera } = shotOf(useStudio.getState().seen);
  const { radius } = usePainting.getState();
  const { right } = cameraFrame(camera, draft.frame.width / draft.frame.height);
  const [a, b] = [point, point.map((v, i) => v + right[i] * radius)].map((p) =>
    onStage(camera, draft.frame, p),
  );
  return a && b ? Math.hypot(b[0] - a[0], b[1] - a[1]) : 0;
}

export function PaintMarks({ draft, size }: { draft: Draft; size: { width: number; height: number } }) {
  const on = usePainting((p) => p.on);
  const canvas = useRef<HTMLCanvasElement>(null);
  const ring = useRef<HTMLDivElement>(null);
  const [stands, setStands] = useState('');
  useEffect(() => {
    const element = canvas.current;
    if (!on || !element) return;
    const context = element.getContext('2d')!;
    let last: readonly [number, number] | null = null;
    const clear = () => context.clearRect(0, 0, element.width, element.height);
    const inStage = (event: MouseEvent) => {
      const box = element.getBoundingClientRect();
      return [event.clientX - box.left, event.clientY - box.top] as const;
    };
    const under = (x: number, y: number) => {
      const hit = draft.pick(x, y);
      return hit && wears(hit, on.finish) ? hit : null;
    };
    const showRing = (x: number, y: number, radius: number) => {
      const { style } = ring.current!;
      style.display = radius > 0 ? '' : 'none';
      style.transform = `translate(${x - radius}px, ${y - radius}px)`;
      style.width = style.height = `${2 * radius}px`;
    };
    const paint = (hit: Picked, x: number, y: number, takesAway: boolean) => {
      dabAt(hit, takesAway);
      context.fillStyle = takesAway || usePainting.getState().amount === 0 ? TAKEN : PAINT;
      context.beginPath();
      context.arc(x, y, seenRadius(draft, hit), 0, 2 * Math.PI);
      context.fill();
    };
    const down = (event: PointerEvent) => {
      const [x, y] = inStage(event);
      const hit = event.button === 0 && !event.shiftKey ? under(x, y) : null;
      // beside what wears the finish hands turn the picture, as ever
      if (!hit) {
        clear();
        return;
      }
      event.stopPropagation();
      element.setPointerCapture(event.pointerId);
      last = [x, y];
      paint(hit, x, y, event.altKey);
    };
    const move = (event: PointerEvent) => {
      const [x, y] = inStage(event);
      const hit = under(x, y);
      const radius = hit ? seenRadius(draft, hit) : 0;
      showRing(x, y, radius);
      if (!last) return;
      event.stopPropagation();
      const way = Math.hypot(x - last[0], y - last[1]);
      const steps = Math.max(1, Math.floor(way / Math.max(LEAST_STEP, STEP * radius)));
      if (way < LEAST_STEP) return;
      for (let k = 1; k <= steps; k++) {
        const [px, py] = [0, 1].map((i) => last![i] + (([x, y][i] - last![i]) * k) / steps);
        const met = under(px, py);
        if (met) paint(met, px, py, event.altKey);
      }
      last = [x, y];
    };
    const up = (event: PointerEvent) => {
      if (!last) return;
      event.stopPropagation();
      last = null;
      endStroke();
    };
    const wheel = (event: WheelEvent) => {
      const [x, y] = inStage(event);
      const hit = under(x, y);
      if (!hit) {
        clear();
        return;
      }
      event.preventDefault();
      event.stopPropagation();
      const delta = event.deltaY * (event.deltaMode === 1 ? 16 : 1);
      const { radius } = usePainting.getState();
      setBrush({ radius: Math.min(MOST_RADIUS, Math.max(LEAST_RADIUS, radius * Math.exp(-delta * SIZED))) });
      showRing(x, y, seenRadius(draft, hit));
    };
    const brush = keyBrush(element, {
      moved: (x, y) => {
        const hit = under(x, y);
        showRing(x, y, hit ? seenRadius(draft, hit) : LEAST_RING);
        setStands(placeInWords(hit));
      },
      paints: (x, y, begins, takesAway) => {
        const hit = under(x, y);
        if (hit) paint(hit, x, y, takesAway);
        else if (begins) clear();
      },
      ended: endStroke,
    });
    const off = useShown.subscribe((now, before) => {
      if (!last && now.fresh && now.samples > 0 && (!before.fresh || before.samples === 0)) clear();
    });
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', up);
    element.addEventListener('wheel', wheel, { passive: false });
    return () => {
      off();
      brush();
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', up);
      element.removeEventListener('wheel', wheel);
    };
  }, [on, draft]);
  if (!on) return null;
  return (
    <>
      <canvas
        ref={canvas}
        width={size.width}
        height={size.height}
        role="application"
        aria-roledescription="Painting"
        aria-label="Paint on the letters; with Alt paint is taken away; the wheel sizes the brush. Arrows move the brush, Space paints while it is held"
        tabIndex={0}
        onBlur={() => (ring.current!.style.display = 'none')}
        data-testid="paint"
        className="absolute inset-0 h-full w-full cursor-crosshair touch-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-primary"
      />
      <p role="status" className="sr-only">
        {stands}
      </p>
      <div
        ref={ring}
        style={{ display: 'none' }}
        className="pointer-events-none absolute top-0 left-0 rounded-full border border-white shadow-[0_0_0_1px_black]"
      />
    </>
  );
}
