/** What a row of a number is told by the registry. */
import type { NumberParameter } from '@wemlox/core/document';

/** @param mirrored what is behind counts from the front */
export function numberRange({ unit, min, max, step, fader, log, whole }: NumberParameter, mirrored = false) {
  const factor = unit.factor * (mirrored ? -1 : 1);
  const shown = [min * factor, max * factor].sort((a, b) => a - b);
  return {
    unit: unit.sign || undefined,
    factor,
    min: shown[0],
    max: shown[1],
    step,
    faderMin: fader?.[0],
    faderMax: fader?.[1],
    log,
    digits: whole ? 0 : undefined,
  };
}
