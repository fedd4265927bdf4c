/** What a feed gives along its axis, for those who draw it. */
import type { Feed, Stop } from '@wemlox/core/document';
import { mixedEvenly, valueAt } from '@wemlox/core/finish/recipe';

/** What a feed gives at a place of its axis, and what a stop put there would have. */
export function stopAt({ stops, blend }: Pick<Feed, 'stops' | 'blend'>, at: number): Stop {
  const place = stops.map((s) => s.at);
  const [value] = valueAt({ at: place, values: stops.map((s) => [s.value]) }, at);
  const next = stops.findIndex((s) => s.at > at);
  const [a, b] = [stops[Math.max(0, next - 1)], stops[next < 0 ? stops.length - 1 : next]];
  const t = next > 0 && b.at > a.at ? (at - a.at) / (b.at - a.at) : 0;
  const colour =
    next < 0
      ? b.colour
      : blend === 'even'
        ? mixedEvenly(a.colour, b.colour, t)
        : a.colour.map((v, c) => v + (b.colour[c] - v) * t);
  return { at, value, colour: [...colour] };
}

/** Height in the strip of a number, 0 … 1. */
export const heightOf = (feed: Feed) => {
  const values = feed.stops.map((s) => s.value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  return (v: number) => (high > low ? (v - low) / (high - low) : 0.5);
};
