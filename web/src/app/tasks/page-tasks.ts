import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { newTaskBody } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { DayField } from '../shared/day-field';
import { errorsOf } from '../hub/forms';
import { TaskRow } from './task-row';
import { TasksService } from './tasks.service';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/tasks';

/** The tasks of a page, and a line to add one. */
@Component({
  selector: 'dm-page-tasks',
  imports: [TaskRow, DayField],
  template: `
    <h3 class="section-label">{{ common.toDo }}</h3>
    @for (task of open(); track task.id) {
      <dm-task-row [task]="task" />
    } @empty {
      <p class="quiet">{{ say.nothing }}</p>
    }
    @if (service.mayWrite()) {
      @if (isAdding()) {
        <input
          #text
          class="form-control"
          [attr.aria-label]="common.toDo"
          [placeholder]="common.toDo"
          maxlength="500"
          [class.is-invalid]="!!error()"
          (keydown.enter)="add(text)"
        />
        <div class="with">
          <select class="form-select" [attr.aria-label]="say.whoDoesIt" (change)="personId.set(+$any($event.target).value || null)">
            <option value="" [selected]="personId() === null">{{ say.nobodyYet }}</option>
            @for (person of service.head()?.people; track person.id) {
              <option [value]="person.id" [selected]="person.id === personId()">{{ person.name }}</option>
            }
          </select>
          <dm-day-field [label]="say.due" [value]="dueDay()" (changed)="dueDay.set($event)" />
        </div>
        @if (error(); as words) {
          <div class="field-error" role="alert">{{ words }}</div>
        }
        <div class="with">
          <button type="button" class="btn btn-plain" (click)="add(text)">{{ say.addIt }}</button>
          <button type="button" class="btn-link-plain quiet" (click)="isAdding.set(false)">{{ say.notNow }}</button>
        </div>
      } @else {
        <button type="button" class="btn-link-plain quiet" (click)="isAdding.set(true)">{{ say.addATask }}</button>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      border-top: 1px solid var(--rule);
      margin-top: 12px;
      padding: 12px 0;
    }
    p {
      margin: 0;
    }
    .with {
      display: flex;
      gap: 8px;
      margin-top: 6px;
    }
    .form-select {
      flex: 1;
      min-width: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageTasks {
  protected readonly common = common;
  protected readonly say = say;
  readonly pageId = input.required<number>();
  protected readonly service = inject(RegisterService);
  private readonly tasks = inject(TasksService);
  protected readonly open = computed(() =>
    this.tasks.all().filter(({ pageId, doneAt }) => pageId === this.pageId() && doneAt === null),
  );
  protected readonly isAdding = signal(false);
  protected readonly personId = signal<number | null>(this.tasks.me());
  protected readonly dueDay = signal<string | null>(null);
  protected readonly error = signal<string | null>(null);

  protected async add(field: HTMLInputElement): Promise<void> {
    const body = { text: field.value, personId: this.personId(), dueDay: this.dueDay() };
    const [wrong = null] = Object.values(errorsOf(newTaskBody, body));
    const refusal = wrong ?? (await this.tasks.add(this.pageId(), body.text, body.personId, body.dueDay));
    this.error.set(refusal);
    if (!refusal) this.isAdding.set(false);
  }
}
