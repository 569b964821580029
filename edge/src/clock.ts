import { instant, type Instant } from '@domatium/core/time';

/**
 * A clock that never goes back: where the machine's clock is set back, time goes on by the monotonic clock from what
 * was said last, so that what has come stays. A clock set forward is followed.
 */
export function steadyClock(
  wall: () => number = Date.now,
  elapsed: () => number = () => performance.now(),
): () => Instant {
  let said = wall();
  let at = elapsed();
  return () => {
    const tick = elapsed();
    const steady = said + (tick - at);
    const now = Math.max(wall(), Math.floor(steady));
    // Anchored anew only when the wall clock leads, so that fractions of milliseconds are not lost at every call.
    if (now > steady) {
      said = now;
      at = tick;
    }
    return instant(now);
  };
}
