/**
 * The finish chart: letters across, each unfolded as the camera sees its faces; below them their zones, coloured by what
 * they wear. Click chooses; drag from the rack dresses a face, row, column or everything; drag from a face paints along.
 */
import { useDroppable } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import {
  finishAt,
  ZONES,
  type ChartRule,
  type ChartTarget,
  type Finish,
  type Zone,
  ZONE_NAMES,
} from '@wemlox/core/document';
import { alikeLetters } from '@wemlox/core/edits';
import { useShaping, useShown } from '../state/shown.ts';
import { dressFaces, paintFace } from '../actions/finishes.ts';
import { choose, useChoice, useHover, type ChosenFace } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';
import { useStudio } from '../state/studio.ts';
import type { BandLetter } from '../workers/messages.ts';
import { ChartTools } from './ChartTools.tsx';
import { useCoverage } from './coverage.ts';
import { letterScale, UnfoldedLetter, type LetterScale } from './UnfoldedLetter.tsx';

/** Narrowest column with its gap, width of the rows' heads with theirs, and room at the end, pixels. */
const COLUMN = 64;
const LARGE_COLUMN = 220;
/** Height of a column's letter in words, under its picture, pixels. */
const LABEL = 14;
const HEADS = 148;
const END = 12;

/** A place that takes a dropped finish; its element carries the identifier, which says what it stands for. */
const useDrop = (id: string) => useDroppable({ id });

/** Identifier of a place of the chart on the page, for the grid's active cell. */
const placeId = ({ block, letter, zone }: ChartTarget) =>
  `chart-${[block, letter, zone].map((v) => v ?? 'all').join('-')}`;

const Cell = memo(function Cell({
  column,
  letter,
  zone,
  finish,
  swatch,
  chosen,
  dim,
  onPress,
}: {
  /** Counted from 1 over all columns, drawn or not. */
  column: number;
  letter: BandLetter;
  zone: Zone;
  finish: Finish | null;
  /** Colour the finish is known by. */
  swatch: string;
  chosen: boolean;
  /** Stands back, for others are sought. */
  dim: boolean;
  onPress: (face: ChosenFace, x: number, y: number) => void;
}) {
  const { block, letter: id } = letter;
  const key = `${block}/${id}/${zone}`;
  const drop = useDrop(key);
  const hovered = useHover((h) => h.face?.block === block && h.face.letter === id && h.face.zone === zone);
  return (
    <div
      ref={drop.setNodeRef}
      role="gridcell"
      aria-colindex={column}
      aria-selected={chosen}
      aria-label={`${ZONE_NAMES[zone]} of ${letter.text}: ${finish?.name ?? 'no finish'}`}
      title={finish?.name ?? 'no finish'}
      id={placeId({ block, letter: id, zone })}
      data-cell={key}
      data-drop={key}
      className={`h-full cursor-pointer ${dim ? 'opacity-20' : ''} ${finish === null ? 'hatched bg-base-200' : ''} ${chosen ? 'relative z-10 outline-2 outline-primary' : ''} ${drop.isOver || hovered ? 'relative z-10 outline-2 outline-base-content' : ''}`}
      style={finish ? { background: swatch } : undefined}
      onPointerDown={(e) => {
        if (e.button === 0) onPress({ block, letter: id, zone }, e.clientX, e.clientY);
      }}
    />
  );
});

