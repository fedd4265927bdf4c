/**
 * How finely the draft is drawn. A driver that cannot follow the hands draws at half the sides while they move, a
 * quarter of the pixels, and in full when they rest. While a traced picture is awaited that will lie over it, a slow
 * driver leaves the processor to that.
 */

/** Time between two drawings from which on a driver is slow, milliseconds. */
const SLOW = 50;
/** Time without a drawing on the screen after which hands rest, milliseconds. */
const RESTED = 250;
const COARSE = 0.5;

export class DraftPace {
  private last = -Infinity;
  private shownAt = -Infinity;
  private wasFine = true;
  private slow: boolean;
  private playing = false;
  private awaiting = false;
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
    if (!this.wasFine) this.wait();
  }

  /** A traced picture is to come and will be looked at instead. */
  setAwaiting(awaiting: boolean): void {
    if (awaiting === this.awaiting) return;
    this.awaiting = awaiting;
    if (awaiting) clearTimeout(this.rest);
    else if (!this.wasFine) this.wait();
  }

  /** Share of the sides to draw at now, milliseconds. */
  share(now: number): number {
    const gap = now - this.last;
    const rested = now - Math.max(this.last, this.shownAt) >= RESTED && !this.playing;
    this.last = now;
    if (rested) this.slow = this.alwaysSlow;
    else if (this.wasFine && gap > SLOW) this.slow = true;
    this.wasFine = !this.slow || (rested && !this.awaiting);
    clearTimeout(this.rest);
    if (!this.wasFine) this.wait();
    return this.wasFine ? 1 : COARSE;
  }

  /** What was drawn last is on the screen, milliseconds: a drawing may hold the page for longer than hands rest. */
  shown(now: number): void {
    this.shownAt = now;
  }

  private wait(): void {
    clearTimeout(this.rest);
    if (!this.playing && !this.awaiting) this.rest = setTimeout(this.onRest, RESTED);
  }

  end(): void {
    clearTimeout(this.rest);
  }
}
