import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { IMPACTS, type TicketWire, URGENCIES } from '@core/desk';
import { KindChoice } from '../kinds/kind-choice';
import { Session } from '../../shell/session';
import { Why } from '../../ui/why';
import { TicketState } from './ticket.state';
import { picked } from '../../ui/picked';

/** How a ticket was sorted, each changed in place: priority, desk and line, kind, category. Lines of a list of facts. */
@Component({
  selector: 'dl-ticket-sorting',
  imports: [AsyncPipe, KindChoice, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let t = ticket();
    <dl class="facts">
      <dt>Priority</dt>
      <dd class="pair">
        <select
          #selectBox
          class="in"
          aria-label="Impact"
          [disabled]="!session.may('tickets.work')"
          (change)="state.edit({ impact: picked(impacts, selectBox.value) }, 'Impact changed')"
        >
          @for (i of impacts; track i) {
            <option [selected]="i === t.impact">{{ i }}</option>
          }
        </select>
        <select
          #selectBox2
          class="in"
          aria-label="Urgency"
          [disabled]="!session.may('tickets.work')"
          (change)="state.edit({ urgency: picked(urgencies, selectBox2.value) }, 'Urgency changed')"
        >
          @for (u of urgencies; track u) {
            <option [selected]="u === t.urgency">{{ u }}</option>
          }
        </select>
        @if (t.priorityWhy) {
          <dl-why [explanation]="t.priorityWhy" of="priority" />
        }
      </dd>
      <dt>Desk</dt>
      <dd>
        {{ t.desk }}{{ t.line === 'second' ? ', second line' : '' }}
        @if (session.may('tickets.work') && t.status !== 'resolved' && t.status !== 'closed') {
          <button type="button" class="btn-link" (click)="handOver.emit()">hand over <kbd>h</kbd></button>
        }
      </dd>
      <dt>Kind</dt>
      <dd>
        @if (session.may('tickets.work')) {
          @if (state.settings$ | async; as desk) {
            <dl-kind-choice [kinds]="desk.kinds" [kind]="t.kind" [ownKindId]="t.ownKindId" (chosen)="state.changeKind($event)" />
          }
        } @else {
          {{ t.ownKind ?? t.kind }}
        }
      </dd>
      <dt>About</dt>
      <dd>
        @if (session.may('tickets.work')) {
          <select
            #selectBox3
            class="in"
            aria-label="Category"
            (change)="state.edit({ categoryId: selectBox3.value || null }, 'Category changed')"
          >
            <option value="" [selected]="!t.categoryId">nothing yet</option>
            @for (group of state.categories$ | async; track group.name) {
              <optgroup [label]="group.name">
                @for (c of group.children; track c.id) {
                  <option [value]="c.id" [selected]="c.id === t.categoryId">{{ c.name }}</option>
                }
              </optgroup>
            }
          </select>
        } @else {
          {{ t.category }}
        }
      </dd>
    </dl>
  `,
  styles: `
    .facts {
      grid-template-columns: 68px minmax(0, 1fr);
    }
    .pair {
      display: flex;
      gap: 6px;
      align-items: center;
    }
  `,
})
export class TicketSorting {
  readonly ticket = input.required<TicketWire>();
  readonly handOver = output<void>();
  protected readonly state = inject(TicketState);
  protected readonly session = inject(Session);
  protected readonly picked = picked;
  protected readonly impacts = IMPACTS;
  protected readonly urgencies = URGENCIES;
}
