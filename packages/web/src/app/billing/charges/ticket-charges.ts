import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { TicketWire } from '@core/desk';
import { Session } from '../../shell/session';
import { MoneyPipe } from '../../ui/pipes';
import { AddCharge } from './add-charge';

/** What a ticket charges so far, each with its invoice, and a way to add an item. */
@Component({
  selector: 'dl-ticket-charges',
  imports: [RouterLink, MoneyPipe, AddCharge],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Charges
      @if (session.may('tickets.work') && ticket().clientId) {
        <button type="button" class="btn-link small" (click)="adding = !adding">add an item</button>
      }
    </h2>
    @if (adding) {
      <dl-add-charge [ticketId]="ticket().id" (saved)="adding = false; changed.emit()" (closed)="adding = false" />
    }
    @for (c of ticket().charges; track c.id) {
      <p class="charge small">
        <span
          >{{ c.description }} <span class="soft">{{ c.state }}</span>
          @if (c.invoiceId && session.may('invoices.read')) {
            <a [routerLink]="['/billing', c.invoiceId]">{{ c.invoice }}</a>
          }</span
        ><span class="mono">{{ { minor: c.minor, currency: c.currency } | money }}</span>
      </p>
    } @empty {
      <p class="soft small">none yet</p>
    }
  `,
  styles: `
    h2 {
      font-size: 13px;
      margin: 16px 0 6px;
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    .charge {
      display: flex;
      justify-content: space-between;
      gap: 10px;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule);
    }
  `,
})
export class TicketCharges {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  protected readonly session = inject(Session);
  protected adding = false;
}
