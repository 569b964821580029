import { computed, Directive, effect, inject, signal } from '@angular/core';
import type { ReleaseChange, ReleasePreview, WallTimeInput } from '@domatium/contracts';
import { instantOfWall, startOfDay, wallOf, writeInstant, DAY, type Instant } from '@domatium/core/time';
import { RegisterService } from '../register/register.service';
import { SessionService } from '../session/session.service';
import { PlaceService } from '../shell/place.service';
import { NO_FAULTS, ReleasingService, type Faults } from './releasing.service';

const PAUSE = 180;

/** What the sheets that change what visitors get have in common: one change, its preview, its faults, the press. */
@Directive()
export abstract class ChangeForm {
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly session = inject(SessionService);
  private readonly releasing = inject(ReleasingService);
  protected readonly preview = signal<ReleasePreview | null>(null);
  protected readonly faults = signal<Faults>(NO_FAULTS);
  protected readonly isBusy = signal(false);
  private key = crypto.randomUUID();
  private asked = 0;

  /** The change as the fields say it; `null` while something is missing. */
  protected abstract readonly change: () => ReleaseChange | null;
  /** Called with every preview, so that a sheet can take what it proposes. */
  protected previewed?(preview: ReleasePreview): void;

  protected readonly blocking = computed(() => {
    const { fields, whole, isPassing } = this.faults();
    return (
      fields.length +
      (whole && !isPassing ? 1 : 0) +
      (this.preview()?.findings ?? []).filter(({ severity }) => severity === 'blocks').length
    );
  });
  protected readonly errorAt = (field: string) => (path: string) => {
    const full = `changes[0].${field}${path ? `.${path}` : ''}`;
    return this.faults().fields.find((fault) => fault.path === full)?.message ?? null;
  };
  protected readonly errorOf = (field: string) => this.errorAt(field)('');

  /** Asks for a preview whenever the change does; late answers to earlier questions are dropped. */
  protected watch(): void {
    effect(() => {
      this.change();
      // Another change is another press; the same one that was not answered is sent again under its key.
      this.key = crypto.randomUUID();
    });
    effect((cleanUp) => {
      const change = this.change();
      // What others do may change what this does.
      this.service.register();
      const question = ++this.asked;
      if (!change) return void this.preview.set(null);
      const timer = setTimeout(() => {
        void this.releasing.preview([change]).then(({ preview, faults }) => {
          if (question !== this.asked) return;
          this.preview.set(preview);
          this.faults.set(faults);
          if (preview) this.previewed?.(preview);
        });
      }, PAUSE);
      cleanUp(() => clearTimeout(timer));
    });
  }

  protected async press(done: string, link?: { label: string; href: string }): Promise<void> {
    const wanted = this.change();
    if (!wanted || this.isBusy()) return;
    const change =
      wanted.act === 'release' ? { ...wanted, draftVersion: this.preview()?.pages[0]?.draftVersion } : wanted;
    this.isBusy.set(true);
    const faults = await this.releasing.release([change], this.key, done, link).finally(() => this.isBusy.set(false));
    if (faults) this.faults.set(faults);
    else this.place.go({ panel: null });
  }

  protected wall(local: string): WallTimeInput {
    return { local, zone: this.service.zone() };
  }

  /** Tomorrow at nine, and next Monday at nine, as wall-clock times. */
  protected readonly tomorrow = computed(
    () => `${wallOf(startOfDay(this.service.now(), this.service.zone(), 1), this.service.zone()).slice(0, 10)}T09:00`,
  );
  protected readonly nextMonday = computed(() => {
    const zone = this.service.zone();
    const today = startOfDay(this.service.now(), zone);
    const weekday = (new Date(today + DAY / 2).getUTCDay() + 6) % 7;
    return `${wallOf(startOfDay(today, zone, 7 - weekday), zone).slice(0, 10)}T09:00`;
  });

  protected words(local: string): string {
    const at = instantOfWall(this.wall(local));
    return at === null ? '' : writeInstant(at, this.service.zone(), this.service.now());
  }

  /** The next whole hour, as a first suggestion. */
  protected nextHour(): string {
    return wallOf((Math.ceil((this.service.now() + 60_000) / 3_600_000) * 3_600_000) as Instant, this.service.zone());
  }
}
