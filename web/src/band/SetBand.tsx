/** The spaced letters: drag one to kern it; along tubes, drag to paint a stretch out. */
import { pointer } from 'd3';
import { useMemo, useRef, useState } from 'react';
import type { TubeFacts } from '@wemlox/core/src/type/tube.ts';
import { choose, useChoice } from '../state/choice.ts';
import { useChosenBlock } from '../state/chosen.ts';
import { clearPaint, paintTube, setKern } from '../state/typeActions.ts';
import { useView } from '../stage/view.ts';
import type { BandLetter } from '../workers/messages.ts';
import { pathOf } from './glyph.ts';

const PAD = 120;
/** A press that moves less than this is a click, thousandths of an em. */
const CLICK = 6;
const DEG = 180 / Math.PI;

/** How far a contour reaches below the line. */
const depthOf = (contour: Float64Array) =>
  contour.reduce((most, v, i) => (i % 2 ? Math.max(most, -v) : most), 0);

/** Share of a stroke's length nearest to a point. */
function shareAt({ x, y }: TubeFacts['strokes'][number], px: number, py: number): number {
  const length = [0];
  for (let i = 1; i < x.length; i++)
    length.push(length[i - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]));
  const whole = length[length.length - 1] || 1;
  let best = 0;
  let least = Infinity;
  for (let i = 1; i < x.length; i++) {
    const [dx, dy] = [x[i] - x[i - 1], y[i] - y[i - 1]];
    const l2 = dx * dx + dy * dy || 1;
    const t = Math.min(1, Math.max(0, ((px - x[i - 1]) * dx + (py - y[i - 1]) * dy) / l2));
    const d = Math.hypot(px - x[i - 1] - t * dx, py - y[i - 1] - t * dy);
    if (d < least) [best, least] = [(length[i - 1] + t * Math.sqrt(l2)) / whole, d];
  }
  return best;
}

const pointsOf = (x: number[], y: number[]) =>
  x.map((v, i) => `${v.toFixed(1)},${(-y[i]).toFixed(1)}`).join(' ');

/** A letter's tubes: their lines, painted stretches and tight bends. */
function Tubes({ letter, blockId, width }: { letter: BandLetter; blockId: string; width: number }) {
  const block = useChosenBlock();
  const press = useRef<{ stroke: number; from: number } | null>(null);
  const [preview, setPreview] = useState<{ stroke: number; from: number; to: number } | null>(null);
  const tube = letter.tube!;
  const at = (event: React.PointerEvent, stroke: number) => {
    const [px, py] = pointer(event.nativeEvent, (event.currentTarget as Element).parentElement);
    return shareAt(tube.strokes[stroke], px, -py);
  };
  const stretch = (stroke: number, from: number, to: number) => {
    const { x, y } = tube.strokes[stroke];
    const n = x.length - 1;
    const [a, b] = [Math.floor(Math.min(from, to) * n), Math.ceil(Math.max(from, to) * n)];
    return pointsOf(x.slice(a, b + 1), y.slice(a, b + 1));
  };
  const painted = [
    ...(block?.tube.paintOuts.filter((p) => p.letter === letter.letter && tube.strokes[p.stroke]) ?? []),
    ...(preview ? [preview] : []),
  ];
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      {tube.strokes.map((stroke, i) => (
        <polyline
          key={i}
          points={pointsOf(stroke.x, stroke.y)}
          stroke="var(--color-base-content)"
          strokeWidth={width}
          className="cursor-crosshair"
          data-stroke={`${letter.letter}/${i}`}
          onPointerDown={(e) => {
            e.stopPropagation();
            e.currentTarget.setPointerCapture(e.pointerId);
            press.current = { stroke: i, from: at(e, i) };
          }}
          onPointerMove={(e) => {
            if (press.current) setPreview({ ...press.current, to: at(e, i) });
          }}
          onPointerUp={(e) => {
            const start = press.current;
            press.current = null;
            setPreview(null);
            if (!start) return;
            const to = at(e, i);
            if (Math.abs(to - start.from) * stroke.length < CLICK) clearPaint(blockId, letter.letter, i, to);
            else paintTube(blockId, letter.letter, i, start.from, to);
          }}
        />
      ))}
      {painted.map((p, i) => (
        <polyline
          key={`p${i}`}
          points={stretch(p.stroke, p.from, p.to)}
          stroke="var(--color-base-300)"
          strokeWidth={width * 0.62}
          pointerEvents="none"
        />
      ))}
      {tube.bends.map((b, i) => (
        <circle
          key={`b${i}`}
          cx={b.x}
          cy={-b.y}
          r={width * 0.9 + 8}
          stroke="var(--color-warning)"
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
          pointerEvents="none"
        />
      ))}
    </g>
  );
}

