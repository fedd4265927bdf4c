/** How a moving picture plays: one frame of it is shown at each time of a shot. */
import { IsInt, Max, Min } from 'class-validator';
import { RATES } from './motionParameters.ts';
import { defaultsOf, Parameters } from './parameter.ts';
import { PLAYBACK } from './parameters.ts';
import { Amount } from './rules.ts';

/** Most frames of one moving picture. */
export const MOST_FRAMES = 100_000;

export class Playback extends Parameters(PLAYBACK) {
  /** Frames of the file, and how many a second: those of a file whose rate varies are evened out. */
  @IsInt() @Min(1) @Max(MOST_FRAMES) frames!: number;
  @Amount(RATES.min / 10, RATES.max * 2) rate!: number;
}

/** A file from its beginning to its end, again and again. */
export const newPlayback = (frames: number, rate: number): Playback => ({
  ...defaultsOf(PLAYBACK),
  frames,
  rate,
});
