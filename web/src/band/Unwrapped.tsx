/**
 * The surround unwrapped: what it looks like from the type, where faces look, and its panels. Dragged, it turns; a
 * panel's mark moves the panel.
 */
import { useEffect, useRef } from 'react';
import { movePanel, standSurround } from '@wemlox/core/edits';
import { bearingOf, frameOf } from '@wemlox/core/light/placing';
import { inPicture, intoPicture, outOfPicture, type SurroundPicture } from '@wemlox/core/light/surround';
import { currentLook } from '../actions/document.ts';
import { choose, useChoice } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';
import { perform } from '../state/studio.ts';
import { drawInRows, rowOf, type Inspection } from './inspecting.ts';
import { PanelHandles } from './PanelHandles.tsx';
import { Sightlines } from './Sightlines.tsx';
import { placeOf, worldAt } from './unwrapping.ts';

const TURN = 2 * Math.PI;
const STEP = (2 * Math.PI) / 180;

interface Drag {
  panel: string | null;
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
  const chosen = useChoice((c) => c.panel);
  const { turn, tilt, roll, panels } = surround;
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
  const begin = (panel: string | null) => (event: React.PointerEvent) => {
    event.stopPropagation();
    box.current!.setPointerCapture(event.pointerId);
    dragged.current = { panel, x: event.clientX, y: event.clientY, turn, tilt, roll };
    if (panel) choose({ panel, light: null });
  };
  const move = (event: React.PointerEvent) => {
    onPoint?.(directionUnder(event));
    const drag = dragged.current;
    if (!drag) return;
    const look = currentLook().id;
    if (drag.panel) {
      const place = bearingOf(directionUnder(event));
      perform((p) => movePanel(p, look, drag.panel!, place));
      return;
    }
    const { w, h } = placeIn(event);
    const [dx, dy] = [((event.clientX - drag.x) / w) * TURN, ((event.clientY - drag.y) / h) * Math.PI];
    if (Math.abs(dx) + Math.abs(dy) === 0) return;
    const stance = event.shiftKey
      ? { roll: drag.roll - dx }
      : event.altKey
        ? { tilt: drag.tilt + dy }
        : { turn: drag.turn - dx };
    perform((p) => standSurround(p, look, stance));
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
      onPointerDown={begin(null)}
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
      {panels.map((panel) => {
        const { across, down } = placeOf(outOfPicture(into, ...frameOf(panel).away));
        return (
          <button
            key={panel.id}
            type="button"
            aria-label={`${panel.name}: drag or use arrow keys to move`}
            aria-pressed={panel.id === chosen}
            title={panel.name}
            className={`absolute size-3 -translate-1/2 cursor-move rounded-full border-2 ${
              panel.id === chosen ? 'border-primary' : 'border-white'
            } ${panel.on ? 'bg-black/60' : 'bg-transparent'}`}
            style={{ left: `${across * 100}%`, top: `${down * 100}%` }}
            onPointerDown={begin(panel.id)}
            onFocus={() => choose({ panel: panel.id, light: null })}
            onKeyDown={(event) => {
              const by = {
                ArrowLeft: [-STEP, 0],
                ArrowRight: [STEP, 0],
                ArrowUp: [0, STEP],
                ArrowDown: [0, -STEP],
              }[event.key];
              if (!by) return;
              event.preventDefault();
              event.stopPropagation();
              const place = { azimuth: panel.azimuth - by[0], elevation: panel.elevation + by[1] };
              perform((p) => movePanel(p, currentLook(p).id, panel.id, place));
            }}
          />
        );
      })}
      {panels
        .filter((panel) => panel.id === chosen)
        .map((panel) => (
          <PanelHandles
            key={panel.id}
            panel={panel}
            placeOf={(direction) => placeOf(outOfPicture(into, ...direction))}
            directionUnder={directionUnder}
          />
        ))}
    </div>
  );
}
