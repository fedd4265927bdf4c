/**
 * How finely the draft is drawn. A driver that cannot follow the hands draws at half the sides while they move, a
 * quarter of the pixels, and in full when they rest.
 */

/** Time between two drawings from which on a driver is slow, milliseconds. */
const SLOW = 50;
/** Time without a drawing after which hands rest, milliseconds. */
const RESTED = 250;
const COARSE = 0.5;

export class DraftPace {
  private last = -Infinity;
  private wasFine = true;
  private slow: boolean;
  private playing = false;
  private rest: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param alwaysSlow draws by software
   * @param onRest told when hands have come to rest after what was drawn coarsely
   */
  constructor(
    private readonly alwaysSlow: boolean,
    private readonly onRest: () => void,
  ) {
    this.slow = alwaysSlow;
  }

  /** Pictures follow each other without hands. */
  setPlaying(playing: boolean): void {
    this.playing = playing;
    if (!playing && !this.wasFine) this.wait();
  }

  /** Share of the sides to draw at now, milliseconds. */
  share(now: number): number {
    const gap = now - this.last;
    this.last = now;
    if (gap >= RESTED && !this.playing) this.slow = this.alwaysSlow;
    else if (this.wasFine && gap > SLOW) this.slow = true;
    this.wasFine = !this.slow || (gap >= RESTED && !this.playing);
    clearTimeout(this.rest);
    if (!this.wasFine && !this.playing) this.wait();
    return this.wasFine ? 1 : COARSE;
  }

  private wait(): void {
    clearTimeout(this.rest);
    this.rest = setTimeout(this.onRest, RESTED);
  }

  end(): void {
    clearTimeout(this.rest);
  }
}
