/**
 * The finish chart: letters across, zones down, each cell a traced picture of its finish on that letter.
 * Click chooses; drag from the rack dresses a cell, row, column or everything; drag from a cell paints along.
 */
import { useDroppable } from '@dnd-kit/core';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import {
  finishAt,
  ZONES,
  type ChartRule,
  type ChartTarget,
  type Zone,
} from '@wemlox/core/src/document/index.ts';
import { want, useCellPicture } from '../stage/cells.ts';
import { useView } from '../stage/view.ts';
import { layFinish, paintFace } from '../state/actions.ts';
import { choose, useChoice, type ChosenFace } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';
import { useStudio } from '../state/studio.ts';
import { ZONE_NAMES } from '../state/words.ts';
import type { BandLetter } from '../workers/messages.ts';
import { pathOf, viewBoxOf } from './glyph.ts';

/** Size of a cell's picture, pixels; narrower cells show its middle. */
const CELL = { width: 112, height: 28 };

/** A traced picture once it is there; the place stays empty until then. */
export function CellPicture({ cellKey, className }: { cellKey: string; className?: string }) {
  const picture = useCellPicture(cellKey);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!picture || !canvas.current) return;
    Object.assign(canvas.current, { width: picture.width, height: picture.height });
    canvas.current.getContext('2d')!.putImageData(picture, 0, 0);
  }, [picture]);
  return (
    <canvas ref={canvas} data-traced={picture ? 'yes' : 'no'} className={className} width={1} height={1} />
  );
}

/** Whether an element can be seen, for pictures that are only traced then. */
export function useSeen<T extends Element>() {
  const ref = useRef<T>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => setSeen(entry.isIntersecting));
    watch.observe(ref.current!);
    return () => watch.disconnect();
  }, []);
  return [ref, seen] as const;
}

function useDrop(id: string, target: ChartTarget) {
  return useDroppable({ id, data: { target } });
}

const Cell = memo(function Cell({
  letter,
  zone,
  finish,
  finishName,
  chosen,
  onPress,
}: {
  letter: BandLetter;
  zone: Zone;
  finish: string | null;
  finishName: string | null;
  chosen: boolean;
  onPress: (face: ChosenFace, x: number, y: number) => void;
}) {
  const { block, letter: id } = letter;
  const key = `${block}/${id}/${zone}`;
  const [box, seen] = useSeen<HTMLDivElement>();
  const drop = useDrop(key, { block, letter: id, zone });
  useEffect(() => {
    if (seen && finish !== null) return want({ key, block, letter: id, zone, finish: null, ...CELL });
  }, [key, block, id, zone, finish, seen]);
  return (
    <div
      ref={(node) => {
        box.current = node;
        drop.setNodeRef(node);
      }}
      role="gridcell"
      aria-selected={chosen}
      aria-label={`${ZONE_NAMES[zone]} of ${letter.text}: ${finishName ?? 'no finish'}`}
      data-cell={key}
      className={`relative min-w-11 flex-1 cursor-pointer overflow-hidden bg-base-200 ${finish === null ? 'hatched' : ''} ${chosen ? 'z-10 outline-2 outline-primary' : ''} ${drop.isOver ? 'outline-2 outline-base-content' : ''}`}
      onPointerDown={(e) => {
        if (e.button === 0) onPress({ block, letter: id, zone }, e.clientX, e.clientY);
      }}
    >
      {finish !== null && (
        <CellPicture cellKey={key} className="absolute inset-0 h-full w-full object-cover" />
      )}
    </div>
  );
});

const Head = memo(function Head({ letter, chosen }: { letter: BandLetter; chosen: boolean }) {
  const drop = useDrop(`column/${letter.block}/${letter.letter}`, {
    block: letter.block,
    letter: letter.letter,
  });
  const [x, y, w, h] = useMemo(() => viewBoxOf(letter), [letter]);
  const d = useMemo(() => pathOf(letter), [letter]);
  return (
    <div
      ref={drop.setNodeRef}
      role="columnheader"
      aria-label={letter.text}
      className={`min-w-11 flex-1 py-1 ${drop.isOver ? 'outline-2 outline-base-content' : ''}`}
    >
      <svg viewBox={`${x} ${y} ${w} ${h}`} className="mx-auto h-full" aria-hidden>
        <path d={d} fillRule="evenodd" fill={chosen ? 'var(--color-primary)' : 'var(--quiet)'} />
      </svg>
    </div>
  );
});

function RowHead({ zone, names, chosen }: { zone: Zone; names: string; chosen: boolean }) {
  const drop = useDrop(`row/${zone}`, { zone });
  return (
    <div
      ref={drop.setNodeRef}
      role="rowheader"
      className={`flex w-36 shrink-0 items-center gap-2 pl-4 ${drop.isOver ? 'outline-2 outline-base-content' : ''}`}
    >
      <span className={`shrink-0 ${chosen ? 'text-primary' : ''}`}>{ZONE_NAMES[zone]}</span>
      <span className="quiet truncate text-xs" title={names}>
        {names}
      </span>
    </div>
  );
}

/** Distance at which a stroke looks for cells, pixels: narrower than any cell. */
const STROKE_STEP = 8;

