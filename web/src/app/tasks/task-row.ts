import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { TaskView } from '@domatium/contracts';
import { writeDay } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { TasksService } from './tasks.service';
import { say } from '@domatium/core/words/tasks';
import { say as common } from '@domatium/core/words/common';

/** One task: done or not, what, who, until when. */
@Component({
  selector: 'dm-task-row',
  template: `
    <label [class.done]="task().doneAt !== null">
      <input
        type="checkbox"
        class="form-check-input"
        [checked]="task().doneAt !== null"
        [disabled]="!service.mayWrite()"
        (change)="tasks.setDone(task(), $any($event.target).checked)"
      />
      <span class="text">{{ task().text }}</span>
    </label>
    <span class="quiet number facts">
      {{ task().person ?? say.nobodyYet }}
      @if (due(); as words) {
        · <span [class.overdue]="isOverdue()">{{ isOverdue() ? say.overdue : '' }}{{ words }}</span>
      }
    </span>
    @if (service.mayWrite()) {
      <button
        type="button"
        class="btn-link-plain quiet"
        [attr.aria-label]="say.remove(task().text)"
        (click)="tasks.remove(task())"
      >
        <i class="bi bi-x-lg" aria-hidden="true"></i>
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr auto;
      column-gap: 8px;
      padding: 4px 0;
    }
    label {
      display: flex;
      gap: 8px;
      align-items: baseline;
    }
    .text {
      overflow-wrap: anywhere;
    }
    .done .text {
      text-decoration: line-through;
      color: var(--quiet);
    }
    .facts {
      grid-column: 1;
      grid-row: 2;
      padding-left: 22px;
      font-size: 0.8125rem;
    }
    button {
      grid-column: 2;
      grid-row: 1;
    }
    .overdue {
      color: var(--ember);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TaskRow {
  protected readonly say = say;
  readonly task = input.required<TaskView>();
  protected readonly service = inject(RegisterService);
  protected readonly tasks = inject(TasksService);
  protected readonly isOverdue = computed(() => this.tasks.isOverdue(this.task()));
  protected readonly due = computed(() => {
    const { dueDay } = this.task();
    return dueDay === null ? null : dueDay === this.tasks.today() ? common.today : writeDay(dueDay);
  });
}
