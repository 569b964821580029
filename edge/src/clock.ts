import { instant, type Instant } from '@domatium/core/time';

/** A wall clock that leads the monotonic one by more than this has leapt; what is less is the drift of two clocks. */
export const LEAP = 2_000;
/** The database's clock is followed from this difference on; less is the way of its answer. */
const TRUSTED = 2_000;

/**
 * The edge's clock. It goes on by the monotonic clock and follows the machine's small corrections forward. Where the
 * machine's clock is set back, what has come stays; where it leaps forward, the database's clock is asked first, so that
 * no page shows before its time. The database's clock alone can take time back: what it says is what instants mean.
 */
export class EdgeClock {
  private said: number;
  private at: number;

  constructor(
    private readonly wall: () => number = Date.now,
    private readonly elapsed: () => number = () => performance.now(),
  ) {
    this.said = wall();
    this.at = elapsed();
  }

  readonly now = (): Instant => {
    const tick = this.elapsed();
    const steady = this.said + (tick - this.at);
    const wall = this.wall();
    // Anchored anew only when the wall clock leads, so that fractions of milliseconds are not lost at every call.
    if (wall > steady && wall - steady <= LEAP) {
      this.said = wall;
      this.at = tick;
      return instant(wall);
    }
    return instant(Math.floor(steady));
  };

  /** Takes what the database's clock said; gives by how many milliseconds the machine's clock is off. */
  follow(databaseNow: number): number {
    const off = databaseNow - this.now();
    if (Math.abs(off) > TRUSTED) {
      this.said = databaseNow;
      this.at = this.elapsed();
    }
    return this.wall() - databaseNow;
  }
}
