import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { catchError, map, of, shareReplay } from 'rxjs';
import { templateRoutes, type TicketWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { Session } from '../../shell/session';
import { AtPipe } from '../../ui/pipes';
import { TicketState } from './ticket.state';

/** What is to be done on a ticket, perhaps by somebody and by a time; answered in place, added with Enter. */
@Component({
  selector: 'dl-checklist',
  imports: [AsyncPipe, AtPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Checklist
      @if (session.may('tickets.work')) {
        <button type="button" class="btn-link small" (click)="assign.emit()">for somebody, by a time</button>
      }
    </h2>
    @for (item of ticket().checklist; track item.id) {
      <label class="item"
        ><input
          #tickBox
          type="checkbox"
          [checked]="item.answer !== null"
          [disabled]="!session.may('tickets.work')"
          (change)="state.answerItem(item.id, tickBox.checked ? 'done' : null)"
        />
        <span
          >{{ item.text }}
          <span class="soft small"
            >{{ item.owner }}{{ item.owner && item.dueAt ? ', ' : '' }}{{ item.dueAt ? 'by ' : '' }}{{ item.dueAt | at }}</span
          ></span
        ></label
      >
    }
    @if (session.may('tickets.work')) {
      @if ((lists$ | async)?.length) {
        <select #selectBox class="in" aria-label="Put a checklist on it" (change)="put(selectBox.value); selectBox.selectedIndex = 0">
          <option value="">put a checklist on it …</option>
          @for (list of lists$ | async; track list.id) {
            <option [value]="list.id">{{ list.name }}</option>
          }
        </select>
      }
      <form (submit)="$event.preventDefault(); add.value.trim() && state.addItem(add.value); add.value = ''">
        <input #add class="in" type="text" aria-label="New checklist item" placeholder="something to do, Enter" maxlength="300" />
      </form>
    }
  `,
  styles: `
    select {
      margin-bottom: 6px;
    }
    h2 {
      font-size: 13px;
      margin: 16px 0 6px;
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    .item {
      display: flex;
      gap: 8px;
      padding: 3px 0;
    }
  `,
})
export class Checklist {
  readonly ticket = input.required<TicketWire>();
  /** Something is to be added with an owner and a time. */
  readonly assign = output<void>();
  protected readonly state = inject(TicketState);
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly lists$ = this.api.call(templateRoutes.listChecklistTemplates, {}).pipe(
    map((a) => a.checklists),
    catchError(() => of([])),
    shareReplay(1),
  );

  protected put(checklistId: Id<'checklist_template'>): void {
    if (!checklistId) return;
    this.api.call(templateRoutes.putChecklist, { params: { ticketId: this.ticket().id, checklistId } }).subscribe({
      next: ({ added }) => {
        this.toasts.done(added ? `${added} items are on the checklist` : 'They are all on the checklist already');
        this.state.retry();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
