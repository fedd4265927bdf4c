/**
 * Where lights and panels stand, seen from above: the camera's side below, straight up in the middle. Shift chooses
 * more lights, that move together.
 */
import { useMemo, useRef } from 'react';
import { toHex } from '@wemlox/core/maths/colour';
import { bearingOf, frameOf, hueOf, lightColour } from '@wemlox/core/light/placing';
import { inPicture, intoPicture } from '@wemlox/core/light/surround';
import { moveLight, moveLights, movePanel } from '@wemlox/core/edits';
import { currentLook } from '../../actions/document.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { useLook } from '../../state/chosen.ts';
import { numberText } from '../../state/language.ts';
import { perform } from '../../state/studio.ts';
import { useShot } from '../../state/time.ts';
import { join, useTogether } from '../../state/together.ts';

import { LABEL_SIZE, labelsOf, shortName } from './domeLabels.ts';
import { marksOf, type DomeMark } from './domeMarks.ts';
import {
  DOME_RADIUS as RADIUS,
  DOME_SIZE as SIZE,
  nearestFromMap,
  onMap,
  type Bearing,
} from './domePlane.ts';
import { DomeSights } from './DomeSights.tsx';

const DEG = Math.PI / 180;
const STEP = 2 * DEG;
/** Of more lights than these only the chosen one is named on the map; the others when pointed at. */
const MOST_NAMED = 14;

function hueOfMark({ of }: DomeMark): string {
  const colour = 'light' in of ? lightColour({ ...of.light, strength: 1 }) : hueOf(of.panel);
  const peak = Math.max(...colour, 1e-6);
  return toHex(colour.map((v) => v / peak));
}

/** What the chosen mark is told of, in words. */
function inWords({ azimuth, elevation, distance, radius, behind }: DomeMark): string {
  const side = `${Math.abs(azimuth / DEG).toFixed(0)}° ${azimuth < 0 ? 'left' : 'right'}`;
  const far =
    distance === null
      ? ''
      : `, ${numberText(distance, 2)} m away, ${numberText(distance * Math.sin(elevation), 2)} m up`;
  const wide =
    radius > 0
      ? `, ${(2 * radius) / DEG < 10 ? numberText((2 * radius) / DEG, 1) : ((2 * radius) / DEG).toFixed(0)}° wide`
      : '';
  return `${(elevation / DEG).toFixed(0)}° up, ${side}${far}${wide}${behind ? `, behind ${behind}` : ''}`;
}

