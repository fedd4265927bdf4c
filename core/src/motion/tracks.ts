/** What a track says at a time. */
import type { Key, Track } from '../document/index.ts';
import { easedShare } from './easing.ts';
import { lengthOf, type Span } from './span.ts';

/** Between a key and what comes after it. @param length seconds from the one to the other */
function between(from: Key, to: Key, since: number, length: number): number[] {
  const share = easedShare(from, length > 0 ? since / length : 1);
  return from.value.map((v, i) => v + ((to.value[i] ?? v) - v) * share);
}

/** The time among the keys that a time after the last one stands for. */
function taken(ends: Track['ends'], time: number, first: number, last: number): number {
  const long = last - first;
  if (long <= 0 || time <= last) return time;
  const rounds = Math.floor((time - first) / long);
  const into = time - first - rounds * long;
  if (ends === 'again') return first + into;
  return rounds % 2 === 0 ? first + into : last - into;
}

/**
 * The value of a track: before its first key that of the first, after the last what its `ends` says.
 * @param time seconds within the shot
 */
export function valueOf({ keys, ends }: Pick<Track, 'keys' | 'ends'>, time: number, span: Span): number[] {
  const [first, last] = [keys[0]!, keys[keys.length - 1]!];
  const at = ends === 'again' || ends === 'return' ? taken(ends, time, first.at, last.at) : time;
  if (ends === 'close' && keys.length > 1) {
    // from the last key on to the first of the next round
    const gap = lengthOf(span) - last.at + first.at;
    if (gap > 0 && (at >= last.at || at < first.at))
      return between(last, first, at >= last.at ? at - last.at : gap - (first.at - at), gap);
  }
  if (at <= first.at) return [...first.value];
  if (at >= last.at) return [...last.value];
  let [low, high] = [0, keys.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (keys[middle]!.at <= at) low = middle;
    else high = middle;
  }
  const [from, to] = [keys[low]!, keys[high]!];
  return between(from, to, at - from.at, to.at - from.at);
}