/** Paints the finish of the cell a press began on along every cell the pointer crosses, however fast it goes. */
function useBrush(chart: ChartRule[]): (face: ChosenFace, x: number, y: number) => void {
  const stroke = useRef<{ finish: string | null; x: number; y: number } | null>(null);
  useEffect(() => {
    const move = (event: PointerEvent) => {
      const from = stroke.current;
      if (!from) return;
      const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
      const steps = Math.max(1, Math.ceil(Math.hypot(dx, dy) / STROKE_STEP));
      for (let i = 1; i <= steps; i++) {
        const under = document.elementFromPoint(from.x + (dx * i) / steps, from.y + (dy * i) / steps);
        const key = under?.closest<HTMLElement>('[data-cell]')?.dataset.cell;
        if (!key) continue;
        const [block, letter, zone] = key.split('/');
        paintFace({ block, letter, zone: zone as Zone }, from.finish);
      }
      stroke.current = { ...from, x: event.clientX, y: event.clientY };
    };
    const lift = (event: PointerEvent) => {
      move(event);
      stroke.current = null;
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', lift, true);
    window.addEventListener('pointercancel', lift, true);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', lift, true);
      window.removeEventListener('pointercancel', lift, true);
    };
  }, []);
  return useCallback(
    (face, x, y) => {
      stroke.current = { finish: finishAt(chart, face.block, face.letter, face.zone), x, y };
      choose({ face, finish: null });
    },
    [chart],
  );
}

export function FinishChart() {
  const blocks = useView((v) => v.blocks);
  const look = useLook();
  const finishes = useStudio((s) => s.project.finishes);
  const face = useChoice((c) => c.face);
  const corner = useDrop('corner', {});
  const onPress = useBrush(look.chart);
  const letters = useMemo(() => blocks.flatMap((b) => b.letters), [blocks]);
  /** Zones that some letter has; points of light glow by themselves. */
  const zones = ZONES.filter((z) => z !== 'points' && blocks.some((b) => b.zones.includes(z)));
  const zonesOfBlock = new Map(blocks.map((b) => [b.block, b.zones]));
  const has = (l: BandLetter, zone: Zone) => zonesOfBlock.get(l.block)?.includes(zone) ?? false;
  const names = useMemo(() => new Map(finishes.map((f) => [f.id, f.name])), [finishes]);

  const onKeyDown = (event: React.KeyboardEvent) => {
    const { face: at, finish } = useChoice.getState();
    const column = letters.findIndex((l) => l.letter === at?.letter && l.block === at.block);
    const row = at ? zones.indexOf(at.zone) : -1;
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (by && letters.length > 0) {
      event.preventDefault();
      const letter = letters[Math.min(letters.length - 1, Math.max(0, column + by[0]))];
      const zone = zones[Math.min(zones.length - 1, Math.max(0, row + by[1]))];
      choose({ face: { block: letter.block, letter: letter.letter, zone } });
    } else if (at && (event.key === 'Delete' || event.key === 'Backspace')) layFinish(at, null);
    else if (at && event.key === 'Enter' && finish) layFinish(at, finish);
  };

  if (letters.length === 0) return <p className="quiet p-4">Type a word in Set: its faces stand here.</p>;
  return (
    <div className="h-full overflow-x-auto overflow-y-hidden">
      <div
        role="grid"
        aria-label="Finish chart: letters across, zones down. Arrow keys move, Delete clears, Enter lays the finish from the rack."
        tabIndex={0}
        className="flex h-full w-max min-w-full flex-col gap-0.5 py-1.5 pr-3 outline-offset-[-2px]"
        onKeyDown={onKeyDown}
      >
        <div role="row" className="flex h-9 shrink-0 gap-1">
          <div
            ref={corner.setNodeRef}
            role="columnheader"
            className={`quiet flex w-36 shrink-0 items-end pb-1 pl-4 text-xs ${corner.isOver ? 'outline-2 outline-base-content' : ''}`}
          >
            all faces
          </div>
          {letters.map((l, i) => (
            <Head key={`${l.letter}-${i}`} letter={l} chosen={l.letter === face?.letter} />
          ))}
        </div>
        {zones.map((zone) => {
          const worn = letters.map((l) =>
            has(l, zone) ? finishAt(look.chart, l.block, l.letter, zone) : null,
          );
          const rowNames = [...new Set(worn.flatMap((f) => (f ? [names.get(f) ?? ''] : [])))].join(', ');
          return (
            <div key={zone} role="row" className="flex min-h-0 flex-1 gap-1">
              <RowHead zone={zone} names={rowNames} chosen={zone === face?.zone} />
              {letters.map((l, i) =>
                !has(l, zone) ? (
                  <div key={`${l.letter}-${i}`} role="gridcell" className="min-w-11 flex-1" />
                ) : (
                  <Cell
                    key={`${l.letter}-${i}`}
                    letter={l}
                    zone={zone}
                    finish={worn[i]}
                    finishName={worn[i] ? (names.get(worn[i]) ?? null) : null}
                    chosen={face?.letter === l.letter && face.zone === zone && face.block === l.block}
                    onPress={onPress}
                  />
                ),
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}
