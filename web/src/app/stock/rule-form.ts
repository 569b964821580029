import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { PAGE_ROLES } from '@domatium/core/register';
import { ruleFor, ruleKeyOf } from '@domatium/core/stock';
import { say } from '@domatium/core/words/stock';
import { RegisterService } from '../hub/register.service';
import { RuleWords } from '../hub/rule-words';
import { PagePicker } from '../shared/page-picker';
import { StockDesk } from './stock-desk.service';

type Scope = keyof typeof say.scopes;

/** Says which pages a new rule is about. */
@Component({
  selector: 'dm-rule-form',
  imports: [PagePicker],
  template: `
    <form class="card" (submit)="$event.preventDefault(); make()">
      <label class="form-label" for="rule-scope">{{ say.newRuleFor }}</label>
      <select id="rule-scope" class="form-select" (change)="begin($any($event.target).value)">
        @for (one of scopes; track one.scope) {
          <option [value]="one.scope" [selected]="one.scope === scope()">{{ one.words }}</option>
        }
      </select>
      @switch (scope()) {
        @case ('page') {
          <span class="form-label">{{ say.page }}</span>
          <dm-page-picker [label]="say.page" [pageId]="pageId()" [error]="error()" (picked)="of.set($event + '')" />
        }
        @case ('path') {
          <label class="form-label" for="rule-site">{{ say.site }}</label>
          <select id="rule-site" class="form-select" (change)="siteId.set(+$any($event.target).value)">
            @for (one of sites(); track one.id) {
              <option [value]="one.id" [selected]="one.id === site()">{{ one.name }}</option>
            }
          </select>
          <label class="form-label" for="rule-path">{{ say.path }}</label>
          <input
            id="rule-path"
            class="form-control mono"
            maxlength="1024"
            [placeholder]="say.examplePath"
            [class.is-invalid]="!!error()"
            [value]="of()"
            (input)="of.set($any($event.target).value)"
          />
        }
        @default {
          <label class="form-label" for="rule-of">{{ ofLabel() }}</label>
          <select
            id="rule-of"
            class="form-select"
            [class.is-invalid]="!!error()"
            [disabled]="!options().length"
            (change)="of.set($any($event.target).value)"
          >
            @for (one of options(); track one.value) {
              <option [value]="one.value" [selected]="one.value === chosen()">{{ one.words }}</option>
            }
          </select>
          @if (!options().length) {
            <div class="field-note">{{ say.noLabelYet }}</div>
          }
        }
      }
      @if (error(); as text) {
        @if (scope() !== 'page') {
          <div class="field-error">{{ text }}</div>
        }
      }
      <div class="acts">
        <button type="submit" class="btn btn-primary" [disabled]="!key() || isBusy()">{{ say.makeRule }}</button>
        <button type="button" class="btn btn-plain" (click)="cancelled.emit()">{{ say.cancel }}</button>
      </div>
    </form>
  `,
  styles: `
    .form-label {
      display: block;
      margin-top: 6px;
    }
    :host {
      max-width: 460px;
      padding: 16px;
    }
    .acts {
      display: flex;
      gap: 8px;
      margin-top: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleForm {
  protected readonly say = say;
  readonly made = output<number>();
  readonly cancelled = output();
  private readonly register = inject(RegisterService);
  private readonly desk = inject(StockDesk);
  private readonly words = inject(RuleWords);
  protected readonly scopes = Object.entries(say.scopes).map(([scope, words]) => ({ scope, words }));
  protected readonly scope = signal<Scope>('path');
  protected readonly of = signal('');
  protected readonly siteId = signal<number | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly sites = computed(() => this.register.head()?.sites ?? []);
  protected readonly site = computed(() => this.siteId() ?? this.sites()[0]?.id ?? null);
  protected readonly pageId = computed(() => Number(this.of()) || null);
  protected readonly error = computed(() => this.desk.errors()['key'] ?? this.desk.trouble());
  protected readonly ofLabel = computed(() =>
    this.scope() === 'domain' ? say.domain : this.scope() === 'label' ? say.label : say.kindOfPage,
  );
  protected readonly options = computed(() => {
    const plain = (all: readonly string[]) => [...new Set(all)].sort().map((value) => ({ value, words: value }));
    switch (this.scope()) {
      case 'domain':
        return plain(this.sites().flatMap(({ host, domain }) => [domain || host, host]));
      case 'label':
        return plain(this.register.head()?.labels ?? []);
      case 'role':
        return PAGE_ROLES.map((value) => ({ value, words: say.roles[value] }));
      default:
        return [];
    }
  });
  protected readonly chosen = computed(() => this.of() || (this.options()[0]?.value ?? ''));
  protected readonly key = computed(() => {
    const of = this.chosen().trim();
    return of ? ruleKeyOf({ scope: this.scope(), of }) : null;
  });

  protected begin(scope: Scope): void {
    this.scope.set(scope);
    this.of.set('');
    this.desk.errors.set({});
    this.desk.trouble.set(null);
  }

  protected async make(): Promise<void> {
    const key = this.key();
    if (!key || this.isBusy()) return;
    this.isBusy.set(true);
    const isOfSite = this.scope() === 'path';
    const about = ruleFor(key, isOfSite ? this.site() : null);
    const id = await this.desk.make({
      ...{
        kind: 'standing',
        name: (about ? this.words.about(about) : key).slice(0, 200),
        key,
        siteId: isOfSite ? this.site() : null,
      },
      content: { header: null, footer: null, bands: null, isLocked: false },
    });
    this.isBusy.set(false);
    if (id) this.made.emit(id);
  }
}
