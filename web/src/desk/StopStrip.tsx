/** Stops along an axis, of a feed or a ramp of light: drawn as they mix, dragged, added and removed. */
import { drag, line, pointer, scaleLinear, select } from 'd3';
import { useEffect, useRef } from 'react';
import { MOST, type Stop } from '@wemlox/core/document';

const WIDTH = 296;
const STRIP = 26;
const HEIGHT = STRIP + 12;
const PAD = 6;
/** Colours the strip is drawn with. */
const STEPS = 64;

const x = scaleLinear()
  .domain([0, 1])
  .range([PAD, WIDTH - PAD]);

interface StripProps {
  stops: readonly Stop[];
  /** What it is of, and its place among identifiers. */
  name: string;
  id: string;
  /** What a stop put there would have. */
  stopAt: (at: number) => Stop;
  /** Colour shown at a place; where there is none a curve is drawn, by its height 0 … 1. */
  colourAt?: (at: number) => string;
  heightAt?: (at: number) => number;
  chosen: number;
  onChoose: (i: number) => void;
  /** @param joins whether it goes on with the change before */
  onChange: (stops: Stop[], joins: boolean) => void;
}

export function StopStrip({
  stops,
  name,
  id: of,
  stopAt,
  colourAt,
  heightAt = () => 0.5,
  chosen,
  onChoose,
  onChange,
}: StripProps) {
  const svg = useRef<SVGSVGElement>(null);
  const latest = useRef({ stops, onChange });
  latest.current = { stops, onChange };
  const id = `stops-${of}`;

  useEffect(() => {
    select(svg.current!)
      .selectAll<SVGCircleElement, unknown>('circle')
      .call(
        drag<SVGCircleElement, unknown>().on('drag', function (event) {
          const i = Number(this.dataset.stop);
          const { stops: now, onChange: change } = latest.current;
          const [low, high] = [now[i - 1]?.at ?? 0, now[i + 1]?.at ?? 1];
          const at = Math.min(high, Math.max(low, x.invert(pointer(event, svg.current!)[0])));
          change(
            now.map((s, k) => (k === i ? { ...s, at } : s)),
            true,
          );
        }),
      );
  }, [stops.length]);

  const add = (event: React.MouseEvent) => {
    if (event.target instanceof SVGCircleElement || stops.length >= MOST.stops) return;
    const at = Math.min(1, Math.max(0, x.invert(pointer(event.nativeEvent, svg.current!)[0])));
    const made = [...stops, stopAt(at)].sort((a, b) => a.at - b.at);
    onChange(made, false);
    onChoose(made.findIndex((s) => s.at === at));
  };
  const remove = (i: number) => {
    if (stops.length > 1)
      onChange(
        stops.filter((_, k) => k !== i),
        false,
      );
    onChoose(Math.max(0, i - 1));
  };
  const move = (i: number, by: number) => {
    const [low, high] = [stops[i - 1]?.at ?? 0, stops[i + 1]?.at ?? 1];
    const at = Math.min(high, Math.max(low, stops[i].at + by));
    onChange(
      stops.map((s, k) => (k === i ? { ...s, at } : s)),
      true,
    );
  };

  const places = Array.from({ length: STEPS + 1 }, (_, i) => i / STEPS);
  const drawn =
    line<number>()
      .x((u) => x(u))
      .y((u) => STRIP - 4 - (STRIP - 8) * heightAt(u))(places) ?? '';
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full touch-none"
      role="group"
      aria-label={`Stops of ${name}. Double click adds one, Delete removes the chosen one.`}
      data-testid="stop-strip"
      onDoubleClick={add}
    >
      {colourAt && (
        <defs>
          <linearGradient id={id}>
            {places.map((u) => (
              <stop key={u} offset={u} stopColor={colourAt(u)} />
            ))}
          </linearGradient>
        </defs>
      )}
      <rect
        x={PAD}
        y={1}
        width={WIDTH - 2 * PAD}
        height={STRIP - 2}
        rx={2}
        fill={colourAt ? `url(#${id})` : 'var(--color-base-200)'}
        stroke="var(--line)"
      />
      {!colourAt && <path d={drawn} fill="none" stroke="var(--color-base-content)" strokeWidth={1.5} />}
      {stops.map((stop, i) => (
        <circle
          key={i}
          data-stop={i}
          cx={x(stop.at)}
          cy={STRIP + 5}
          r={i === chosen ? 5.5 : 4.5}
          tabIndex={0}
          role="button"
          aria-label={`Stop ${i + 1} at ${Math.round(stop.at * 100)} %`}
          aria-pressed={i === chosen}
          className="cursor-grab"
          fill={
            colourAt ? colourAt(stop.at) : i === chosen ? 'var(--color-primary)' : 'var(--color-base-100)'
          }
          stroke={i === chosen ? 'var(--color-primary)' : 'var(--color-base-content)'}
          strokeWidth={i === chosen ? 2.5 : 1.5}
          onPointerDown={() => onChoose(i)}
          onFocus={() => onChoose(i)}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -0.01, ArrowRight: 0.01 }[event.key];
            if (by !== undefined) move(i, event.shiftKey ? by * 10 : by);
            else if (event.key === 'Delete' || event.key === 'Backspace') remove(i);
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
        />
      ))}
    </svg>
  );
}
