import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { map } from 'rxjs';
import { invoiceRoutes, type DraftWire } from '@core/billing';
import { formatMoney, type Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { EmptyNote } from '../../ui/empty-note';
import { ListState } from '../../ui/list/list-state';
import { MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { DraftLines } from './draft-lines';

type DraftRow = DraftWire & { readonly id: Id<'client'> };

/** What waits for an invoice, client by client: look at it, issue it. */
@Component({
  selector: 'dl-drafts',
  imports: [AsyncPipe, RouterLink, ArrowRows, DraftLines, EmptyNote, MoneyPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = list.list$ | async;
    @let drafts = list.rows$ | async;
    <div class="page-body" dlArrowRows>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="list.retry()" />
      } @else if (now && drafts) {
        @for (d of drafts; track d.clientId) {
          <section class="panel">
            <header>
              <button type="button" class="fold" data-row [attr.aria-expanded]="open() === d.clientId" (click)="fold(d)">
                {{ open() === d.clientId ? '▾' : '▸' }} <b>{{ d.client }}</b>
              </button>
              <span class="soft small">{{ d.charges }} {{ d.charges === 1 ? 'charge' : 'charges' }}</span>
              <span class="grow"></span>
              @if (d.kind === 'credit note') {
                <span class="tag">credit note</span>
              }
              <span class="soft small">net {{ d.net | money }}, tax {{ d.tax | money }}</span>
              <b class="mono">{{ d.gross | money }}</b>
              @if (session.may('invoices.issue')) {
                <button type="button" class="btn-main" [disabled]="issuing()" (click)="issue(d)">Issue</button>
              }
            </header>
            @if (open() === d.clientId) {
              <dl-draft-lines [draft]="d" />
            }
          </section>
        } @empty {
          <dl-empty-note title="Nothing waits for an invoice"
            >Approve charges in <a routerLink="/charges">charge review</a>; they come up here by client.</dl-empty-note
          >
        }
        @if (drafts.length < now.value.count || now.value.countCapped) {
          <button type="button" class="btn-plain" (click)="list.showMore()">Show more clients</button>
        }
      }
    </div>
  `,
  styles: `
    :host {
      display: contents;
    }
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
export class Drafts {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly open = signal<string | undefined>(undefined);
  protected readonly issuing = signal(false);
  protected readonly list = new ListState<DraftRow>({
    name: 'drafts',
    topics: ['charge', 'invoice'],
    ownWords: ['show'],
    load: (_, page) =>
      this.api
        .call(invoiceRoutes.listDrafts, { query: page })
        .pipe(map((p) => ({ ...p, rows: p.rows.map((d) => ({ ...d, id: d.clientId })) }))),
  });

  protected fold(d: DraftWire): void {
    this.open.set(this.open() === d.clientId ? undefined : d.clientId);
  }

  /** Issues what is seen here: where it comes to something else by now, nothing is issued. */
  protected issue(d: DraftWire): void {
    const is = d.kind === 'invoice' ? `an invoice to ${d.client}` : `a credit note to ${d.client}`;
    if (!confirm(`Issue ${is} over ${formatMoney(d.gross)}? It is mailed at once and never changes; only a credit note corrects it.`))
      return;
    this.issuing.set(true);
    const grossMinor = d.kind === 'invoice' ? d.gross.minor : -d.gross.minor;
    this.api.call(invoiceRoutes.issueInvoice, { body: { clientId: d.clientId, chargeIds: null, grossMinor } }).subscribe({
      next: (done) => {
        this.issuing.set(false);
        this.toasts.done(`${done.number} issued; it is on its way`);
        void this.router.navigate(['/billing', done.number]);
      },
      error: (fault: unknown) => {
        this.issuing.set(false);
        this.toasts.trouble(fault);
        this.list.retry();
      },
    });
  }
}
