import { computed, inject, Injectable, signal } from '@angular/core';
import { DAY, instant, MINUTE, type Instant } from '@domatium/core/time';
import { PlaceService } from './place.service';

const TICK = 5_000;

/** What time it is by the server's clock, and which moment everything on the screen is of. */
@Injectable({ providedIn: 'root' })
export class ClockService {
  private readonly place = inject(PlaceService);
  private offset = 0;
  /** The server's clock, as far as it is known here. */
  readonly now = signal<Instant>(instant(Date.now()));
  /** The moment everything on the screen is of. */
  readonly shown = computed<Instant>(() => this.place.asOf() ?? this.now());
  /** Where the handle of the rail is: it goes before the rest while it is dragged. */
  readonly handle = computed<Instant>(() => this.place.dragged() ?? this.shown());
  readonly isNow = computed(() => this.place.asOf() === null);
  /** The stretch that rail and when column show. */
  readonly scale = computed(() => {
    const minute = Math.floor(this.now() / MINUTE) * MINUTE;
    const { back, ahead } = this.place.reach();
    return { from: minute + back * DAY, until: minute + ahead * DAY };
  });

  constructor() {
    setInterval(() => this.tick(), TICK);
  }

  /** What the server says the time is. */
  /** The same to the millisecond: `now` rests between minutes. */
  precise(): Instant {
    return instant(Date.now() + this.offset);
  }

  set(now: number): void {
    this.offset = now - Date.now();
    this.now.set(instant(now));
  }

  /** Planned instants are whole minutes: between them nothing becomes different by itself. */
  private tick(): void {
    const now = this.precise();
    if (Math.floor(now / MINUTE) !== Math.floor(this.now() / MINUTE)) this.now.set(now);
  }
}
