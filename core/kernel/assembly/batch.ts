// Single rays and batches of them, for the host.
import { HIT_BYTES, RAY_BYTES } from './layout';
import { closest, foundB1, foundB2, foundInstance, foundT, occluded } from './traverse';

/** Closest hits of `n` rays (RAY_BYTES each), HIT_BYTES a hit. */
export function closestBatch(rays: usize, hits: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const r = rays + <usize>i * RAY_BYTES;
    const h = hits + <usize>i * HIT_BYTES;
    const tmin = load<f32>(r, 12);
    const id = closest(
      load<f32>(r), load<f32>(r, 4), load<f32>(r, 8), tmin,
      load<f32>(r, 16), load<f32>(r, 20), load<f32>(r, 24), load<f32>(r, 28), -1, tmin,
    );
    store<f32>(h, foundT());
    store<f32>(h, foundB1(), 4);
    store<f32>(h, foundB2(), 8);
    store<i32>(h, id, 12);
    store<i32>(h, foundInstance(), 16);
  }
}

/** Any-hit of `n` rays; one i32 each at `out`: 1 blocked, 0 free. */
export function occludedBatch(rays: usize, out: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const r = rays + <usize>i * RAY_BYTES;
    const tmin = load<f32>(r, 12);
    store<i32>(
      out + (<usize>i << 2),
      occluded(
        load<f32>(r), load<f32>(r, 4), load<f32>(r, 8), tmin,
        load<f32>(r, 16), load<f32>(r, 20), load<f32>(r, 24), load<f32>(r, 28), -1, tmin,
      ),
    );
  }
}
