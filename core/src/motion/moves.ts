/** What steady moves make of a value at a time. */
import type { Move } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { flickered, smoothNoise } from './flicker.ts';
import { lengthOf, roundsOf, type Span } from './span.ts';

const TURN = 2 * Math.PI;
/** Places of the wander's lattice each round. */
const STEPS = 3;

const smooth = (t: number) => t * t * (3 - 2 * t);
const share = (v: number) => Math.min(1, Math.max(0, v));

/** How much of a move there is at a time, 0 … 1. */
function faded({ fadeIn, fadeOut }: Move, time: number, span: Span): number {
  const begun = fadeIn > 0 ? smooth(share(time / fadeIn)) : 1;
  const left = fadeOut > 0 ? smooth(share((lengthOf(span) - time) / fadeOut)) : 1;
  return begun * left;
}

/**
 * A value with a move on top.
 * @param value one number, or three of a point or colour
 * @param time seconds within the shot
 */
export function moved(value: readonly number[], move: Move, time: number, span: Span): number[] {
  const rounds = roundsOf(span, move.speed);
  const places = span.loops ? Math.round(rounds * lengthOf(span)) : 0;
  const x = rounds * time + move.phase;
  const much = faded(move, time, span);
  const { amount, kind, axis, seed } = move;
  const along = (by: number) => value.map((v, i) => (value.length === 1 || i === axis ? v + by : v));
  const times = (by: number) => value.map((v) => v * by);
  switch (kind) {
    case 'turn':
      return along(much * amount * x);
    case 'swing':
      return along(much * amount * sin(TURN * x));
    case 'drift':
      // where it goes round it comes back as it went
      return along(much * amount * (span.loops ? (1 - cos(TURN * x)) / 2 : x));
    case 'wander':
      return value.map((v, i) =>
        value.length > 1 && axis >= 0 && i !== axis
          ? v
          : v + much * amount * smoothNoise(STEPS * x, STEPS * places, seed, 10 + i),
      );
    case 'breathe':
      return times(1 + (much * amount * (1 - cos(TURN * x))) / 2);
    case 'pass': {
      // before it from the left to the right, and back behind it
      const [c, s] = [cos(TURN * x), sin(TURN * x)];
      const [across = 0, up = 0, out = 0] = value;
      return value.length === 3
        ? [across - much * amount * c, up, out + much * (out * s - out)]
        : along(-much * amount * c);
    }
    case 'flicker':
      return times(1 - much * amount * (1 - flickered(move.flicker, x, places, seed)));
  }
}
