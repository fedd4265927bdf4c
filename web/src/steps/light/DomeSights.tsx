/** Sightlines on the dome map: where each row of faces looks, from above. */
import { contours, geoPath } from 'd3';
import { useMemo } from 'react';
import { frameOf } from '@wemlox/core/light/placing';
import { SIGHT_ACROSS, SIGHT_DOWN } from '@wemlox/core/light/sights';
import { positionOf } from '@wemlox/core/light/surround';
import { SIGHT_LEVELS, useSightRows } from '../../band/sightRows.ts';
import { useRowHover } from '../../state/light.ts';
import { DOME_SIZE, fromMap } from './domePlane.ts';

/** Places of the map a density is looked up at, across and down. */
const GRID = 58;
const path = geoPath();

/** For each place of the grid the four places of a map of directions about it and their weights; none outside the dome. */
const LOOKED_UP = Array.from({ length: GRID * GRID }, (_, i): [number, number][] => {
  const place = (v: number) => ((v + 0.5) * DOME_SIZE) / GRID;
  const at = fromMap(place(i % GRID), place(Math.floor(i / GRID)));
  if (!at) return [];
  const [u, v] = positionOf(...frameOf(at).away);
  const [x, y] = [u * SIGHT_ACROSS - 0.5, v * SIGHT_DOWN - 0.5];
  const [left, upper] = [Math.floor(x), Math.floor(y)];
  return [0, 1].flatMap((dy) =>
    [0, 1].map((dx): [number, number] => {
      const row = Math.min(SIGHT_DOWN - 1, Math.max(0, upper + dy));
      const weight = (1 - Math.abs(x - left - dx)) * (1 - Math.abs(y - upper - dy));
      return [row * SIGHT_ACROSS + ((left + dx + SIGHT_ACROSS) % SIGHT_ACROSS), weight];
    }),
  );
});

export function DomeSights() {
  const rows = useSightRows();
  const hovered = useRowHover((h) => h.row);
  const drawn = useMemo(
    () =>
      rows.map((row) => ({
        ...row,
        lines: contours()
          .size([GRID, GRID])
          .thresholds(SIGHT_LEVELS)(
            LOOKED_UP.map((near) => near.reduce((sum, [k, w]) => sum + w * row.map[k], 0)),
          )
          .map((c) => path(c) ?? ''),
      })),
    [rows],
  );
  return (
    <g transform={`scale(${DOME_SIZE / GRID})`} data-testid="dome-sights">
      {drawn.map(({ key, name, colour, lines }) => (
        <g
          key={key}
          opacity={hovered === null ? 0.7 : hovered === key ? 1 : 0.1}
          onPointerEnter={() => useRowHover.setState({ row: key })}
          onPointerLeave={() => useRowHover.setState({ row: null })}
        >
          {lines.map((d, i) => (
            <path
              key={i}
              d={d}
              fill={colour}
              fillOpacity={0.05}
              stroke={colour}
              strokeWidth={hovered === key ? 1.6 : 0.8}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <title>{name} looks here</title>
        </g>
      ))}
    </g>
  );
}
