import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, startWith, Subject } from 'rxjs';
import { type NextInvoiceWire, recurringChargeRoutes } from '@core/billing';
import type { ContractWire } from '@core/contracts';
import { formatMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DateInput } from '../../ui/date-input';
import { loading } from '../../ui/loading';
import { MoneyPipe, UnitPricePipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';
import { Why } from '../../ui/why';

/** What a run on any day would bill of a contract, and why; nothing is stored before it is proposed. */
@Component({
  selector: 'dl-next-invoice',
  imports: [AsyncPipe, DateInput, MoneyPipe, RouterLink, StateNote, UnitPricePipe, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = next$ | async;
    <h2>
      <span>Next invoice on</span>
      <dl-date label="Next invoice on" [value]="on()" (changed)="$event && on.set($event)" />
    </h2>
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      @let n = now.value;
      <table class="rows">
        @for (d of n.due; track d.lineId + d.from) {
          <tr>
            <td>{{ d.line }}</td>
            <td>
              {{ d.period }}
              @if (d.is === 'true-up') {
                <span class="tag">true-up</span>
              }
              @if (d.proposed) {
                <span class="soft small">in charge review</span>
              }
            </td>
            <td class="num">
              @if (d.is === 'new' && d.quantity !== '1') {
                {{ d.quantity }} × {{ d.price | unitPrice: d.amount.currency }}
              }
            </td>
            <td class="num mono">{{ d.amount | money }}</td>
            <td><dl-why [explanation]="d.why" [of]="d.line + ', ' + d.period" /></td>
          </tr>
        } @empty {
          <tr>
            <td colspan="5" class="soft">Nothing more is due by then.</td>
          </tr>
        }
        @if (n.due.length) {
          <tr class="sum">
            <td colspan="3">Together, without tax</td>
            <td class="num mono">{{ n.total | money }}</td>
            <td></td>
          </tr>
        }
      </table>
      @for (d of n.outOfReach; track d.lineId + d.from) {
        <p class="late small">
          {{ d.line }}, {{ d.period }}: {{ d.amount | money }} differ, more than 12 periods back; a run leaves it.
          <dl-why [explanation]="d.why" [of]="d.line + ', ' + d.period" />
        </p>
      }
      @if (n.proposed.count) {
        <p class="small">
          <a class="ink-link" routerLink="/charges" [queryParams]="{ clientId: contract().clientId }"
            >{{ n.proposed.count }} {{ n.proposed.count === 1 ? 'charge' : 'charges' }}</a
          >
          of this contract {{ n.proposed.count === 1 ? 'waits' : 'wait' }} in charge review, {{ n.proposed.net | money }}.
        </p>
      }
      @if (isNew(n) && contract().state !== 'draft' && session.may('charges.decide')) {
        <p>
          <button type="button" class="btn-plain" [disabled]="busy()" (click)="propose()">Propose these charges</button>
        </p>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 22px;
    }
    h2 {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-bottom: 8px;
    }
    .sum td {
      font-weight: 700;
      border-top: 2px solid var(--rule);
    }
  `,
})
export class NextInvoice {
  readonly contract = input.required<ContractWire>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly busy = signal(false);
  protected readonly on = signal(isoDay(this.session.now(), this.session.zone));
  protected readonly next$ = loading(
    combineLatest([
      toObservable(this.contract),
      toObservable(this.on),
      this.again.pipe(startWith(undefined)),
      inject(Live)
        .touching(() => ({ topics: ['charge', 'invoice'], records: new Set<string>(), clientId: this.contract().clientId }))
        .pipe(startWith(undefined)),
    ]),
    ([{ id: contractId }, on]) => this.api.call(recurringChargeRoutes.getNextInvoice, { params: { contractId }, query: { on } }),
  );

  /** Whether something is due that is not in charge review just so. */
  protected isNew({ due }: NextInvoiceWire): boolean {
    return due.some((d) => !d.proposed);
  }

  protected propose(): void {
    this.busy.set(true);
    const asked = { params: { contractId: this.contract().id }, body: { on: this.on() } };
    this.api.call(recurringChargeRoutes.proposeRecurring, asked).subscribe({
      next: ({ proposed, net }) => {
        this.busy.set(false);
        this.toasts.done(`${proposed} ${proposed === 1 ? 'charge' : 'charges'} proposed, ${formatMoney(net)}`);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }
}
