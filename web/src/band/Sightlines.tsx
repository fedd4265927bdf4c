/** Where faces look, drawn over the unwrapped surround: contours of what each row of faces mirrors into the camera. */
import { contours, geoPath } from 'd3';
import { useMemo } from 'react';
import { SIGHT_ACROSS, SIGHT_DOWN } from '@wemlox/core/light/sights';
import { useRowHover } from '../state/light.ts';
import { SIGHT_LEVELS, useSightRows } from './sightRows.ts';
import { fronted } from './unwrapping.ts';

const path = geoPath();

export function Sightlines() {
  const rows = useSightRows();
  const hovered = useRowHover((h) => h.row);
  const drawn = useMemo(
    () =>
      rows.map((row) => {
        const map = fronted(row.map, SIGHT_ACROSS, SIGHT_DOWN);
        const lines = contours()
          .size([SIGHT_ACROSS, SIGHT_DOWN])
          .thresholds(SIGHT_LEVELS)(map)
          .map((c) => path(c) ?? '');
        const peak = map.reduce((most, v, k) => (v > map[most] ? k : most), 0);
        return { ...row, lines, at: { x: peak % SIGHT_ACROSS, y: Math.floor(peak / SIGHT_ACROSS) } };
      }),
    [rows],
  );
  return (
    <svg
      viewBox={`0 0 ${SIGHT_ACROSS} ${SIGHT_DOWN}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`Sightlines: ${drawn.map((d) => d.name).join(', ')}`}
      data-testid="sightlines"
      className="absolute inset-0 h-full w-full"
    >
      {drawn.map(({ key, name, lines, at, colour, named }) => (
        <g
          key={key}
          opacity={hovered === null || hovered === key ? 1 : 0.15}
          onPointerEnter={() => useRowHover.setState({ row: key })}
          onPointerLeave={() => useRowHover.setState({ row: null })}
        >
          {lines.map((d, i) => (
            <path
              key={i}
              d={d}
              fill={colour}
              fillOpacity={0.07}
              stroke={colour}
              strokeWidth={hovered === key ? 1.6 : 1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <title>{name} looks here</title>
          {(hovered === key || (hovered === null && named)) && (
            <text
              x={Math.min(SIGHT_ACROSS - 12, Math.max(1, at.x - 3))}
              y={Math.max(4, at.y - 2)}
              fontSize={3.2}
              fill={colour}
              stroke="#000"
              strokeWidth={0.7}
              paintOrder="stroke"
            >
              {name}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}
