import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { map, merge, shareReplay, startWith, Subject } from 'rxjs';
import { invoiceRoutes, type DraftWire, type InvoiceRowWire } from '@core/invoices';
import { formatMoney, plainMoney } from '@core/money';
import { formatMinutes } from '@core/time';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { ArrowRows } from '../ui/arrow-rows';
import { downloadCsv } from '../ui/csv';
import { EmptyNote } from '../ui/empty-note';
import { loading } from '../ui/loading';
import { DatePipe, MoneyPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';

/** What would go out, client by client, and what went out: mailed, booked, paid. */
@Component({
  selector: 'dl-billing-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, EmptyNote, DatePipe, MoneyPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let drafts = drafts$ | async;
    @let list = list$ | async;
    <div class="page">
      <header class="page-head">
        <h1>Billing</h1>
        <span class="grow"></span>
        @if (list && list.is === 'there') {
          <button type="button" class="btn-link" (click)="export(list.value)">CSV</button>
        }
      </header>
      <div class="page-body" dlArrowRows>
        <h2>Cleared, waiting for an invoice</h2>
        @if (drafts && drafts.is !== 'there') {
          <dl-state-note [state]="drafts" (again)="again.next()" />
        } @else if (drafts) {
          @for (d of drafts.value; track d.clientId) {
            <section class="panel">
              <header>
                <button
                  type="button"
                  class="fold"
                  data-row
                  [attr.aria-expanded]="open() === d.clientId"
                  (click)="open.set(open() === d.clientId ? undefined : d.clientId)"
                >
                  {{ open() === d.clientId ? '▾' : '▸' }} <b>{{ d.client }}</b>
                </button>
                <span class="soft small">{{ d.lines.length }} charges</span>
                <span class="grow"></span>
                <span class="soft small">net {{ d.net | money }}, tax {{ d.tax | money }}</span>
                <b class="mono">{{ d.gross | money }}</b>
                @if (session.may('invoices.issue')) {
                  <button type="button" class="btn-main" [disabled]="issuing()" (click)="issue(d)">Issue</button>
                }
              </header>
              @if (open() === d.clientId) {
                <table class="rows">
                  @for (l of d.lines; track l.chargeId) {
                    <tr>
                      <td>{{ l.description }}</td>
                      <td class="num">{{ amount(l) }}</td>
                      <td class="num">{{ l.taxPercent }} %</td>
                      <td class="num">{{ l.net | money }}</td>
                    </tr>
                  }
                  @for (g of d.groups; track g.category + g.percent) {
                    <tr class="soft">
                      <td colspan="3" class="num">
                        {{ g.category === 'E' ? 'exempt from tax' : 'tax ' + g.percent + ' %' }} on {{ g.base | money }}
                      </td>
                      <td class="num">{{ g.tax | money }}</td>
                    </tr>
                  }
                </table>
              }
            </section>
          } @empty {
            <dl-empty-note title="Nothing waits for an invoice"
              >Approve charges in <a routerLink="/charges">charge review</a>; they come up here by client.</dl-empty-note
            >
          }
        }
        <h2 class="second">Issued</h2>
        @if (list && list.is !== 'there') {
          <dl-state-note [state]="list" (again)="again.next()" />
        } @else if (list) {
          <table class="rows">
            <thead>
              <tr>
                <th>Number</th>
                <th>Client</th>
                <th>Issued</th>
                <th>Due</th>
                <th>Mailed</th>
                <th>Booked</th>
                <th>State</th>
                <th class="num">Left</th>
                <th class="num">Gross</th>
              </tr>
            </thead>
            <tbody>
              @for (i of list.value; track i.id) {
                <tr>
                  <td>
                    <a class="ink-link mono" data-row [routerLink]="['/billing', i.id]">{{ i.number }}</a>
                  </td>
                  <td>{{ i.client }}</td>
                  <td class="soft">{{ i.issuedOn | date }}</td>
                  <td class="soft">{{ i.dueOn | date }}</td>
                  <td>{{ i.mailedAt ? 'yes' : 'waits' }}</td>
                  <td>{{ i.ledgerAt ? 'yes' : 'waits' }}</td>
                  <td [class.late]="i.state === 'overdue'" [class.met]="i.state === 'paid'">{{ i.state }}</td>
                  <td class="num">{{ i.left.minor ? (i.left | money) : '–' }}</td>
                  <td class="num">{{ i.gross | money }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    </div>
  `,
  styles: `
    section {
      margin: 8px 0;
    }
    section > header {
      display: flex;
      gap: 14px;
      align-items: center;
      padding: 6px 12px;
      min-height: 44px;
    }
    .fold {
      border: 0;
      background: none;
      font: inherit;
      color: inherit;
      padding: 4px;
      cursor: pointer;
    }
    .second {
      margin: 24px 0 8px;
    }
  `,
})
export class BillingPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly open = signal<string | undefined>(undefined);
  protected readonly issuing = signal(false);
  private readonly changes$ = merge(inject(Live).about('charge', 'invoice'), this.again).pipe(
    startWith(undefined),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly drafts$ = loading(this.changes$, () => this.api.call(invoiceRoutes.listDrafts, {}).pipe(map((a) => a.drafts)));
  protected readonly list$ = loading(this.changes$, () => this.api.call(invoiceRoutes.listInvoices, {}).pipe(map((a) => a.invoices))).pipe(
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  protected amount(l: DraftWire['lines'][number]): string {
    return l.unit === 'MIN' ? `${formatMinutes(Number(l.quantity))} at ${l.unitPrice}` : `${l.quantity} × ${l.unitPrice}`;
  }

  protected issue(d: DraftWire): void {
    if (
      !confirm(
        `Issue an invoice to ${d.client} over ${formatMoney(d.gross)}? It is mailed at once and never changes; only a credit note corrects it.`,
      )
    )
      return;
    this.issuing.set(true);
    this.api.call(invoiceRoutes.issueInvoice, { body: { clientId: d.clientId, chargeIds: d.lines.map((l) => l.chargeId) } }).subscribe({
      next: (done) => {
        this.issuing.set(false);
        this.toasts.done(`${done.number} issued; it is on its way`);
        void this.router.navigate(['/billing', done.id]);
      },
      error: (fault: unknown) => {
        this.issuing.set(false);
        this.toasts.trouble(fault);
        this.again.next();
      },
    });
  }

  protected export(rows: readonly InvoiceRowWire[]): void {
    downloadCsv(
      'invoices.csv',
      ['number', 'client', 'issued', 'due', 'state', 'left', 'gross'],
      rows.map((i) => [i.number, i.client, i.issuedOn, i.dueOn, i.state, plainMoney(i.left), plainMoney(i.gross)]),
    );
  }
}