const Head = memo(function Head({
  column,
  letter,
  count,
  chosen,
  active,
  width,
  height,
  scale,
  dim,
  onPress,
}: {
  column: number;
  letter: BandLetter;
  /** Letters that the column stands for. */
  count: number;
  chosen: boolean;
  active: boolean;
  /** Pixels. */
  width: number;
  height: number;
  scale: LetterScale;
  /** Zones that stand back, one after the other. */
  dim: string;
  onPress: (face: ChosenFace, x: number, y: number) => void;
}) {
  const target = { block: letter.block, letter: letter.letter };
  const id = `column/${letter.block}/${letter.letter}`;
  const drop = useDrop(id);
  return (
    <div
      ref={drop.setNodeRef}
      role="columnheader"
      id={placeId(target)}
      aria-colindex={column}
      aria-label={count > 1 ? `${letter.text}, ${count} letters` : letter.text}
      data-drop={id}
      className={`relative h-full ${drop.isOver ? 'outline-2 outline-base-content' : active ? 'outline-2 outline-primary' : ''}`}
    >
      <UnfoldedLetter
        letter={letter}
        width={width}
        height={height}
        scale={scale}
        chosen={chosen}
        dim={dim}
        onPress={onPress}
      />
      <span
        className={`absolute inset-x-0 bottom-0 h-3.5 text-center text-xs leading-none ${chosen ? 'text-primary' : 'quiet'}`}
      >
        {letter.text}
        {count > 1 && <span className="quiet"> ×{count}</span>}
      </span>
    </div>
  );
});

