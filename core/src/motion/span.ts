/** The time of a shot: its pictures, and how time goes round where it loops. */
import type { Shot } from '../document/index.ts';

export type Span = Pick<Shot, 'seconds' | 'rate' | 'loops'>;

/** Pictures of a shot; at least one. */
export const framesOf = ({ seconds, rate }: Span): number => Math.max(1, Math.round(seconds * rate));

/** How long a shot is by its pictures, seconds. */
export const lengthOf = (span: Span): number => framesOf(span) / span.rate;

/** The time of a picture, seconds; where the shot loops, that of picture `n` is that of the first, to the bit. */
export function timeOf(span: Span, frame: number): number {
  if (!span.loops) return frame / span.rate;
  const n = framesOf(span);
  return (frame - n * Math.floor(frame / n)) / span.rate;
}

/** The time some seconds before or after another; it goes round where the shot loops, and does not begin before 0. */
export function shifted(span: Span, time: number, by: number): number {
  const to = time + by;
  if (!span.loops) return Math.max(0, to);
  const length = lengthOf(span);
  return to - length * Math.floor(to / length);
}

/** Rounds a second that something goes: brought to whole rounds where the shot loops, but none to nothing. */
export function roundsOf(span: Span, speed: number): number {
  if (!span.loops || speed === 0) return speed;
  const length = lengthOf(span);
  return Math.max(1, Math.round(speed * length)) / length;
}
