/**
 * What a light without a size gives at each distance. Its dot stands at what it aims at: dragged across it moves the
 * light, dragged up it is stronger; a second one, on the knee of a clamped light, says where it grows no brighter.
 */
import { line, scaleLog } from 'd3';
import { useMemo, useRef } from 'react';
import type { LightOf } from '@wemlox/core/document';
import { standingOf } from '@wemlox/core/light/placing';
import { set } from '../../actions/document.ts';
import { useLook } from '../../state/chosen.ts';
import { numberText } from '../../state/language.ts';

const WIDTH = 292;
const HEIGHT = 96;
const PAD = { left: 8, right: 8, top: 8, bottom: 16 };
/** Metres across, and decades of light upwards about the light's own. */
const REACH = [0.05, 20] as const;
const DECADES = 2.5;
const STEPS = 96;

/** Share of its intensity that a light gives at a distance, one over square metres. */
function fading({ fall, near }: LightOf<'spot'> | LightOf<'point'>, aimed: number, d: number): number {
  if (fall === 'linear') return 1 / (aimed * d);
  if (fall === 'none') return 1 / (aimed * aimed);
  return 1 / (fall === 'clamped' ? Math.max(d, near) : d) ** 2;
}

const inShort = (v: number) => (v >= 100 ? numberText(v, 0) : Number(v.toPrecision(2)).toString());

export function FallCurve({ light }: { light: LightOf<'spot'> | LightOf<'point'> }) {
  const look = useLook();
  const svg = useRef<SVGSVGElement>(null);
  /** What a drag began at: the scale must not run away under the hand. */
  const began = useRef<{ middle: number } | null>(null);
  const aimed = standingOf(light).distance;
  const lux = light.strength * fading(light, aimed, aimed);
  const middle = began.current?.middle ?? Math.max(lux, 1e-6);
  const x = useMemo(() => scaleLog([...REACH], [PAD.left, WIDTH - PAD.right]).clamp(true), []);
  const y = scaleLog([middle / 10 ** DECADES, middle * 10 ** DECADES], [HEIGHT - PAD.bottom, PAD.top]).clamp(
    true,
  );
  const at = (d: number) => light.strength * fading(light, aimed, d);
  const course = line<number>()
    .x((i) => x(REACH[0] * (REACH[1] / REACH[0]) ** (i / STEPS)))
    .y((i) => y(Math.max(1e-9, at(REACH[0] * (REACH[1] / REACH[0]) ** (i / STEPS)))))(
    Array.from({ length: STEPS + 1 }, (_, i) => i),
  )!;
  const address = `looks/${look.id}/rig/${light.id}`;
  const placeOf = (e: React.PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = WIDTH / box.width;
    return { d: x.invert((e.clientX - box.left) * scale), lux: y.invert((e.clientY - box.top) * scale) };
  };
  const drag = (e: React.PointerEvent) => {
    const to = placeOf(e);
    if (light.stands === 'around') set(`${address}/distance`, to.d);
    const d = light.stands === 'around' ? to.d : aimed;
    set(`${address}/strength`, to.lux / fading(light, d, d));
  };
  const grip = {
    onPointerDown: (e: React.PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      began.current = { middle };
    },
    onPointerUp: () => (began.current = null),
    onPointerCancel: () => (began.current = null),
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full touch-none"
      role="img"
      aria-label={`What ${light.name} gives by distance: ${inShort(lux)} lux at ${numberText(aimed, 2)} m`}
    >
      {[0.1, 1, 10].map((d) => (
        <g key={d}>
          <line x1={x(d)} x2={x(d)} y1={PAD.top} y2={HEIGHT - PAD.bottom} stroke="var(--line)" />
          <text x={x(d)} y={HEIGHT - 4} fontSize={9} textAnchor="middle" fill="var(--quiet)">
            {d} m
          </text>
        </g>
      ))}
      <path d={course} fill="none" stroke="var(--color-primary)" strokeWidth={1.5} />
      {light.fall === 'clamped' && (
        <circle
          cx={x(light.near)}
          cy={y(at(light.near))}
          r={5}
          className="cursor-ew-resize"
          fill="var(--color-base-100)"
          stroke="var(--color-primary)"
          strokeWidth={1.5}
          {...grip}
          onPointerMove={(e) =>
            e.currentTarget.hasPointerCapture(e.pointerId) && set(`${address}/near`, placeOf(e).d)
          }
        >
          <title>No brighter than here: drag</title>
        </circle>
      )}
      <circle
        cx={x(aimed)}
        cy={y(Math.max(1e-9, lux))}
        r={6}
        className="cursor-move"
        fill="var(--color-primary)"
        {...grip}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && drag(e)}
      >
        <title>Drag across to move the light, up to make it stronger</title>
      </circle>
      <text x={WIDTH - PAD.right} y={PAD.top + 8} fontSize={10} textAnchor="end" fill="var(--quiet)">
        {inShort(lux)} lx at {numberText(aimed, 2)} m
      </text>
    </svg>
  );
}
