import { AsyncPipe, NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { INVOICE_SORTS, INVOICE_STATES, invoiceRoutes, type InvoiceFilter, type InvoiceRowWire } from '@core/billing';
import { formatMoney, money, type Money, plainMoney } from '@core/ground';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { EmptyNote } from '../../ui/empty-note';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { Cell, List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState, type Query } from '../../ui/list/list-state';
import { plainDate } from '../../ui/time-format';
import { Ageing } from '../ageing/ageing';
import { BankLines } from '../bank/bank-lines';
import { HouseTerms } from '../billing-terms/house-terms';
import { CheckBooks } from '../books/check-books';
import { Journal } from '../journal/journal';
import { CreditList } from '../payments/credit-list';
import { everyClient } from '../payments/every-client';
import { OpenTabs } from '../open-tab/open-tabs';
import { Reminders } from '../reminders/reminders';
import { RunList } from '../runs/run-list';
import { RunStart } from '../runs/run-start';
import { Drafts } from './drafts';

/** A credit note gives what it comes to. */
const signed = ({ kind, gross }: InvoiceRowWire): Money => (kind === 'credit note' ? money(-gross.minor, gross.currency) : gross);

const SHOWS = [
  { show: 'waiting', words: 'Waiting for an invoice' },
  { show: 'open', words: 'Open tab' },
  { show: 'runs', words: 'Runs' },
  { show: 'issued', words: 'Issued' },
  { show: 'bank', words: 'Bank' },
  { show: 'payments', words: 'Payments and credit' },
  { show: 'ageing', words: 'Ageing' },
  { show: 'reminders', words: 'Reminders' },
  { show: 'books', words: 'Books' },
];

const COLUMNS: readonly Column<InvoiceRowWire>[] = [
  {
    key: 'number',
    head: 'Number',
    text: (i) => i.number,
    link: (i) => `/billing/${i.number}`,
    kind: 'code',
    sort: '-number',
    width: '112px',
  },
  { key: 'kind', head: 'What', text: (i) => i.kind, kind: 'soft', width: '92px' },
  {
    key: 'client',
    head: 'Client',
    text: (i) => (i.billedFor ? `${i.client}, ${i.billedFor}` : i.client),
    file: (i) => i.client,
    sort: 'client',
  },
  {
    key: 'issued',
    head: 'Issued',
    text: (i) => plainDate(i.issuedOn),
    file: (i) => i.issuedOn,
    kind: 'soft',
    sort: '-issued',
    width: '106px',
  },
  { key: 'due', head: 'Due', text: (i) => plainDate(i.dueOn), file: (i) => i.dueOn, kind: 'soft', sort: 'due', width: '106px' },
  { key: 'mailed', head: 'Mailed', text: (i) => (i.undeliveredAt ? 'not delivered' : i.mailedAt ? 'yes' : 'waits'), width: '98px' },
  { key: 'booked', head: 'Booked', text: (i) => (i.ledgerAt ? 'yes' : 'waits'), width: '76px' },
  { key: 'state', head: 'State', text: (i) => i.state, width: '100px' },
  {
    key: 'left',
    head: 'Left',
    text: (i) => (i.left.minor ? formatMoney(i.left) : '–'),
    file: (i) => plainMoney(i.left),
    kind: 'figure',
    width: '112px',
  },
  {
    key: 'gross',
    head: 'With tax',
    text: (i) => formatMoney(signed(i)),
    file: (i) => plainMoney(signed(i)),
    kind: 'figure',
    sort: '-gross',
    width: '112px',
  },
];

/** What waits for an invoice, what went out, and what clients paid. */
@Component({
  selector: 'dl-billing-page',
  imports: [
    AsyncPipe,
    NgTemplateOutlet,
    Ageing,
    BankLines,
    CheckBooks,
    CreditList,
    Drafts,
    Cell,
    EmptyNote,
    FilterChoice,
    FilterWords,
    HouseTerms,
    Journal,
    List,
    ListHead,
    OpenTabs,
    Reminders,
    RunList,
    RunStart,
    ViewMenu,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let query = list.query$ | async;
    @let show = query?.['show'] ?? 'waiting';
    <div class="page">
      @if (show === 'issued') {
        <dl-list-head [list]="list" title="Billing" noun="issued">
          <ng-container ngProjectAs="[filter]">
            <ng-container [ngTemplateOutlet]="tabs" />
            <dl-filter-choice [list]="list" name="clientId" label="Client" any="any client" [options]="clients()" />
            <dl-filter-choice [list]="list" name="state" label="State" any="any state" [options]="states" />
            <dl-filter-words [list]="list" label="Number" />
          </ng-container>
          <dl-view-menu name="invoices" [list]="list" [columns]="columns" />
        </dl-list-head>
        <dl-list [list]="list" [columns]="columns" label="Issued documents" usualSort="-issued">
          <ng-template dlCell="state" [dlCellOf]="list" let-row>
            <span [class.late]="row.state === 'overdue'" [class.met]="row.state === 'paid'">{{ row.state }}</span>
          </ng-template>
          <dl-empty-note title="No document fits">Take a filter away above, or issue what waits.</dl-empty-note>
        </dl-list>
      } @else {
        <header class="page-head">
          <h1>Billing</h1>
          <ng-container [ngTemplateOutlet]="tabs" />
          <span class="grow"></span>
          @if (show === 'waiting' || show === 'runs') {
            <dl-run-start />
          }
        </header>
        @if (show === 'open') {
          <dl-open-tabs />
        } @else if (show === 'bank') {
          <dl-bank-lines />
        } @else if (show === 'ageing') {
          <dl-ageing />
        } @else if (show === 'reminders') {
          <dl-reminders />
        } @else if (show === 'books') {
          <div class="page-body books">
            <section>
              <h2>Journal</h2>
              <dl-journal />
            </section>
            <section>
              <h2>Check</h2>
              <dl-check-books />
            </section>
          </div>
        } @else if (show === 'payments') {
          <dl-credit-list />
        } @else if (show === 'runs') {
          <dl-house-terms />
          <dl-run-list />
        } @else {
          <dl-drafts />
        }
      }
    </div>
    <ng-template #tabs>
      <div class="views" role="group" aria-label="What to show">
        @for (tab of shows; track tab.show) {
          <button type="button" [attr.aria-pressed]="show === tab.show" (click)="go(tab.show)">{{ tab.words }}</button>
        }
      </div>
    </ng-template>
  `,
  styles: `
    .books section {
      max-width: 640px;
      margin-bottom: 26px;
    }
  `,
})
export class BillingPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly shows = SHOWS;
  protected readonly columns = COLUMNS;
  protected readonly clients = toSignal(everyClient(this.api), { initialValue: [] });
  protected readonly states = INVOICE_STATES.map((s) => ({ value: s, label: s }));
  protected readonly list = new ListState<InvoiceRowWire>({
    name: 'invoices',
    topics: ['invoice'],
    ownWords: ['show'],
    load: (query, page) => this.api.call(invoiceRoutes.listInvoices, { query: { ...invoiceFilter(query), ...page } }),
  });

  /** Each has filters of its own. */
  protected go(show: string): void {
    void this.router.navigate([], { queryParams: show === 'waiting' ? {} : { show } });
  }
}

/** The other lists of this page sort and narrow by other words. */
function invoiceFilter(query: Query): Partial<InvoiceFilter> {
  const sort = query['sort']?.replace('-', '');
  const known = INVOICE_SORTS.some((s) => s.replace('-', '') === sort);
  return { ...(query as Partial<InvoiceFilter>), ...(known ? {} : { sort: INVOICE_SORTS[0] }) };
}
