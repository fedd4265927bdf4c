/** The spaced letters, with the width each takes up. */
import { useMemo } from 'react';
import { choose, useChoice } from '../state/choice.ts';
import { useChosenBlock } from '../state/chosen.ts';
import { useView } from '../stage/view.ts';
import { pathOf } from './glyph.ts';

const PAD = 120;

/** How far a contour reaches below the line. */
const depthOf = (contour: Float64Array) =>
  contour.reduce((most, v, i) => (i % 2 ? Math.max(most, -v) : most), 0);

export function SetBand() {
  const block = useChosenBlock();
  const shaped = useView((v) => v.blocks.find((b) => b.block === block?.id));
  const face = useChoice((c) => c.face);
  const drawn = useMemo(() => {
    if (!shaped?.bounds) return null;
    const [x0, y0, x1, y1] = shaped.bounds.map((v) => v / shaped.scale);
    return {
      box: `${x0 - PAD} ${-y1 - PAD} ${x1 - x0 + 2 * PAD} ${y1 - y0 + 2 * PAD}`,
      top: -y1,
      bottom: -y0,
      paths: shaped.letters.map(pathOf),
      descents: shaped.letters.map((l) => Math.max(0, ...l.outline.map(depthOf))),
    };
  }, [shaped]);
  if (!shaped || !drawn) return <p className="quiet p-4">Type a word: its letters stand here.</p>;
  return (
    <svg viewBox={drawn.box} className="h-full w-full" role="group" aria-label="Letters of the block">
      {shaped.letters.map((letter, i) => {
        const chosen = face?.letter === letter.letter && face.block === letter.block;
        return (
          <g
            key={`${letter.letter}-${i}`}
            transform={`translate(${letter.x} ${-letter.y})`}
            role="button"
            tabIndex={0}
            aria-label={letter.missing ? `${letter.text}, missing in the font` : letter.text}
            aria-pressed={chosen}
            className="cursor-pointer"
            onClick={() =>
              choose({
                face: { block: letter.block, letter: letter.letter, zone: face?.zone ?? 'front' },
                finish: null,
              })
            }
            onKeyDown={(e) =>
              e.key === 'Enter' && e.currentTarget.dispatchEvent(new MouseEvent('click', { bubbles: true }))
            }
          >
            <line
              x1={0}
              x2={0}
              y1={-780}
              y2={40}
              stroke="var(--line)"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
            <line
              x1={letter.advance}
              x2={letter.advance}
              y1={-780}
              y2={40}
              stroke="var(--line)"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
            <path
              d={drawn.paths[i]}
              fillRule="evenodd"
              fill={
                letter.missing
                  ? 'var(--color-warning)'
                  : chosen
                    ? 'var(--color-primary)'
                    : 'var(--color-base-content)'
              }
            />
            <text
              x={letter.advance / 2}
              y={drawn.descents[i] + 88}
              textAnchor="middle"
              fontSize={54}
              fill="var(--quiet)"
            >
              {Math.round(letter.advance)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
