import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { PicturesService } from './pictures.service';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

/** What is on its way in, what was refused and why, and pictures whose sizes are being made. */
@Component({
  selector: 'dm-uploads',
  template: `
    @for (one of pictures.uploads(); track one.key) {
      <div class="one" [class.refused]="one.refusal" [attr.role]="one.refusal ? 'alert' : null">
        <span class="name" [title]="one.name">{{ one.name }}</span>
        @if (one.refusal) {
          <span class="field-error">{{ one.refusal }}</span>
          <button type="button" class="btn-link-plain quiet" (click)="pictures.cancel(one.key)">{{ say.close }}</button>
        } @else {
          <span class="quiet number">{{ say.sent(percent(one.share)) }}</span>
          <button type="button" class="btn-link-plain quiet" (click)="pictures.cancel(one.key)">{{ say.cancel }}</button>
        }
      </div>
    }
    @if (making().count; as count) {
      <p class="quiet number" role="status">
        {{ say.makingSizesOf(count, count === 1 ? common.picture : say.pictures, percent(making().share)) }}
      </p>
    }
  `,
  styles: `
    .one {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 10px;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule-soft);
    }
    .name {
      flex: 1 1 120px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .refused .field-error {
      flex: 1 1 100%;
      order: 3;
    }
    p {
      margin: 6px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Uploads {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly pictures = inject(PicturesService);
  protected readonly making = computed(() => {
    const waiting = this.pictures.pictures().filter(({ state }) => state === 'waiting');
    return {
      count: waiting.length,
      share: waiting.reduce((sum, { progress }) => sum + progress, 0) / Math.max(1, waiting.length),
    };
  });

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }
}
