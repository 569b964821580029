import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { DAY, isoInstant, later } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { DraftService } from './draft.service';
import { Panel } from './panel';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

/** The draft on a phone: a private link for a day, as a code to photograph. */
@Component({
  selector: 'dm-phone-panel',
  imports: [Panel],
  template: `
    <dm-panel [heading]="say.openOnAPhoneToo" [lead]="say.aPrivateLinkToThisDraft" (closed)="closed.emit()">
      <div class="middle">
        @if (code(); as src) {
          <img [src]="src" [alt]="say.qRCodeOfThePrivate" width="260" height="260" />
          <p class="mono">{{ address() }}</p>
          <p class="quiet">{{ say.pointThePhonesCameraAtThe }}</p>
        } @else if (trouble(); as text) {
          <p class="field-error" role="alert">{{ text }}</p>
        } @else {
          <button type="button" class="btn btn-primary" (click)="make()">{{ say.makeAPrivateLinkToThis }}</button>
          <p class="quiet">{{ say.anyoneWithTheLinkSeesThis }}</p>
        }
      </div>
    </dm-panel>
  `,
  styles: `
    .middle {
      display: grid;
      place-content: center;
      justify-items: center;
      gap: 10px;
      text-align: center;
    }
    p {
      margin: 0;
      max-width: 60ch;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhonePanel {
  protected readonly say = say;
  readonly closed = output();
  private readonly draft = inject(DraftService);
  private readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  protected readonly code = signal<string | null>(null);
  protected readonly address = signal('');
  protected readonly trouble = signal<string | null>(null);

  protected async make(): Promise<void> {
    try {
      await this.draft.keep();
      const endsAt = isoInstant(later(this.service.now(), DAY));
      const body = {
        name: say.onAPhone(this.draft.draft()?.name ?? common.page).slice(0, 200),
        pages: [this.draft.pageId()],
        endsAt,
        ...{ siteId: null, password: null },
      };
      const { address } = await this.client.call(api.newPrivateLink, {
        params: { portfolioId: this.service.portfolioId() },
        body,
      });
      const { default: qr } = await import('qrcode');
      this.code.set(await qr.toDataURL(address, { margin: 1, width: 520 }));
      this.address.set(address);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }
}
