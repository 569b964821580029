import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { portfolioBody } from '@domatium/contracts';
import { placeOfZone, wallOf } from '@domatium/core/time';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { WideSheet } from '../shared/wide-sheet';
import { ZONES } from '../shared/zones';
import { PeopleService } from './people.service';
import { say } from '@domatium/core/words/people';
import { say as common } from '@domatium/core/words/common';

/** What a portfolio is: its name, the clock its times are on, its sites. */
@Component({
  selector: 'dm-portfolio-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet [heading]="say.portfolioNamed(service.portfolio()?.name ?? '')" [lead]="say.aNameAndAClock" (closed)="place.go({ panel: null })">
      <fieldset [disabled]="!service.mayManage()">
        <label class="section-label" for="portfolio-name">{{ common.name }}</label>
        <input
          id="portfolio-name"
          class="form-control"
          maxlength="100"
          autocomplete="off"
          [value]="name()"
          [class.is-invalid]="!!errors()['name']"
          (input)="name.set($any($event.target).value)"
        />
        <div class="field-error">{{ errors()['name'] }}</div>
        <label class="section-label" for="portfolio-zone">{{ say.timeZone }}</label>
        <select id="portfolio-zone" class="form-select" (change)="zone.set($any($event.target).value)">
          @for (one of zones; track one) {
            <option [value]="one" [selected]="one === zone()">{{ one }}</option>
          }
        </select>
        <div class="field-error">{{ errors()['zone'] }}</div>
        @if (otherClock(); as words) {
          <p class="field-note" role="status">{{ words }}</p>
        }
      </fieldset>
      @if (errors()['whole']; as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <h3 class="section-label sites">{{ say.sites }}</h3>
      <table class="sheet-rows">
        @for (site of service.head()?.sites; track site.id) {
          <tr>
            <td><strong>{{ site.name }}</strong><div class="quiet mono">{{ site.host }}{{ site.basePath === '/' ? '' : site.basePath }}</div></td>
            <td class="end">
              <button type="button" class="btn-link-plain" (click)="place.go({ scope: 'site:' + site.id, page: null, panel: 'site' })">
                {{ say.openItsSheet }}<span class="visually-hidden"> {{ site.name }}</span>
              </button>
            </td>
          </tr>
        } @empty {
          <tr><td class="quiet">{{ say.noSitesYet }}</td></tr>
        }
      </table>
      <ng-container foot>
        @if (service.mayManage()) {
          <button type="button" class="btn btn-primary" [disabled]="!isChanged() || isBusy()" (click)="save()">{{ say.save }}</button>
        } @else {
          <span class="quiet">{{ say.onlyOwnersChangeThis }}</span>
        }
        <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'people' })">{{ say.peopleAndRules }}</button>
        <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'record' })">{{ say.record }}</button>
      </ng-container>
    </dm-wide-sheet>
  `,
  styles: `
    .sites,
    .section-label[for='portfolio-zone'] {
      display: block;
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PortfolioSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly people = inject(PeopleService);
  private readonly notices = inject(NoticeService);
  protected readonly zones = ZONES;
  protected readonly name = linkedSignal(() => this.service.portfolio()?.name ?? '');
  protected readonly zone = linkedSignal(() => this.service.zone());
  protected readonly errors = signal<FieldErrors>({});
  protected readonly isBusy = signal(false);
  protected readonly isChanged = computed(
    () => this.name().trim() !== (this.service.portfolio()?.name ?? '') || this.zone() !== this.service.zone(),
  );
  /** What another clock says of now, and what becomes of what is planned. */
  protected readonly otherClock = computed(() => {
    const [zone, was, now] = [this.zone(), this.service.zone(), this.service.now()];
    if (zone === was) return null;
    const time = (on: string) => wallOf(now, on).slice(11);
    return say.plannedStays(placeOfZone(was), time(was), placeOfZone(zone), time(zone));
  });

  protected async save(): Promise<void> {
    const body = { name: this.name().trim(), zone: this.zone() };
    this.errors.set(errorsOf(portfolioBody, body));
    if (Object.keys(this.errors()).length) return;
    this.isBusy.set(true);
    const was = { name: this.service.portfolio()?.name ?? '', zone: this.service.zone() };
    const isDone = await this.set(body).finally(() => this.isBusy.set(false));
    if (isDone)
      this.notices.say({
        kind: 'done',
        text: say.saved,
        action: { label: common.undo, run: () => void this.set(was) },
      });
  }

  private async set(body: { name: string; zone: string }): Promise<boolean> {
    const answer = await this.people.setPortfolio(this.service.portfolioId(), body);
    this.errors.set('errors' in answer ? answer.errors : {});
    await this.service.load();
    return 'value' in answer;
  }
}