export function SetBand() {
  const block = useChosenBlock();
  const shaped = useView((v) => v.blocks.find((b) => b.block === block?.id));
  const face = useChoice((c) => c.face);
  const press = useRef<{ letter: BandLetter; at: number; kern: number; moved: boolean } | null>(null);
  const drawn = useMemo(() => {
    if (!shaped?.bounds) return null;
    const [x0, y0, x1, y1] = shaped.bounds.map((v) => v / shaped.scale);
    return {
      box: `${x0 - PAD} ${-y1 - PAD} ${x1 - x0 + 2 * PAD} ${y1 - y0 + 2 * PAD}`,
      paths: shaped.letters.map(pathOf),
      descents: shaped.letters.map((l) => Math.max(0, ...l.outline.map(depthOf))),
    };
  }, [shaped]);
  if (!block || !shaped || !drawn)
    return <p className="quiet p-4">Type a word, or add a drawing: its letters stand here.</p>;
  const kerns = new Map(block.kerns.map((k) => [k.letter, k.by]));
  const touching = new Set(block.weld ? [] : shaped.touches.flat());
  const canKern = !block.drawing && block.form !== 'tube';
  const tubeWidth = block.tube.diameter / shaped.scale;
  const choice = (letter: BandLetter) =>
    choose({
      face: {
        block: letter.block,
        letter: letter.letter,
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
      onPointerMove={(e) => {
        const held = press.current;
        if (!held) return;
        const by = pointer(e.nativeEvent, e.currentTarget)[0] - held.at;
        if (!held.moved && Math.abs(by) < CLICK) return;
        held.moved = true;
        if (canKern) setKern(block.id, held.letter.letter, held.kern + by);
      }}
      onPointerUp={() => {
        press.current = null;
      }}
      onPointerLeave={() => {
        press.current = null;
      }}
    >
      {shaped.letters.map((letter, i) => {
        const chosen = face?.letter === letter.letter && face.block === letter.block;
        const kern = kerns.get(letter.letter) ?? 0;
        return (
          <g
            key={`${letter.letter}-${i}`}
            transform={`translate(${letter.x} ${-letter.y}) rotate(${-letter.turn * DEG})`}
            role="button"
            tabIndex={0}
            aria-label={`${letter.missing ? `${letter.text}, missing in the font` : letter.text}${touching.has(i) ? ', touches another letter' : ''}`}
            aria-pressed={chosen}
            data-letter={letter.letter}
            className={canKern ? 'cursor-ew-resize' : 'cursor-pointer'}
            onPointerDown={(e) => {
              press.current = {
                letter,
                at: pointer(e.nativeEvent, e.currentTarget.ownerSVGElement)[0],
                kern,
                moved: false,
              };
              choice(letter);
            }}
            onKeyDown={(e) => {
              if (e.key === 'Enter') choice(letter);
              const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
              if (by === undefined || !canKern) return;
              e.preventDefault();
              e.stopPropagation();
              setKern(block.id, letter.letter, kern + by * (e.shiftKey ? 10 : 1));
            }}
          >
            {!block.drawing && letter.advance > 0 && (
              <>
                {[0, letter.advance].map((x) => (
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
              </>
            )}
            <path
              d={drawn.paths[i]}
              fillRule="evenodd"
              fillOpacity={letter.tube ? 0.28 : 1}
              stroke={touching.has(i) ? 'var(--color-warning)' : 'none'}
              strokeWidth={2}
              vectorEffect="non-scaling-stroke"
              fill={
                letter.missing
                  ? 'var(--color-warning)'
                  : chosen
                    ? 'var(--color-primary)'
                    : 'var(--color-base-content)'
              }
            />
            {letter.tube && <Tubes letter={letter} blockId={block.id} width={tubeWidth} />}
            {!block.drawing && letter.advance > 0 && (
              <text
                x={letter.advance / 2}
                y={drawn.descents[i] + 88}
                textAnchor="middle"
                fontSize={54}
                fill="var(--quiet)"
                pointerEvents="none"
              >
                {Math.round(letter.advance)}
              </text>
            )}
            {kern !== 0 && (
              <text
                y={-800}
                textAnchor="middle"
                fontSize={54}
                fill="var(--color-base-content)"
                pointerEvents="none"
              >
                {kern > 0 ? `+${kern}` : kern}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
