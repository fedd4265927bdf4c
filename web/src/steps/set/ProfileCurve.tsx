/** The free profile, drawn and draggable: outline at the left, face at the right. */
import { drag, line, pointer, scaleLinear, select } from 'd3';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { ProfilePoint } from '@wemlox/core/document';
import { profilePoints } from '@wemlox/core/solid/profile';
import { NumberRow, SwitchRow } from '../../desk/rows.tsx';

const WIDTH = 300;
const HEIGHT = 150;
const PAD = 12;
const MOST_POINTS = 32;

const x = scaleLinear()
  .domain([0, 1])
  .range([PAD, WIDTH - PAD]);
const y = scaleLinear()
  .domain([0, 1])
  .range([HEIGHT - PAD, PAD]);
const path = line<[number, number]>()
  .x((p) => x(p[0]))
  .y((p) => y(p[1]));

const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));

/** A point moved within its neighbours; the ends keep their place across, the first its foot. */
function moved(points: readonly ProfilePoint[], i: number, change: Partial<ProfilePoint>): ProfilePoint[] {
  const last = points.length - 1;
  return points.map((p, k) => {
    if (k !== i) return p;
    const wanted = { ...p, ...change };
    return {
      ...wanted,
      across: k === 0 ? 0 : k === last ? 1 : clamp(wanted.across, points[k - 1].across, points[k + 1].across),
      up: k === 0 ? 0 : clamp(wanted.up, 0, 1),
    };
  });
}

export function ProfileCurve({
  points,
  onChange,
}: {
  points: ProfilePoint[];
  onChange: (points: ProfilePoint[]) => void;
}) {
  const [chosen, setChosen] = useState(1);
  const svg = useRef<SVGSVGElement>(null);
  const latest = useRef({ points, onChange });
  latest.current = { points, onChange };
  const drawn = useMemo(() => path(profilePoints({ profile: 'free', points }, 24)) ?? '', [points]);
  const at = Math.min(chosen, points.length - 1);
  const point = points[at];
  const last = points.length - 1;

  useEffect(() => {
    const dots = select(svg.current!).selectAll<SVGCircleElement, unknown>('circle');
    dots.call(
      drag<SVGCircleElement, unknown>().on('drag', function (event) {
        const i = Number(this.dataset.point);
        const [px, py] = pointer(event, svg.current!);
        const { points: now, onChange: change } = latest.current;
        change(moved(now, i, { across: x.invert(px), up: y.invert(py) }));
      }),
    );
  }, [points.length]);

  const add = (event: React.MouseEvent) => {
    if (points.length >= MOST_POINTS || event.target instanceof SVGCircleElement) return;
    const [px, py] = pointer(event.nativeEvent, svg.current!);
    const [across, up] = [clamp(x.invert(px), 0, 1), clamp(y.invert(py), 0, 1)];
    const i = points.findIndex((p) => p.across > across);
    if (i < 1) return;
    onChange([...points.slice(0, i), { across, up, smooth: true }, ...points.slice(i)]);
    setChosen(i);
  };
  const remove = (i: number) => {
    if (i > 0 && i < last) onChange(points.filter((_, k) => k !== i));
  };

  return (
    <div className="py-1">
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full touch-none rounded-xs bg-base-200"
        role="group"
        aria-label="Profile curve. Double click adds a point, Delete removes the chosen one."
        data-testid="profile-curve"
        onDoubleClick={add}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((v) => (
          <g key={v} stroke="var(--line)">
            <line x1={x(v)} x2={x(v)} y1={y(0)} y2={y(1)} />
            <line x1={x(0)} x2={x(1)} y1={y(v)} y2={y(v)} />
          </g>
        ))}
        <path d={drawn} fill="none" stroke="var(--color-base-content)" strokeWidth={1.6} />
        {points.map((p, i) => (
          <circle
            key={i}
            data-point={i}
            cx={x(p.across)}
            cy={y(p.up)}
            r={i === at ? 6 : 5}
            tabIndex={0}
            role="button"
            aria-label={`Point ${i + 1}, ${p.smooth ? 'smooth' : 'corner'}`}
            aria-pressed={i === at}
            className="cursor-grab"
            fill={i === at ? 'var(--color-primary)' : 'var(--color-base-100)'}
            stroke={i === at ? 'var(--color-primary)' : 'var(--color-base-content)'}
            strokeWidth={1.5}
            onPointerDown={() => setChosen(i)}
            onFocus={() => setChosen(i)}
            onKeyDown={(e) => {
              const step = e.shiftKey ? 0.1 : 0.01;
              const by = {
                ArrowLeft: [-step, 0],
                ArrowRight: [step, 0],
                ArrowUp: [0, step],
                ArrowDown: [0, -step],
              }[e.key];
              if (by) {
                e.preventDefault();
                e.stopPropagation();
                onChange(moved(points, i, { across: p.across + by[0], up: p.up + by[1] }));
              }
              if (e.key === 'Delete' || e.key === 'Backspace') remove(i);
            }}
          />
        ))}
      </svg>
      <NumberRow
        label="Across"
        unit="%"
        factor={100}
        min={0}
        max={100}
        step={0.5}
        disabled={at === 0 || at === last}
        value={point.across}
        initial={0.5}
        hint="Moves the chosen point across the bevel"
        onChange={(across) => onChange(moved(points, at, { across }))}
      />
      <NumberRow
        label="Up"
        unit="%"
        factor={100}
        min={0}
        max={100}
        step={0.5}
        disabled={at === 0}
        value={point.up}
        initial={0.5}
        hint="Moves the chosen point up the bevel"
        onChange={(up) => onChange(moved(points, at, { up }))}
      />
      {at > 0 && at < last && (
        <SwitchRow
          label="Smooth point"
          value={point.smooth}
          onChange={(smooth) => onChange(moved(points, at, { smooth }))}
        />
      )}
    </div>
  );
}
