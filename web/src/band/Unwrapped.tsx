/**
 * The surround unwrapped: what it looks like from the type, where faces look, and its panels. Dragged, it turns; a
 * panel's mark moves the panel.
 */
import { useEffect, useRef } from 'react';
import { standSurround } from '@wemlox/core/edits';
import { inPicture, intoPicture, outOfPicture, type SurroundPicture } from '@wemlox/core/light/surround';
import { currentLook } from '../actions/document.ts';
import { useLook } from '../state/chosen.ts';
import { perform } from '../state/studio.ts';
import { drawInRows, rowOf, type Inspection } from './inspecting.ts';
import { PanelMarks } from './PanelMarks.tsx';
import { Sightlines } from './Sightlines.tsx';
import { placeOf, worldAt } from './unwrapping.ts';

const TURN = 2 * Math.PI;
const STEP = (2 * Math.PI) / 180;

interface Drag {
  x: number;
  y: number;
  turn: number;
  tilt: number;
  roll: number;
}

export function Unwrapped({
  picture,
  inspection,
  width,
  onPoint,
}: {
  picture: SurroundPicture;
  inspection: Inspection;
  /** Pixels across it is drawn with. */
  width: number;
  /** Told of the direction under the pointer, in the picture; null when it leaves. */
  onPoint?: (direction: readonly number[] | null) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const dragged = useRef<Drag | null>(null);
  const { surround } = useLook();
  const { turn, tilt, roll } = surround;
  const { stops, clips } = inspection;
  useEffect(() => {
    const height = width / 2;
    const into = intoPicture({ turn, tilt, roll });
    return drawInRows(canvas.current!, width, height, (row) =>
      rowOf(picture, { stops, clips }, width, row, (x, y) =>
        inPicture(into, ...worldAt((x + 0.5) / width, (y + 0.5) / height)),
      ),
    );
  }, [picture, stops, clips, turn, tilt, roll, width]);

  const placeIn = (event: React.PointerEvent) => {
    const { left, top, width: w, height: h } = box.current!.getBoundingClientRect();
    const inside = (v: number) => Math.min(1 - 1e-6, Math.max(0, v));
    return { across: inside((event.clientX - left) / w), down: inside((event.clientY - top) / h), w, h };
  };
  const directionUnder = (event: React.PointerEvent) => {
    const { across, down } = placeIn(event);
    return inPicture(intoPicture(surround), ...worldAt(across, down));
  };
  const begin = (event: React.PointerEvent) => {
    event.stopPropagation();
    box.current!.setPointerCapture(event.pointerId);
    dragged.current = { x: event.clientX, y: event.clientY, turn, tilt, roll };
  };
  const move = (event: React.PointerEvent) => {
    onPoint?.(directionUnder(event));
    const drag = dragged.current;
    if (!drag) return;
    const { w, h } = placeIn(event);
    const [dx, dy] = [((event.clientX - drag.x) / w) * TURN, ((event.clientY - drag.y) / h) * Math.PI];
    if (Math.abs(dx) + Math.abs(dy) === 0) return;
    const stance = event.shiftKey
      ? { roll: drag.roll - dx }
      : event.altKey
        ? { tilt: drag.tilt + dy }
        : { turn: drag.turn - dx };
    perform((p) => standSurround(p, currentLook(p).id, stance));
  };
  const into = intoPicture(surround);
  return (
    <div
      ref={box}
      role="group"
      tabIndex={0}
      aria-label="The surround, unwrapped: drag or use arrow keys to turn it; with Alt it tilts, with Shift it rolls"
      title="Drag to turn; with Alt it tilts, with Shift it rolls"
      data-testid="unwrapped"
      className="relative aspect-[2/1] w-full shrink-0 cursor-grab touch-none overflow-hidden bg-base-200 select-none"
      onPointerDown={begin}
      onPointerMove={move}
      onPointerUp={() => (dragged.current = null)}
      onPointerLeave={() => onPoint?.(null)}
      onKeyDown={(event) => {
        const by = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
        if (!by || event.target !== event.currentTarget) return;
        event.preventDefault();
        const stance =
          by[1] !== 0
            ? { tilt: tilt + by[1] * STEP }
            : event.shiftKey
              ? { roll: roll + by[0] * STEP }
              : { turn: turn + by[0] * STEP };
        perform((p) => standSurround(p, currentLook(p).id, stance));
      }}
    >
      <canvas ref={canvas} className="pointer-events-none h-full w-full" aria-hidden="true" />
      <Sightlines />
      <PanelMarks
        placeOf={(direction) => placeOf(outOfPicture(into, ...direction))}
        directionUnder={directionUnder}
      />
    </div>
  );
}
