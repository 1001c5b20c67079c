import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { map, merge, shareReplay, startWith, Subject } from 'rxjs';
import { INVOICE_STATES, invoiceRoutes, type DraftWire, type InvoiceFilter, type InvoiceRowWire } from '@core/billing';
import { formatMoney, plainMoney } from '@core/ground';
import { howMuch } from '../charges/how-much';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { EmptyNote } from '../../ui/empty-note';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { Cell, List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState } from '../../ui/list/list-state';
import { loading } from '../../ui/loading';
import { MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { plainDate } from '../../ui/time-format';
import { ViewMenu } from '../../house/views/view-menu';

const COLUMNS: readonly Column<InvoiceRowWire>[] = [
  { key: 'number', head: 'Number', text: (i) => i.number, link: (i) => `/billing/${i.id}`, kind: 'code', sort: 'number', width: '140px' },
  { key: 'client', head: 'Client', text: (i) => i.client, sort: 'client' },
  {
    key: 'issued',
    head: 'Issued',
    text: (i) => plainDate(i.issuedOn),
    file: (i) => i.issuedOn,
    kind: 'soft',
    sort: 'issued',
    width: '130px',
  },
  { key: 'due', head: 'Due', text: (i) => plainDate(i.dueOn), file: (i) => i.dueOn, kind: 'soft', sort: 'due', width: '130px' },
  { key: 'mailed', head: 'Mailed', text: (i) => (i.undeliveredAt ? 'not delivered' : i.mailedAt ? 'yes' : 'waits'), width: '110px' },
  { key: 'booked', head: 'Booked', text: (i) => (i.ledgerAt ? 'yes' : 'waits'), width: '80px' },
  { key: 'state', head: 'State', text: (i) => i.state, width: '100px' },
  {
    key: 'left',
    head: 'Left',
    text: (i) => (i.left.minor ? formatMoney(i.left) : '–'),
    file: (i) => plainMoney(i.left),
    kind: 'figure',
    width: '120px',
  },
  {
    key: 'gross',
    head: 'With tax',
    text: (i) => formatMoney(i.gross),
    file: (i) => plainMoney(i.gross),
    kind: 'figure',
    sort: 'gross',
    width: '120px',
  },
];

/** What would go out, client by client, and what went out: mailed, booked, paid. */
@Component({
  selector: 'dl-billing-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, Cell, EmptyNote, FilterChoice, FilterWords, List, ListHead, MoneyPipe, StateNote, ViewMenu],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let drafts = drafts$ | async;
    @let query = list.query$ | async;
    @let issued = query?.['show'] === 'issued';
    <div class="page">
      <dl-list-head [list]="list" title="Billing" noun="issued">
        <div class="views" filter role="group" aria-label="What to show">
          <button type="button" [attr.aria-pressed]="!issued" (click)="list.set({ show: undefined })">Waiting for an invoice</button>
          <button type="button" [attr.aria-pressed]="issued" (click)="list.set({ show: 'issued' })">Issued</button>
        </div>
        <ng-container ngProjectAs="[filter]">
          @if (issued) {
            <dl-filter-choice [list]="list" name="state" label="State" any="any state" [options]="states" />
            <dl-filter-words [list]="list" label="Number" />
          }
        </ng-container>
        @if (issued) {
          <dl-view-menu name="invoices" [list]="list" [columns]="columns" />
        }
      </dl-list-head>
      @if (issued) {
        <dl-list [list]="list" [columns]="columns" label="Issued invoices" usualSort="issued">
          <ng-template dlCell="state" [dlCellOf]="list" let-row>
            <span [class.late]="row.state === 'overdue'" [class.met]="row.state === 'paid'">{{ row.state }}</span>
          </ng-template>
          <dl-empty-note title="No invoice fits">Take a filter away above, or issue what waits.</dl-empty-note>
        </dl-list>
      } @else {
        <div class="page-body" dlArrowRows>
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
        </div>
      }
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
  protected readonly columns = COLUMNS;
  protected readonly states = INVOICE_STATES.map((s) => ({ value: s, label: s }));
  protected readonly list = new ListState<InvoiceRowWire>({
    name: 'invoices',
    topics: ['invoice'],
    ownWords: ['show'],
    load: (query, page) => this.api.call(invoiceRoutes.listInvoices, { query: { ...(query as Partial<InvoiceFilter>), ...page } }),
  });

  protected amount(l: DraftWire['lines'][number]): string {
    return howMuch(l, l.net.currency);
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
}