function RowHead({
  zone,
  names,
  chosen,
  active,
}: {
  zone: Zone;
  names: string;
  chosen: boolean;
  active: boolean;
}) {
  const id = `row/${zone}`;
  const drop = useDrop(id);
  return (
    <div
      ref={drop.setNodeRef}
      role="rowheader"
      id={placeId({ zone })}
      data-drop={id}
      className={`sticky left-0 z-20 flex w-36 shrink-0 items-center gap-2 bg-base-100 pl-4 ${drop.isOver ? 'outline-2 outline-base-content' : active ? 'outline-2 outline-primary' : ''}`}
    >
      <span className={`shrink-0 text-xs ${chosen ? 'text-primary' : ''}`}>{ZONE_NAMES[zone]}</span>
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

/** Columns that can be seen, as wide as there is room for all and no narrower than can be hit. */
function useColumns(count: number, least: number) {
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(0);
  const size = Math.max(least, (room - HEADS - END) / Math.max(1, count));
  const columns = useVirtualizer({
    horizontal: true,
    count,
    getScrollElement: () => box.current,
    estimateSize: () => size,
    paddingStart: HEADS,
    paddingEnd: END,
    scrollPaddingStart: HEADS,
    overscan: 2,
    useFlushSync: false,
  });
  useLayoutEffect(() => {
    const watch = new ResizeObserver(([{ contentRect }]) => setRoom(contentRect.width));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  useLayoutEffect(() => columns.measure(), [columns, size]);
  return { box, columns, size };
}

export function FinishChart() {
  const blocks = useShown((v) => v.blocks);
  const letters = useMemo(() => blocks.flatMap((b) => b.letters), [blocks]);
  const shaping = useShaping();
  if (letters.length === 0)
    return (
      <p className="quiet p-4" role="status">
        {shaping ? 'The letters are being shaped.' : 'Type a word in Set: its faces stand here.'}
      </p>
    );
  return <Chart letters={letters} />;
}

interface Columns {
  /** The first letter of each column, and how many stand in each. */
  letters: readonly BandLetter[];
  counts: readonly number[];
  /** The same face of the letter that stands for another. */
  shownAt: <T extends ChartTarget>(target: T) => T;
}

/** A column for each letter, or for letters that are equal and dressed alike. */
function useColumnLetters(all: readonly BandLetter[]): Columns {
  const grouped = useChoice((c) => c.groupedChart);
  const look = useLook();
  const blocks = useStudio((s) => s.seen.blocks);
  return useMemo(() => {
    if (!grouped) return { letters: all, counts: all.map(() => 1), shownAt: (target) => target };
    const known = new Map(all.map((l) => [`${l.block}/${l.letter}`, l]));
    const groups = alikeLetters({ blocks }, look)
      .map((group) => group.flatMap(({ block, letter }) => known.get(`${block}/${letter}`) ?? []))
      .filter((group) => group.length > 0);
    const first = new Map(groups.flatMap((g) => g.map((l) => [`${l.block}/${l.letter}`, g[0].letter])));
    return {
      letters: groups.map((g) => g[0]),
      counts: groups.map((g) => g.length),
      shownAt: (target) => ({
        ...target,
        letter: first.get(`${target.block}/${target.letter}`) ?? target.letter,
      }),
    };
  }, [grouped, all, blocks, look]);
}

function Chart({ letters: all }: { letters: BandLetter[] }) {
  const blocks = useShown((v) => v.blocks);
  const { letters, counts, shownAt } = useColumnLetters(all);
  const { chart } = useLook();
  const finishes = useStudio((s) => s.seen.finishes);
  const chosen = useChoice((c) => c.face);
  const face = useMemo(() => chosen && shownAt(chosen), [chosen, shownAt]);
  const corner = useDrop('corner');
  const onPress = useBrush(chart);
  const large = useChoice((c) => c.largeChart);
  const { box, columns, size } = useColumns(letters.length, large ? LARGE_COLUMN : COLUMN);
  const byId = useMemo(() => new Map(finishes.map((f) => [f.id, f])), [finishes]);
  /** What letters wear on the zones that some letter has; points of light glow by themselves. */
  const rows = useMemo(() => {
    const zonesOfBlock = new Map(blocks.map((b) => [b.block, b.zones]));
    const shown = ZONES.filter((z) => z !== 'points' && blocks.some((b) => b.zones.includes(z)));
    return shown.map((zone) => ({
      zone,
      /** Undefined where the letter has no such zone. */
      worn: letters.map((l) =>
        zonesOfBlock.get(l.block)?.includes(zone) ? finishAt(chart, l.block, l.letter, zone) : undefined,
      ),
    }));
  }, [blocks, letters, chart]);

  const { known, shown, setShown, standsOut } = useCoverage();
  const dimmed = useMemo(
    () =>
      letters.map((_, i) =>
        rows
          .filter(({ worn }) => worn[i] !== undefined && !standsOut(worn[i] ?? null))
          .map((r) => r.zone)
          .join(' '),
      ),
    [letters, rows, standsOut],
  );
  const heads = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(0);
  useLayoutEffect(() => {
    const watch = new ResizeObserver(([{ contentRect }]) =>
      setHeight(Math.floor(contentRect.height) - LABEL),
    );
    watch.observe(heads.current!);
    return () => watch.disconnect();
  }, []);
  const width = Math.floor(size - 4);
  const scale = useMemo(() => letterScale(letters, width, height), [letters, width, height]);
  /** A head the arrow keys have gone to: a row, a column, or all faces; null while a cell is active. */
  const [head, setHead] = useState<ChartTarget | null>(null);
  useEffect(() => setHead(null), [face]);
  const onKeyDown = (event: React.KeyboardEvent) => {
    const { finish, brush } = useChoice.getState();
    const target: ChartTarget | null = head ?? face;
    const laid = finish ?? brush;
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (by) {
      event.preventDefault();
      // −1 is the head of the rows or the columns
      const column =
        head && !head.letter
          ? -1
          : letters.findIndex((l) => l.letter === target?.letter && l.block === target.block);
      const row = head && !head.zone ? -1 : rows.findIndex((r) => r.zone === target?.zone);
      const to = target ? Math.min(letters.length - 1, Math.max(-1, column + by[0])) : 0;
      const down = target ? Math.min(rows.length - 1, Math.max(-1, row + by[1])) : 0;
      const place: ChartTarget = {
        ...(to < 0 ? {} : { block: letters[to].block, letter: letters[to].letter }),
        ...(down < 0 ? {} : { zone: rows[down].zone }),
      };
      if (to >= 0) columns.scrollToIndex(to, { align: 'auto' });
      if (to >= 0 && down >= 0) {
        setHead(null);
        choose({ face: place as ChosenFace });
      } else setHead(place);
    } else if (target && (event.key === 'Delete' || event.key === 'Backspace')) dressFaces(target, null);
    else if (target && event.key === 'Enter' && laid) dressFaces(target, laid);
    else return;
    event.stopPropagation();
  };
  /** The place the keyboard is at, when it is drawn. */
  const active = head ?? face;
  const isActive = (target: ChartTarget) => head !== null && placeId(head) === placeId(target);

  const across = columns.getVirtualItems();
  const isDrawn = (target: ChartTarget | null): target is ChartTarget =>
    target !== null &&
    (target.letter === undefined ||
      across.some(
        ({ index }) => letters[index].letter === target.letter && letters[index].block === target.block,
      )) &&
    (target.zone === undefined || rows.some((r) => r.zone === target.zone));
  /** A place of a row at a column. */
  const place = (start: number) => ({ left: start, width: size - 4 });
  return (
    <div className="relative h-full">
      {/* beside the grid, whose keys are its own */}
      <div className="absolute top-1.5 left-4 z-30 w-30">
        <ChartTools shown={shown} onShown={setShown} letters={all} />
      </div>
      <div ref={box} className="h-full overflow-x-auto overflow-y-hidden">
        <div
          role="grid"
          aria-label="Finish chart: letters across, zones down. Arrow keys move over cells and on to rows, columns and all faces; Delete clears, Enter lays the finish last chosen in the rack."
          aria-colcount={letters.length}
          aria-activedescendant={isDrawn(active) ? placeId(active) : undefined}
          tabIndex={0}
          className="flex h-full flex-col gap-0.5 py-1.5 outline-offset-[-2px]"
          style={{ width: columns.getTotalSize() }}
          onKeyDown={onKeyDown}
        >
          <div ref={heads} role="row" className="relative flex min-h-0 flex-1">
            <div
              ref={corner.setNodeRef}
              role="columnheader"
              id={placeId({})}
              data-drop="corner"
              className={`quiet sticky left-0 z-20 flex w-36 shrink-0 items-end bg-base-100 pb-1 pl-4 text-xs ${corner.isOver ? 'outline-2 outline-base-content' : isActive({}) ? 'outline-2 outline-primary' : ''}`}
            >
              all faces
            </div>
            {across.map(({ index, start }) => (
              <div key={index} className="absolute h-full" style={place(start)}>
                <Head
                  column={index + 1}
                  letter={letters[index]}
                  count={counts[index]}
                  chosen={letters[index].letter === face?.letter}
                  active={isActive({ block: letters[index].block, letter: letters[index].letter })}
                  width={width}
                  height={height}
                  scale={scale}
                  dim={dimmed[index]}
                  onPress={onPress}
                />
              </div>
            ))}
          </div>
          {rows.map(({ zone, worn }) => {
            const rowNames = [...new Set(worn)]
              .flatMap((f) => (f ? [byId.get(f)?.name ?? ''] : []))
              .join(', ');
            return (
              <div key={zone} role="row" className="relative flex h-[15px] shrink-0">
                <RowHead
                  zone={zone}
                  names={rowNames}
                  chosen={zone === face?.zone}
                  active={isActive({ zone })}
                />
                {across.map(({ index, start }) => {
                  const letter = letters[index];
                  const finish = worn[index];
                  return (
                    <div key={index} className="absolute h-full" style={place(start)}>
                      {finish === undefined ? (
                        <div role="gridcell" aria-colindex={index + 1} aria-label="no such face" />
                      ) : (
                        <Cell
                          column={index + 1}
                          letter={letter}
                          zone={zone}
                          finish={finish ? (byId.get(finish) ?? null) : null}
                          swatch={(finish && known.get(finish)?.swatch) || 'var(--line)'}
                          chosen={
                            face?.letter === letter.letter &&
                            face.zone === zone &&
                            face.block === letter.block
                          }
                          dim={!standsOut(finish)}
                          onPress={onPress}
                        />
                      )}
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