export function DomeMap() {
  const look = useLook();
  const marks = useMemo(() => marksOf(look), [look]);
  const chosen = useChoice((c) => c.light ?? c.panel);
  const { camera } = useShot();
  const svg = useRef<SVGSVGElement>(null);
  const others = useTogether((t) => t.others);
  const mark = marks.find((m) => m.id === chosen);
  const together = marks.filter((m) => 'light' in m.of && (m.id === chosen || others.includes(m.id)));
  const pointed = (event: React.PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = SIZE / box.width;
    return nearestFromMap((event.clientX - box.left) * scale, (event.clientY - box.top) * scale);
  };
  /** Moves a mark to a place of the dome; lights chosen with it go along. */
  const move = (m: DomeMark, to: Bearing) => {
    if ('panel' in m.of) {
      const place = bearingOf(inPicture(intoPicture(look.surround), ...frameOf(to).away));
      perform((p) => movePanel(p, currentLook(p).id, m.id, place));
    } else if (together.length > 1) {
      const by = { azimuth: to.azimuth - m.azimuth, elevation: to.elevation - m.elevation };
      const ids = together.map((o) => o.id);
      perform((p) => moveLights(p, currentLook(p).id, ids, by));
    } else perform((p) => moveLight(p, currentLook(p).id, m.id, to));
  };
  const take = (m: DomeMark, event: React.PointerEvent) => {
    if ('panel' in m.of) choose({ panel: m.id, light: null });
    else if (event.shiftKey && m.id !== chosen) {
      join(m.id);
      return;
    } else choose({ light: m.id });
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const drag = (m: DomeMark, event: React.PointerEvent) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    move(m, pointed(event));
  };
  const [ex, ey] = onMap({ azimuth: camera.azimuth, elevation: 0 });
  const places = marks.map((m) => {
    const [x, y] = onMap(m);
    return { x, y, name: shortName(m.name) };
  });
  const labels = labelsOf(places, SIZE);
  return (
    <figure>
      <figcaption className="quiet flex justify-between text-xs">
        <span className="whitespace-nowrap">From above</span>
        <span className="min-w-0 truncate pl-2" title={mark && inWords(mark)}>
          {together.length > 1 ? `${together.length} lights move together` : mark && inWords(mark)}
        </span>
      </figcaption>
      <svg
        ref={svg}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        className="mx-auto w-full max-w-64 touch-none"
        data-testid="dome"
      >
        <DomeSights />
        {[0, 30, 60].map((e) => (
          <circle
            key={e}
            cx={SIZE / 2}
            cy={SIZE / 2}
            r={RADIUS * (1 - e / 90)}
            fill="none"
            stroke="var(--line)"
          />
        ))}
        {[0, 45, 90, 135].map((a) => (
          <line
            key={a}
            x1={SIZE / 2 - RADIUS * Math.sin(a * DEG)}
            y1={SIZE / 2 - RADIUS * Math.cos(a * DEG)}
            x2={SIZE / 2 + RADIUS * Math.sin(a * DEG)}
            y2={SIZE / 2 + RADIUS * Math.cos(a * DEG)}
            stroke="var(--line)"
          />
        ))}
        {[30, 60].map((e) => (
          <text
            key={e}
            x={SIZE / 2 + 3}
            y={SIZE / 2 - RADIUS * (1 - e / 90) + 9}
            fontSize={8}
            fill="var(--quiet)"
          >
            {e}°
          </text>
        ))}
        <text
          x={SIZE / 2}
          y={SIZE / 2 + 3}
          fontSize={8}
          textAnchor="middle"
          letterSpacing={1}
          fill="var(--color-base-content)"
        >
          TYPE
        </text>
        <path
          d={`M${ex} ${ey} l8 8 h-16 z`}
          transform={`rotate(${-camera.azimuth / DEG} ${ex} ${ey})`}
          fill="none"
          stroke="var(--quiet)"
        >
          <title>camera</title>
        </path>
        {marks.map((m, i) => {
          const { x, y, name } = places[i];
          const label = labels[i];
          const isChosen = m.id === chosen || others.includes(m.id);
          const outline = isChosen ? 'var(--color-primary)' : 'none';
          const fill = hueOfMark(m);
          return (
            <g
              key={m.id}
              role="button"
              tabIndex={0}
              aria-label={`${m.name}: drag or use arrow keys to move`}
              aria-pressed={isChosen}
              className="cursor-move"
              opacity={m.on ? 1 : 0.35}
              onPointerDown={(e) => take(m, e)}
              onPointerMove={(e) => drag(m, e)}
              onKeyDown={(e) => {
                if (e.key === 'Enter' || e.key === ' ') {
                  e.preventDefault();
                  if ('panel' in m.of) choose({ panel: m.id, light: null });
                  else if (e.shiftKey && m.id !== chosen) join(m.id);
                  else choose({ light: m.id });
                  return;
                }
                const by = {
                  ArrowLeft: [-STEP, 0],
                  ArrowRight: [STEP, 0],
                  ArrowUp: [0, STEP],
                  ArrowDown: [0, -STEP],
                }[e.key];
                if (!by) return;
                e.preventDefault();
                move(m, { azimuth: m.azimuth + by[0], elevation: m.elevation + by[1] });
              }}
            >
              <line x1={SIZE / 2} y1={SIZE / 2} x2={x} y2={y} stroke="var(--line)" pointerEvents="none" />
              {m.radius > 0 && (
                <circle
                  cx={x}
                  cy={y}
                  r={Math.min(RADIUS, (RADIUS * m.radius) / (Math.PI / 2))}
                  fill={fill}
                  fillOpacity={0.16}
                  pointerEvents="none"
                />
              )}
              {'panel' in m.of ? (
                <rect
                  x={x - 5}
                  y={y - 5}
                  width={10}
                  height={10}
                  fill={fill}
                  stroke={outline}
                  strokeWidth={2}
                />
              ) : (
                <circle
                  className="mark"
                  cx={x}
                  cy={y}
                  r={m.id === chosen ? 8 : 6}
                  fill={fill}
                  stroke={outline === 'none' && m.behind ? 'var(--quiet)' : outline}
                  strokeDasharray={m.behind ? '3 2' : undefined}
                  strokeWidth={2}
                />
              )}
              <title>{`${m.name}: ${inWords(m)}`}</title>
              {(marks.length <= MOST_NAMED || m.id === chosen) && (
                <text
                  x={label.x}
                  y={label.y}
                  textAnchor={label.anchor}
                  fontSize={LABEL_SIZE}
                  fill="var(--color-base-content)"
                >
                  {name}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
