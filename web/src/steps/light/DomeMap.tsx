/** Where the lights stand, seen from above: the camera's side below, straight up in the middle. */
import { useRef } from 'react';
import type { Light } from '@wemlox/core/document';
import { toHex } from '@wemlox/core/maths/colour';
import { lightColour, standingOf } from '@wemlox/core/light/placing';
import { moveLight } from '@wemlox/core/edits';
import { currentLook } from '../../actions/document.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { useLook } from '../../state/chosen.ts';
import { perform, shotOf, useStudio } from '../../state/studio.ts';

import { LABEL_SIZE, labelsOf, shortName } from './domeLabels.ts';

const SIZE = 232;
const RADIUS = 92;
const DEG = Math.PI / 180;
const STEP = 2 * DEG;
/** Of more lights than these only the chosen one is named on the map; the others when pointed at. */
const MOST_NAMED = 14;

/** Dome to map: elevation 90° is the middle, 0° the ring, below the horizon outside it. */
function onMap(azimuth: number, elevation: number): [number, number] {
  const r = RADIUS * Math.min(1.15, 1 - elevation / (Math.PI / 2));
  return [SIZE / 2 + r * Math.sin(azimuth), SIZE / 2 + r * Math.cos(azimuth)];
}

function fromMap(x: number, y: number): { azimuth: number; elevation: number } {
  const [dx, dy] = [x - SIZE / 2, y - SIZE / 2];
  const r = Math.min(1.15, Math.hypot(dx, dy) / RADIUS);
  return { azimuth: Math.atan2(dx, dy), elevation: (1 - r) * (Math.PI / 2) };
}

function hue(light: Light): string {
  const colour = lightColour({ ...light, strength: 1 });
  const peak = Math.max(...colour, 1e-6);
  return toHex(colour.map((v) => v / peak));
}

export function DomeMap() {
  // what comes from all around stands nowhere
  const rig = useLook()
    .rig.filter((l) => l.kind !== 'ambient')
    .map((l) => ({ ...l, ...standingOf(l) }));
  const chosen = useChoice((c) => c.light);
  const camera = useStudio((s) => shotOf(s.project).camera);
  const svg = useRef<SVGSVGElement>(null);
  const light = rig.find((l) => l.id === chosen);
  const move = (id: string, event: React.PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = SIZE / box.width;
    const place = fromMap((event.clientX - box.left) * scale, (event.clientY - box.top) * scale);
    perform((p) => moveLight(p, currentLook(p).id, id, place));
  };
  const [ex, ey] = onMap(camera.azimuth, 0);
  const marks = rig.map((l) => {
    const [x, y] = onMap(l.azimuth, l.elevation);
    return { x, y, name: shortName(l.name) };
  });
  const labels = labelsOf(marks, SIZE);
  return (
    <figure>
      <figcaption className="quiet flex justify-between text-xs">
        <span>Where the lights stand, from above</span>
        <span>
          {light &&
            `${(light.elevation / DEG).toFixed(0)}° up, ${Math.abs(light.azimuth / DEG).toFixed(0)}° ${light.azimuth < 0 ? 'left' : 'right'}`}
        </span>
      </figcaption>
      <svg
        ref={svg}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        className="mx-auto w-full max-w-64 touch-none"
        data-testid="dome"
      >
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
        {rig.map((l, i) => {
          const { x, y, name } = marks[i];
          const label = labels[i];
          return (
            <g
              key={l.id}
              role="button"
              tabIndex={0}
              aria-label={`${l.name}: drag or use arrow keys to move`}
              className="cursor-move"
              opacity={l.on ? 1 : 0.35}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                choose({ light: l.id });
              }}
              onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && move(l.id, e)}
              onKeyDown={(e) => {
                const by = {
                  ArrowLeft: [-STEP, 0],
                  ArrowRight: [STEP, 0],
                  ArrowUp: [0, STEP],
                  ArrowDown: [0, -STEP],
                }[e.key];
                if (!by) return;
                e.preventDefault();
                const place = { azimuth: l.azimuth + by[0], elevation: l.elevation + by[1] };
                perform((p) => moveLight(p, currentLook(p).id, l.id, place));
              }}
            >
              <line x1={SIZE / 2} y1={SIZE / 2} x2={x} y2={y} stroke="var(--line)" />
              <circle
                cx={x}
                cy={y}
                r={l.id === chosen ? 8 : 6}
                fill={hue(l)}
                stroke={l.id === chosen ? 'var(--color-primary)' : 'none'}
                strokeWidth={2}
              />
              <title>{l.name}</title>
              {(rig.length <= MOST_NAMED || l.id === chosen) && (
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
