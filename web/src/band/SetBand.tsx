/** The spaced letters: drag one to kern it; along tubes, drag to paint a stretch out. */
import { pointer } from 'd3';
import { memo, useMemo, useRef } from 'react';
import type { Contour } from '@wemlox/core/plane/flatten';
import type { TubeFacts } from '@wemlox/core/solid/tube';
import { choose, useChoice } from '../state/choice.ts';
import { useChosenBlock } from '../state/chosen.ts';
import { setKern } from '../actions/blocks.ts';
import { useShaping, useShown } from '../state/shown.ts';
import { BandTubes, CLICK } from './BandTubes.tsx';
import { pathOf } from './glyph.ts';

const PAD = 120;
/** Height of the numbers, thousandths of an em, and the least they may have on the page to be drawn, pixels. */
const NUMBERS = 54;
const LEGIBLE = 2.5;
/** Room the band has, about, pixels. */
const ROOM = { width: 900, height: 196 };
const DEG = 180 / Math.PI;

/** How far an outline reaches below the line. */
const depthOf = (outline: Contour[]) =>
  Math.max(0, ...outline.map((c) => c.reduce((most, v, i) => (i % 2 ? Math.max(most, -v) : most), 0)));

interface LetterProps {
  index: number;
  id: string;
  text: string;
  missing: boolean;
  x: number;
  y: number;
  turn: number;
  advance: number;
  path: string;
  descent: number;
  tube: TubeFacts | null;
  tubeWidth: number;
  block: string;
  chosen: boolean;
  kern: number;
  touches: boolean;
  canKern: boolean;
  /** Whether lines and numbers tell its width. */
  measured: boolean;
}

const Letter = memo(function Letter(props: LetterProps) {
  const { index, id, text, missing, advance, tube, chosen, kern, touches, canKern, measured } = props;
  return (
    <g
      transform={`translate(${props.x} ${-props.y}) rotate(${-props.turn * DEG})`}
      role="button"
      tabIndex={0}
      aria-label={`${missing ? `${text}, missing in the font` : text}${touches ? ', touches another letter' : ''}`}
      aria-pressed={chosen}
      data-letter={id}
      data-index={index}
      className={canKern ? 'cursor-ew-resize' : 'cursor-pointer'}
    >
      {measured &&
        [0, advance].map((x) => (
          <line
            key={x}
            x1={x}
            x2={x}
            y1={-780}
            y2={40}
            stroke="var(--line)"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      <path
        d={props.path}
        fillRule="evenodd"
        fillOpacity={tube ? 0.28 : 1}
        stroke={touches ? 'var(--color-warning)' : 'none'}
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
        fill={
          missing ? 'var(--color-warning)' : chosen ? 'var(--color-primary)' : 'var(--color-base-content)'
        }
      />
      {tube && <BandTubes letter={id} tube={tube} blockId={props.block} width={props.tubeWidth} />}
      {measured && (
        <text
          x={advance / 2}
          y={props.descent + 88}
          textAnchor="middle"
          fontSize={NUMBERS}
          fill="var(--quiet)"
          pointerEvents="none"
        >
          {Math.round(advance)}
        </text>
      )}
      {kern !== 0 && (
        <text
          y={-800}
          textAnchor="middle"
          fontSize={NUMBERS}
          fill="var(--color-base-content)"
          pointerEvents="none"
        >
          {kern > 0 ? `+${kern}` : kern}
        </text>
      )}
    </g>
  );
});

export function SetBand() {
  const block = useChosenBlock();
  const shaped = useShown((v) => v.blocks.find((b) => b.block === block?.id));
  const face = useChoice((c) => c.face);
  const shaping = useShaping();
  const press = useRef<{ letter: string; at: number; kern: number; moved: boolean } | null>(null);
  const drawn = useMemo(() => {
    if (!shaped?.bounds) return null;
    const [x0, y0, x1, y1] = shaped.bounds.map((v) => v / shaped.scale);
    const [width, height] = [x1 - x0 + 2 * PAD, y1 - y0 + 2 * PAD];
    /** Alike letters share their outline. */
    const glyphs = new Map<Contour[], { path: string; descent: number }>();
    for (const { outline } of shaped.letters) {
      if (!glyphs.has(outline)) glyphs.set(outline, { path: pathOf(outline), descent: depthOf(outline) });
    }
    return {
      box: `${x0 - PAD} ${-y1 - PAD} ${width} ${height}`,
      legible: NUMBERS * Math.min(ROOM.width / width, ROOM.height / height) > LEGIBLE,
      glyphs,
    };
  }, [shaped]);
  if (!block || !shaped || !drawn)
    return (
      <p className="quiet p-4" role="status">
        {shaping ? 'The letters are being shaped.' : 'Type a word, or add a drawing: its letters stand here.'}
      </p>
    );
  const kerns = new Map(block.kerns.map((k) => [k.letter, k.by]));
  const touching = new Set(block.weld ? [] : shaped.touches.flat());
  const canKern = !block.drawing && block.form !== 'tube';
  const letterOf = (target: EventTarget) => {
    const index = (target as Element).closest<SVGElement>('[data-index]')?.dataset.index;
    return index === undefined ? undefined : shaped.letters[Number(index)];
  };
  const choice = (letter: string) =>
    choose({
      face: {
        block: block.id,
        letter,
        zone: face && shaped.zones.includes(face.zone) ? face.zone : shaped.zones[0],
      },
      finish: null,
    });
  return (
    <svg
      viewBox={drawn.box}
      className="h-full w-full touch-none"
      role="group"
      aria-label="Letters of the block. Drag a letter to kern it."
      data-testid="set-band"
      onPointerDown={(e) => {
        const letter = letterOf(e.target)?.letter;
        if (!letter) return;
        const at = pointer(e.nativeEvent, e.currentTarget)[0];
        press.current = { letter, at, kern: kerns.get(letter) ?? 0, moved: false };
        choice(letter);
      }}
      onPointerMove={(e) => {
        const held = press.current;
        if (!held) return;
        const by = pointer(e.nativeEvent, e.currentTarget)[0] - held.at;
        if (!held.moved && Math.abs(by) < CLICK) return;
        held.moved = true;
        if (canKern) setKern(block.id, held.letter, held.kern + by);
      }}
      onPointerUp={() => {
        press.current = null;
      }}
      onPointerLeave={() => {
        press.current = null;
      }}
      onKeyDown={(e) => {
        const letter = letterOf(e.target)?.letter;
        if (!letter) return;
        if (e.key === 'Enter') choice(letter);
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (by === undefined || !canKern) return;
        e.preventDefault();
        e.stopPropagation();
        setKern(block.id, letter, (kerns.get(letter) ?? 0) + by * (e.shiftKey ? 10 : 1));
      }}
    >
      {shaped.letters.map(({ letter, text, missing, outline, tube, x, y, turn, advance }, i) => (
        <Letter
          key={`${letter}-${i}`}
          index={i}
          id={letter}
          block={block.id}
          chosen={face?.letter === letter && face.block === block.id}
          kern={kerns.get(letter) ?? 0}
          touches={touching.has(i)}
          canKern={canKern}
          measured={drawn.legible && !block.drawing && advance > 0}
          tubeWidth={block.tube.diameter / shaped.scale}
          {...{ text, missing, tube, x, y, turn, advance }}
          {...drawn.glyphs.get(outline)!}
        />
      ))}
    </svg>
  );
}
