import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { readablePath } from '@domatium/core/address';
import { later, wallOf, writeEnd, writeInstant, DAY, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { MomentField } from '../shared/moment-field';
import { SessionService } from '../hub/session.service';
import { StockDesk } from './stock-desk.service';

/** When which revision holds, where it is used, and putting the draft on all of its pages: now, later, or for a while. */
@Component({
  selector: 'dm-stock-release',
  imports: [MomentField],
  templateUrl: './stock-release.html',
  styleUrl: './stock-release.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockRelease {
  protected readonly desk = inject(StockDesk);
  protected readonly service = inject(RegisterService);
  private readonly session = inject(SessionService);
  protected readonly from = signal<string | null>(null);
  protected readonly until = signal<string | null>(null);
  protected readonly pages = computed(() => this.desk.item()?.pages.filter(({ isDraft }) => !isDraft) ?? []);
  protected readonly drafts = computed(() => this.desk.item()?.pages.filter(({ isDraft }) => isDraft) ?? []);
  protected readonly act = computed(() => {
    const count = this.pages().length;
    const pages = count === 1 ? '1 page' : `${count.toLocaleString('en')} pages`;
    const begins = this.from() === null ? 'now' : `from ${this.from()?.replace('T', ', ')}`;
    return `Put on ${pages} ${begins}`;
  });
  protected readonly holds = computed(() => {
    const [zone, now] = [this.service.zone(), this.service.now()];
    return (this.desk.item()?.periods ?? [])
      .filter(({ until }) => until === null || until > now)
      .map(({ from, until, revision }) => {
        const begins = from <= now ? 'now' : `from ${writeInstant(from as Instant, zone, now)}`;
        const ends = until === null ? '' : `, until ${writeEnd(until as Instant, zone, now)}`;
        return { revision, words: begins + ends, isNow: from <= now };
      });
  });

  /** Why the draft can’t go yet: sites that show it want others to approve it. */
  protected readonly waiting = computed(() => {
    const approvals = this.desk.item()?.approvals;
    // Whatever is typed after an approval asks for it anew.
    const given = this.desk.isApprovedAsItIs() ? (approvals?.given.length ?? 0) : 0;
    if (!approvals || given >= approvals.needed) return null;
    const wants = approvals.sites.length === 1 ? 'wants' : 'want';
    return `${approvals.sites.join(', ')} ${wants} approval: ${given} of ${approvals.needed}.${this.mayApprove() ? '' : ' Somebody who has not changed it last, and has not approved it, can give it here.'}`;
  });
  protected readonly mayApprove = computed(() => {
    const [approvals, me] = [this.desk.item()?.approvals, this.session.session()?.account.id];
    return (
      this.desk.state() === 'kept' &&
      this.desk.isApprovedAsItIs() &&
      approvals?.changedById !== me &&
      !approvals?.given.some(({ id }) => id === me)
    );
  });
  protected readonly approvers = computed(() =>
    this.desk
      .item()
      ?.approvals.given.map(({ name }) => name)
      .join(', '),
  );

  protected write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }
  protected readable(address: string): string {
    return readablePath(address);
  }

  protected askFrom(): void {
    this.from.set(wallOf(later(this.service.now(), DAY), this.service.zone()).replace(/T.*/, 'T09:00'));
  }
  protected askUntil(): void {
    this.until.set(wallOf(later(this.service.now(), 14 * DAY), this.service.zone()).replace(/T.*/, 'T00:00'));
  }

  protected async release(): Promise<void> {
    const zone = this.service.zone();
    const [from, until] = [this.from(), this.until()];
    const isDone = await this.desk.release(
      from === null ? 'now' : { local: from, zone },
      until === null ? null : { local: until, zone },
    );
    if (!isDone) return;
    this.from.set(null);
    this.until.set(null);
  }
}
