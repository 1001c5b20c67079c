import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BehaviorSubject, combineLatest, filter, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { invoiceRoutes, type InvoiceWire, sayQuantity } from '@core/billing';
import { Api, urlOf } from '../../shell/api';
import { Live } from '../../shell/live';
import { PageAddress } from '../../shell/page-address';
import { loading } from '../../ui/loading';
import { AtPipe, DatePipe, MoneyPipe, UnitPricePipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';

/** The document as the client gets it, with each line's trail, and what became of it. */
@Component({
  selector: 'dl-invoice-page',
  imports: [AsyncPipe, RouterLink, AtPipe, DatePipe, MoneyPipe, UnitPricePipe, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = invoice$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      @let i = now.value;
      <div class="page">
        <header class="page-head">
          <h1 class="mono">{{ i.number }}</h1>
          <a class="ink-link" [routerLink]="['/clients', i.clientId]">{{ i.client }}</a>
          <span class="tag" [class.late]="i.state === 'overdue'" [class.met]="i.state === 'paid'">{{ i.state }}</span>
          <span class="grow"></span>
          <a class="btn-plain" [href]="pdf(i.id)" download>PDF</a>
          <a class="btn-plain" [href]="ubl(i.id)" download>EN 16931 UBL</a>
        </header>
        <div class="page-body columns">
          <section class="paper panel" aria-label="Document">
            <div class="parties">
              <p>
                <b>{{ i.seller.name }}</b><br />{{ i.seller.street }}<br />{{ i.seller.postcode }} {{ i.seller.city }}<br />{{
                  i.seller.taxNumber
                }}
              </p>
              <p>
                <b>{{ i.buyer.name }}</b><br />{{ i.buyer.street }}<br />{{ i.buyer.postcode }} {{ i.buyer.city }}<br />{{
                  i.buyer.taxNumber
                }}
              </p>
            </div>
            <p class="soft">Issued {{ i.issuedOn | date }}, due {{ i.dueOn | date }}</p>
            <table class="rows">
              <thead>
                <tr>
                  <th><span class="visually-hidden">Line</span></th>
                  <th>What</th>
                  <th class="num">How much</th>
                  <th class="num">Price</th>
                  <th class="num">Tax</th>
                  <th class="num">Net</th>
                </tr>
              </thead>
              <tbody>
                @for (l of i.lines; track l.position) {
                  <tr>
                    <td class="soft">{{ l.position }}</td>
                    <td>
                      {{ l.description }}
                      @for (t of l.trail; track t.chargeId) {
                        <span class="small">
                          @if (t.ticketId) {
                            <a class="ink-link mono" [routerLink]="['/tickets', t.ticketId]">#{{ t.ticketNumber }}</a>
                          }
                          <dl-why [explanation]="t.why" [of]="'line ' + l.position" />
                        </span>
                      }
                    </td>
                    <td class="num">{{ amount(l) }}</td>
                    <td class="num">{{ l.unitPrice | unitPrice: l.net.currency }}{{ l.unit === 'MIN' ? ' / h' : '' }}</td>
                    <td class="num">{{ l.taxPercent }} %</td>
                    <td class="num">{{ l.net | money }}</td>
                  </tr>
                }
              </tbody>
            </table>
            <table class="totals">
              <tr>
                <td>Net</td>
                <td class="num">{{ i.net | money }}</td>
              </tr>
              @for (g of i.groups; track g.category + g.percent) {
                <tr>
                  <td>{{ g.category === 'E' ? 'Exempt from tax' : 'Tax ' + g.percent + ' %' }} on {{ g.base | money }}</td>
                  <td class="num">{{ g.tax | money }}</td>
                </tr>
              }
              <tr class="sum">
                <td>To pay</td>
                <td class="num">{{ i.gross | money }}</td>
              </tr>
            </table>
          </section>
          <aside>
            <h2>What became of it</h2>
            <dl class="facts">
              <dt>Paid</dt>
              <dd class="mono">{{ i.paid | money }}</dd>
              <dt>Left</dt>
              <dd class="mono" [class.late]="i.state === 'overdue'">{{ i.left | money }}</dd>
            </dl>
            @for (e of i.events; track $index) {
              <p class="event">
                <span class="mono small soft">{{ e.at | at }}</span><span
                  ><span [class.late]="e.what === 'not delivered'">{{ e.what }}</span> <span class="soft small">{{ e.detail }}</span></span
                >
              </p>
            }
            @if (!i.mailedAt) {
              <p class="event wait"><span></span><span>waits to be mailed; it is tried by itself</span></p>
            }
            @if (!i.ledgerAt) {
              <p class="event wait"><span></span><span>waits for the ledger; it is tried by itself</span></p>
            }
          </aside>
        </div>
      </div>
    }
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 280px;
      gap: 24px;
      align-items: start;
    }
    .paper {
      padding: 28px 32px;
    }
    .parties {
      display: flex;
      justify-content: space-between;
      margin-bottom: 20px;
    }
    .paper .rows th {
      background: var(--panel);
      position: static;
    }
    .paper .rows {
      margin-top: 14px;
    }
    .totals {
      margin: 14px 10px 0 auto;
    }
    .totals td {
      padding: 3px 0 3px 24px;
    }
    .sum td {
      font-weight: 700;
      border-top: 1px solid var(--ink);
    }
    .event {
      display: grid;
      grid-template-columns: 88px 1fr;
      gap: 8px;
      padding: 6px 0;
      border-bottom: 1px solid var(--rule);
    }
    .wait {
      color: var(--brass);
    }
  `,
})
export class InvoicePage {
  readonly invoiceId = input.required<string>();
  private readonly api = inject(Api);
  private readonly address = inject(PageAddress);
  private readonly id = new BehaviorSubject('');
  protected readonly again = new Subject<void>();
  protected readonly invoice$ = loading(
    combineLatest([this.id, merge(inject(Live).about('invoice'), this.again).pipe(startWith(undefined))]).pipe(
      map(([id]) => id),
      filter(Boolean),
    ),
    (invoiceId) => this.api.call(invoiceRoutes.getInvoice, { params: { invoiceId } }),
  ).pipe(
    tap(
      (i) =>
        i.is === 'there' &&
        this.address.show({ under: '/billing', param: 'invoiceId', number: i.value.number, name: `${i.value.number} ${i.value.client}` }),
    ),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  constructor() {
    effect(() => this.id.next(this.invoiceId()));
  }

  protected pdf(invoiceId: string): string {
    return urlOf(invoiceRoutes.getInvoicePdf, { invoiceId });
  }

  protected ubl(invoiceId: string): string {
    return urlOf(invoiceRoutes.getInvoiceUbl, { invoiceId });
  }

  protected amount(l: InvoiceWire['lines'][number]): string {
    return sayQuantity(l.quantity, l.unit);
  }
}
