// Courses of feeds: rising places along an axis, and values at them, interpolated between.

/** Place in a list of rising places: the last that is not beyond u. */
export function before(at: usize, count: i32, u: f32): i32 {
  let lo = 0;
  let hi = count;
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (load<f32>(at + (<usize>mid << 2)) <= u) lo = mid;
    else hi = mid;
  }
  return lo;
}

/** Share of the way from a place to the next. */
// @ts-ignore: decorator
@inline export function beyond(at: usize, i: i32, count: i32, u: f32): f32 {
  if (i + 1 >= count) return 0;
  const a = load<f32>(at + (<usize>i << 2));
  const b = load<f32>(at + (<usize>i << 2), 4);
  return b > a ? min<f32>(1, max<f32>(0, (u - a) / (b - a))) : 0;
}

/** Value of a course: its places, then as many values. */
export function valueOf(at: usize, count: i32, u: f32): f32 {
  const i = before(at, count, u);
  const values = at + (<usize>count << 2) + (<usize>i << 2);
  const value = load<f32>(values);
  const t = beyond(at, i, count, u);
  return t > 0 ? value + (load<f32>(values, 4) - value) * t : value;
}
