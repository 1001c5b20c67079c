import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type CreditFilter, type CreditRowWire, paymentRoutes } from '@core/billing';
import { formatMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { EmptyNote } from '../../ui/empty-note';
import { ListState, type Query } from '../../ui/list/list-state';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { RecordPayment } from './record-payment';
import { UseCredit } from './use-credit';

const TOPICS = ['invoice', 'payment'];

/** What clients paid and were credited, with what is left of each, and what it settles. */
@Component({
  selector: 'dl-credit-list',
  imports: [AsyncPipe, RouterLink, DatePipe, EmptyNote, MoneyPipe, RecordPayment, StateNote, UseCredit],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = list.list$ | async;
    @let rows = list.rows$ | async;
    @let query = list.query$ | async;
    <div class="page-body">
      <p class="bar">
        <label class="yes"
          ><input
            type="checkbox"
            [checked]="query?.['all'] !== 'true'"
            (change)="list.set({ all: query?.['all'] === 'true' ? undefined : 'true' })"
          />
          only what has something left</label
        >
        <span class="grow"></span>
        @if (session.may('invoices.issue')) {
          <button type="button" class="btn-plain" (click)="recording.set(!recording())">Record a payment</button>
        }
      </p>
      @if (recording()) {
        <dl-record-payment (saved)="recording.set(false); list.retry()" (closed)="recording.set(false)" />
      }
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="list.retry()" />
      } @else if (now && rows) {
        @if (rows.length) {
          <table class="rows panel">
            <thead>
              <tr>
                <th>What</th>
                <th>Client</th>
                <th>On</th>
                <th class="num">Amount</th>
                <th class="num">Left</th>
                <th><span class="visually-hidden">Act</span></th>
              </tr>
            </thead>
            <tbody>
              @for (c of rows; track c.id) {
                <tr>
                  <td>
                    @if (c.source === 'credit note') {
                      <a class="ink-link mono" [routerLink]="['/billing', c.name]">{{ c.name }}</a>
                    } @else {
                      {{ c.name }}
                    }
                  </td>
                  <td>
                    @if (c.clientId) {
                      <a class="ink-link" [routerLink]="['/clients', c.clientId]">{{ c.client }}</a>
                    } @else {
                      <span class="late">nobody knows whose</span>
                    }
                  </td>
                  <td class="soft">{{ c.on | date }}</td>
                  <td class="num">{{ c.amount | money }}</td>
                  <td class="num">{{ c.left.minor ? words(c) : '–' }}</td>
                  <td class="act">
                    @if (c.left.minor && session.may('invoices.issue')) {
                      <button type="button" class="btn-plain" [attr.aria-expanded]="using() === c.id" (click)="use(c)">
                        {{ c.clientId ? 'Settle an invoice' : 'Say whose it is' }}
                      </button>
                    }
                  </td>
                </tr>
                @if (using() === c.id) {
                  <tr>
                    <td colspan="6">
                      <dl-use-credit [credit]="c" (done)="using.set(undefined); list.retry()" (closed)="using.set(undefined)" />
                    </td>
                  </tr>
                }
              }
            </tbody>
          </table>
          @if (rows.length < now.value.count || now.value.countCapped) {
            <button type="button" class="btn-plain" (click)="list.showMore()">Show more</button>
          }
        } @else {
          <dl-empty-note title="No money waits to be used"
            >Payments come from the ledger and settle the invoice they name. What is over, and credit notes of what was paid, stand
            here.</dl-empty-note
          >
        }
      }
    </div>
  `,
  styles: `
    :host {
      display: contents;
    }
    .bar {
      display: flex;
      align-items: center;
      gap: 12px;
      margin: 0 0 10px;
    }
    dl-record-payment {
      display: block;
      margin-bottom: 12px;
    }
    .act {
      text-align: right;
      width: 170px;
    }
  `,
})
export class CreditList {
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected readonly recording = signal(false);
  protected readonly using = signal<string | undefined>(undefined);
  protected readonly list = new ListState<CreditRowWire>({
    name: 'credit',
    topics: TOPICS,
    ownWords: ['show'],
    load: (query, page) => this.api.call(paymentRoutes.listCredit, { query: { ...filterOf(query), ...page } }),
  });

  protected use(c: CreditRowWire): void {
    this.using.set(this.using() === c.id ? undefined : c.id);
  }

  protected words(c: CreditRowWire): string {
    return formatMoney(c.left);
  }
}

function filterOf(query: Query): Partial<CreditFilter> {
  return query['all'] === 'true' ? {} : { left: true };
}
