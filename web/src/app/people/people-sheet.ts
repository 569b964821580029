import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { inviteBody, ROLES, type PeopleView, type Role, type SiteRules } from '@domatium/contracts';
import { DAY, dayOf, later, writeDay, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { SessionService } from '../hub/session.service';
import { errorsOf } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import type { Answer } from '../hub/answer';
import { PeopleService } from './people.service';
import { say } from '@domatium/core/words/people';
import { say as common } from '@domatium/core/words/common';

const MAY: Record<Role, string> = {
  owner: say.everythingAndWhoWorksHere,
  publisher: say.writesAndReleases,
  author: say.writesPreparesDoesNotRelease,
  reader: say.looksAtEverything,
};

/** Keeping periods to choose from; 0 for ever. */
const KEEPINGS = [
  { days: 0, words: say.forEver },
  { days: 365, words: say.for1Year },
  { days: 731, words: say.for2Years },
  { days: 1_827, words: say.for5Years },
  { days: 3_653, words: say.for10Years },
];

/** Who works on the portfolio, as what, and who is invited. */
@Component({
  selector: 'dm-people-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet [heading]="say.people" [lead]="say.whoWorksOn((service.portfolio()?.name ?? ''))" (closed)="place.go({ panel: null })">
      <table class="sheet-rows">
        @for (person of view()?.members; track person.id) {
          <tr>
            <td>
              <strong>{{ person.name }}</strong>
              <div class="quiet">{{ person.email }}{{ person.hasFactor ? say.secondFactor : '' }}</div>
            </td>
            <td class="role">
              @if (mayManage()) {
                <select
                  class="form-select"
                  [attr.aria-label]="say.roleOf(person.name)"
                  (change)="setRole(person.id, $any($event.target).value, $any($event.target), person.role)"
                >
                  @for (role of roles; track role) {
                    <option [value]="role" [selected]="role === person.role">{{ role }}</option>
                  }
                </select>
              } @else {
                {{ person.role }}
              }
              <div class="quiet may">{{ may[person.role] }}</div>
            </td>
            <td class="end">
              @if (mayManage()) {
                @if (leaving() === person.id) {
                  @if (person.links) {
                    <label class="links">
                      <input #keeps type="checkbox" checked />
                      {{ say.onAsMine(person.links === 1 ? say.thePrivateLinkTheyMadeGoes : say.thePrivateLinksTheyMadeGo(person.links)) }}
                    </label>
                    <button type="button" class="btn btn-danger" (click)="remove(person.id, keeps.checked)">{{ say.removeEndAllSessions }}</button>
                  } @else {
                    <button type="button" class="btn btn-danger" (click)="remove(person.id, false)">{{ say.removeEndAllSessions }}</button>
                  }
                } @else {
                  <button type="button" class="btn-link-plain quiet" (click)="leaving.set(person.id)">
                    {{ say.remove }}<span class="visually-hidden"> {{ person.name }}</span>
                  </button>
                }
              }
            </td>
          </tr>
        }
      </table>
      @if (view()?.invitations?.length) {
        <h3 class="section-label">{{ say.invitedNotJoinedYet }}</h3>
        <table class="sheet-rows">
          @for (one of view()?.invitations; track one.id) {
            <tr>
              <td>
                {{ one.email }}
                <div class="quiet number">{{ say.asByUntil(one.role, one.madeBy ?? '', written(one.expiresAt)) }}</div>
              </td>
              <td class="end">
                @if (mayManage()) {
                  <button type="button" class="btn-link-plain quiet" (click)="revoke(one.id)">{{ say.takeBack }}</button>
                }
              </td>
            </tr>
          }
        </table>
      }
      @if (mayManage()) {
        <h3 class="section-label">{{ say.inviteSomeone }}</h3>
        <form class="one-line" (submit)="$event.preventDefault(); invite(email.value, role.value)">
          <input
            #email
            class="form-control"
            type="email"
            [attr.aria-label]="say.eMailAddress"
            [placeholder]="view()?.hasMail ? say.eMailAddress : say.eMailAddressMailIsntSet"
          />
          <select #role class="form-select" [attr.aria-label]="say.as">
            @for (one of roles; track one) {
              <option [value]="one" [selected]="one === 'author'">{{ one }}</option>
            }
          </select>
          <button type="submit" class="btn btn-primary">{{ say.invite }}</button>
        </form>
        @if (link(); as address) {
          <div class="link" role="status">
            <p>{{ say.theLinkToldThisOnceIt(view()?.hasMail && isMailed() ? say.andIsOnItsWayBy : '') }}</p>
            <p class="mono">{{ address }}</p>
          </div>
        }
      }
      @if (error(); as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <h3 class="section-label">{{ say.whoComesIn }}</h3>
      <label>
        <input
          #factor
          type="checkbox"
          [checked]="view()?.wantsFactor"
          [disabled]="!mayManage()"
          (change)="setWantsFactor(factor)"
        />
        {{ say.onlyThoseWhoSignInWith(withFactor(), view()?.members?.length ?? '') }}
      </label>
      <h3 class="section-label">{{ say.keepWhatVisitorsSaw }}</h3>
      @if (mayManage()) {
        <div class="one-line">
          <select #kept class="form-select" [attr.aria-label]="say.keepWhatVisitorsSaw" (change)="keeping.set(+kept.value)">
            @for (one of keepings(); track one.days) {
              <option [value]="one.days" [selected]="one.days === (view()?.keepDays ?? 0)">{{ one.words }}</option>
            }
          </select>
          @if (isKeepingChanged()) {
            <button type="button" class="btn btn-primary" (click)="setKeepDays(keeping() || null)">{{ common.change }}</button>
            <button
              type="button"
              class="btn btn-plain"
              (click)="keeping.set(null); kept.value = '' + (view()?.keepDays ?? 0)"
            >
              {{ say.cancel }}
            </button>
          }
        </div>
      } @else {
        @for (one of keepings(); track one.days) {
          @if (one.days === (view()?.keepDays ?? 0)) {
            <p>{{ one.words }}</p>
          }
        }
      }
      @if (isKeepingChanged() && keeping()) {
        <p class="may" role="status">
          {{ say.whatVisitorsSawBeforeIsRemoved(keptFrom()) }} <em>{{ say.asOf }}</em> {{ say.saysWhatWasPlannedThenAnd }}
        </p>
      }
      @if (mayManage()) {
        <h3 class="section-label">{{ say.letAnotherPortfolioUseAHost }}</h3>
        <form class="one-line" (submit)="$event.preventDefault(); allowHost(allowed.value)">
          <input #allowed class="form-control mono" [placeholder]="say.shopMarrowickExample" spellcheck="false" [attr.aria-label]="say.hostToAllow" />
          <button type="submit" class="btn btn-plain">{{ say.makeACode }}</button>
        </form>
        @if (consent(); as code) {
          <div class="link" role="status">
            <p>{{ say.whoeverAddsTheSiteEntersThis }}</p>
            <p class="mono">{{ code }}</p>
          </div>
        }
      }
      <h3 class="section-label">{{ say.whatSitesAsk }}</h3>
      <table class="sheet-rows">
        <tr>
          <th class="quiet">{{ say.site }}</th>
          <th class="quiet">{{ say.approvesFirst }}</th>
          <th class="quiet">{{ say.checks }}</th>
        </tr>
        @for (site of view()?.sites; track site.id) {
          <tr>
            <td>{{ site.name }}</td>
            <td class="role">
              @if (mayManage()) {
                <select
                  class="form-select"
                  [attr.aria-label]="say.approvalsBeforeAReleaseOn(site.name)"
                  (change)="setRules(site, { approvals: +$any($event.target).value })"
                >
                  @for (words of approvals; track $index) {
                    <option [value]="$index" [selected]="$index === site.approvals">{{ words }}</option>
                  }
                </select>
              } @else {
                {{ approvals[site.approvals] }}
              }
            </td>
            <td class="role">
              {{ say.checksTaken(setOtherwise(site)) }}
            </td>
          </tr>
        }
      </table>
      <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'checks' })">{{ say.changeChecks }}</button>
    </dm-wide-sheet>
  `,
  styles: `
    .role {
      width: 190px;
    }
    .may {
      font-size: 0.8125rem;
      margin-top: 2px;
    }
    h3 {
      margin-top: 20px;
    }
    form .form-select {
      width: 130px;
      flex: none;
    }
    .link {
      margin-top: 14px;
      padding: 10px 12px;
      background: var(--moss-tint);
      border-radius: var(--corner);
      p {
        margin: 0 0 4px;
        overflow-wrap: anywhere;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeopleSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly session = inject(SessionService);
  private readonly people = inject(PeopleService);
  private readonly notices = inject(NoticeService);
  protected readonly roles = ROLES;
  protected readonly may = MAY;
  protected readonly approvals = ['nobody', say.oneOther, say.twoOthers];
  protected readonly view = signal<PeopleView | null>(null);
  protected readonly leaving = signal<number | null>(null);
  protected readonly link = signal<string | null>(null);
  protected readonly consent = signal<string | null>(null);
  protected readonly isMailed = signal(false);
  protected readonly error = signal<string | null>(null);
  /** The keeping period that is chosen and not set yet, in days; 0 for ever. */
  protected readonly keeping = signal<number | null>(null);
  protected readonly keepings = computed(() => {
    const own = this.view()?.keepDays ?? 0;
    const known = KEEPINGS.some(({ days }) => days === own);
    return known ? KEEPINGS : [...KEEPINGS, { days: own, words: say.forDays(own.toLocaleString('en')) }];
  });
  protected readonly isKeepingChanged = computed(
    () => this.keeping() !== null && this.keeping() !== (this.view()?.keepDays ?? 0),
  );
  protected readonly withFactor = computed(() => (this.view()?.members ?? []).filter((one) => one.hasFactor).length);
  protected readonly mayManage = computed(() => this.session.mayAct(this.service.portfolioId(), 'manage'));

  constructor() {
    effect(() => {
      if (this.service.version()) untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    const answer = await this.people.people(this.service.portfolioId());
    if ('value' in answer) this.view.set(answer.value);
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  protected async setRole(id: number, role: Role, field: HTMLSelectElement, was: Role): Promise<void> {
    const isDone = await this.did(await this.people.setRole(this.service.portfolioId(), id, role));
    if (!isDone) field.value = was;
    else
      this.notices.say({
        kind: 'done',
        text: say.roleChangedToEffectiveImmediately(role),
        action: {
          label: common.undo,
          run: () => void this.people.setRole(this.service.portfolioId(), id, was).then(() => this.load()),
        },
      });
  }

  protected async remove(id: number, keepsLinks: boolean): Promise<void> {
    this.leaving.set(null);
    await this.did(await this.people.remove(this.service.portfolioId(), id, keepsLinks));
  }

  protected async setWantsFactor(field: HTMLInputElement): Promise<void> {
    const isDone = await this.did(await this.people.setWantsFactor(this.service.portfolioId(), field.checked));
    if (!isDone) field.checked = !field.checked;
  }

  protected keptFrom(): string {
    return writeDay(dayOf(later(this.service.now() as Instant, -(this.keeping() ?? 0) * DAY), this.service.zone()));
  }

  protected async setKeepDays(days: number | null): Promise<void> {
    if (await this.did(await this.people.setKeepDays(this.service.portfolioId(), days))) this.keeping.set(null);
  }

  protected async allowHost(host: string): Promise<void> {
    const answer = await this.people.allowHost(this.service.portfolioId(), host);
    if ((await this.did(answer)) && 'value' in answer) this.consent.set(answer.value.code);
  }

  protected setOtherwise = ({ severities }: SiteRules): number => Object.keys(severities).length;

  protected async setRules(site: { readonly id: number } & SiteRules, change: Partial<SiteRules>): Promise<void> {
    const { approvals, severities } = { ...site, ...change };
    await this.did(await this.people.setSiteRules(this.service.portfolioId(), site.id, { approvals, severities }));
  }

  protected async revoke(id: number): Promise<void> {
    await this.did(await this.people.revoke(this.service.portfolioId(), id));
  }

  protected async invite(email: string, role: string): Promise<void> {
    const body = { email: email.trim(), role };
    const [wrong] = Object.values(errorsOf(inviteBody, body));
    if (wrong) return this.error.set(wrong);
    const answer = await this.people.invite(this.service.portfolioId(), body.email, role as Role);
    if (!(await this.did(answer)) || !('value' in answer)) return;
    this.isMailed.set(true);
    this.link.set(location.origin + answer.value.path);
  }

  private async did(answer: Answer<object>): Promise<boolean> {
    this.error.set('errors' in answer ? (Object.values(answer.errors)[0] ?? null) : null);
    await this.load();
    return 'value' in answer;
  }
}
