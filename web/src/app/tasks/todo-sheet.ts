import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { TaskRow } from './task-row';
import { TasksService } from './tasks.service';
import { say } from '@domatium/core/words/tasks';
import { say as common } from '@domatium/core/words/common';

/** Everything that is to be done: mine, or everyone's. */
@Component({
  selector: 'dm-todo-sheet',
  imports: [WideSheet, TaskRow],
  template: `
    <dm-wide-sheet [heading]="common.toDo" [lead]="lead()" (closed)="place.go({ panel: null })">
      <div class="choice" role="group" [attr.aria-label]="say.whose">
        <button type="button" class="chip number" [attr.aria-pressed]="!isEveryones()" (click)="isEveryones.set(false)">
          {{ say.mine(tasks.mine().length) }}
        </button>
        <button type="button" class="chip number" [attr.aria-pressed]="isEveryones()" (click)="isEveryones.set(true)">
          {{ say.everyones(everyones().length) }}
        </button>
      </div>
      @for (task of shown(); track task.id) {
        <section>
          <button type="button" class="btn-link-plain page" (click)="place.go({ page: task.pageId, panel: null })">
            {{ task.pageName }}
          </button>
          <dm-task-row [task]="task" />
        </section>
      } @empty {
        <p>
          {{
            isEveryones()
              ? say.noTasksAddThemOnA
              : say.youHaveNoTasksRightNow
          }}
        </p>
      }
      @if (done().length) {
        <h3 class="section-label">{{ say.doneLately }}</h3>
        @for (task of done(); track task.id) {
          <dm-task-row [task]="task" />
        }
      }
    </dm-wide-sheet>
  `,
  styles: `
    .choice {
      display: flex;
      gap: 7px;
      margin-bottom: 10px;
    }
    section {
      border-bottom: 1px solid var(--rule-soft);
      padding: 6px 0;
    }
    .page {
      font-size: 0.8125rem;
      color: var(--quiet);
    }
    h3 {
      margin-top: 18px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TodoSheet {
  protected readonly common = common;
  protected readonly say = say;
  protected readonly place = inject(PlaceService);
  protected readonly tasks = inject(TasksService);
  protected readonly isEveryones = signal(false);
  protected readonly everyones = computed(() => this.tasks.all().filter(({ doneAt }) => doneAt === null));
  protected readonly shown = computed(() => (this.isEveryones() ? this.everyones() : this.tasks.mine()));
  protected readonly done = computed(() =>
    this.tasks
      .all()
      .filter(({ doneAt, personId }) => doneAt !== null && (this.isEveryones() || personId === this.tasks.me()))
      .slice(0, 20),
  );
  protected readonly lead = computed(() => {
    const overdue = this.shown().filter((task) => this.tasks.isOverdue(task)).length;
    return overdue ? say.overdueWithOverdue(overdue === 1 ? say.oneIs : say.are(overdue)) : say.nothingIsOverdue;
  });
}
