import { IANAZone } from 'luxon';

const DAY = 86_400_000;

/**
 * A zone that remembers its offsets. Asking for one formats a date, which lists and drags do thousands of times; clocks
 * change on few days, and on all others the offset at both ends of the day (UTC) is that of every instant between.
 */
class SteadyZone extends IANAZone {
  private readonly starts = new Map<number, number>();

  override offset(at: number): number {
    const day = Math.floor(at / DAY);
    const start = this.atStartOf(day);
    return start === this.atStartOf(day + 1) ? start : super.offset(at);
  }

  private atStartOf(day: number): number {
    const known = this.starts.get(day);
    if (known !== undefined) return known;
    const offset = super.offset(day * DAY);
    if (!Number.isNaN(offset)) this.starts.set(day, offset);
    return offset;
  }
}

const zones = new Map<string, SteadyZone>();

/** The zone of an IANA name, the same object each time; one that is not known is not valid, and has no offsets. */
export function zoneNamed(name: string): IANAZone {
  const known = zones.get(name);
  if (known) return known;
  const zone = new SteadyZone(name);
  if (zone.isValid) zones.set(name, zone);
  return zone;
}
