import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import { KEYS } from '../shared/keys';
import { say } from '@domatium/core/words/shell';
import { say as common } from '@domatium/core/words/common';

@Component({
  selector: 'dm-keys-help',
  imports: [A11yModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="veil" (click)="closed.emit()"></div>
    <section role="dialog" cdkTrapFocus aria-modal="true" [attr.aria-label]="say.allKeys">
      <h2>{{ say.allKeys }}</h2>
      <dl>
        @for (key of keys; track key.shown) {
          <dt>
            <kbd>{{ key.shown }}</kbd>
          </dt>
          <dd>{{ key.does }}</dd>
        }
      </dl>
      <button type="button" class="btn btn-plain" (click)="closed.emit()">{{ common.close }}</button>
    </section>
  `,
  styles: `
    .veil {
      position: fixed;
      inset: 0;
      background: rgb(34 48 43 / 18%);
      z-index: 1100;
    }
    section {
      position: fixed;
      top: 12vh;
      left: 50%;
      transform: translateX(-50%);
      width: 400px;
      background: var(--surface);
      border-radius: var(--corner);
      box-shadow: var(--shadow);
      padding: 20px 24px;
      z-index: 1101;
    }
    h2 {
      font-size: 1rem;
      font-weight: 700;
    }
    dl {
      display: grid;
      grid-template-columns: 112px 1fr;
      gap: 6px 12px;
      margin: 12px 0 18px;
    }
    dd {
      margin: 0;
    }
    kbd {
      background: var(--ground);
      color: var(--ink);
      border: 1px solid var(--rule);
    }
  `,
})
export class KeysHelp {
  protected readonly say = say;
  protected readonly common = common;
  readonly closed = output();
  protected readonly keys = Object.values<{ shown: string; does: string }>(KEYS).filter(({ shown }) => shown);
}
