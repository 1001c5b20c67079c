import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { combineLatest, map, merge, startWith, Subject } from 'rxjs';
import { expenseRoutes, type ReimbursementWire } from '@core/time';
import { formatMoney, money, plainMoney, sumMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { SpanChoice } from '../../ui/span-choice';
import { monthOf, type DateSpan } from '../../ui/spans';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';

interface PersonOwed {
  readonly id: string;
  readonly name: string;
  readonly rows: readonly ReimbursementWire[];
  readonly open: string;
}

/** What is owed to people for money and ways of their own, once it is approved; marked paid, and out as CSV for who pays. */
@Component({
  selector: 'dl-reimbursements-page',
  imports: [AsyncPipe, DatePipe, EmptyNote, MoneyPipe, SpanChoice, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <div class="page">
      <header class="page-head">
        <h1>Reimbursements</h1>
        <span class="grow"></span>
        @if (now && now.is === 'there' && now.value.rows.length) {
          <button type="button" class="btn-plain" (click)="csv(now.value.rows)">CSV</button>
          <button type="button" class="btn-main" [disabled]="!chosen(now.value.rows).length" (click)="pay(chosen(now.value.rows))">
            Mark {{ chosen(now.value.rows).length }} paid back
          </button>
        }
      </header>
      <div class="page-body">
        <dl-span-choice [span]="span()" (chosen)="set($event)" />
        @if (now && now.is !== 'there') {
          <dl-state-note [state]="now" (again)="again.next()" />
        } @else if (now) {
          <p>
            <b>{{ now.value.open | money }}</b> is approved and not paid back yet.
          </p>
          @for (p of people(now.value.rows); track p.id) {
            <h2>
              {{ p.name }} <span class="soft small">{{ p.open }} open</span>
            </h2>
            <table class="rows">
              @for (r of p.rows; track r.id) {
                <tr>
                  <td class="pick">
                    @if (!r.reimbursedOn) {
                      <input
                        type="checkbox"
                        [attr.aria-label]="r.says + ', ' + r.day"
                        [checked]="!left().has(r.id)"
                        (change)="flip(r.id)"
                      />
                    }
                  </td>
                  <td class="day">{{ r.day | date }}</td>
                  <td>
                    {{ r.says }} <span class="soft small">{{ r.number ? '#' + r.number : '' }} {{ r.client }}</span>
                  </td>
                  <td class="num mono">{{ r.amount | money }}</td>
                  <td class="paid small" [class.met]="r.reimbursedOn">{{ r.reimbursedOn ? 'paid back on ' + r.reimbursedOn : 'open' }}</td>
                </tr>
              }
            </table>
          } @empty {
            <dl-empty-note title="Nothing to pay back in these days"
              >Expenses of own money and distances stand here once they are approved.</dl-empty-note
            >
          }
        }
      </div>
    </div>
  `,
  styles: `
    h2 {
      margin: 16px 0 4px;
    }
    .pick {
      width: 32px;
    }
    .day {
      width: 110px;
      white-space: nowrap;
    }
    .paid {
      width: 170px;
    }
    .num {
      width: 110px;
    }
  `,
})
export class ReimbursementsPage {
  readonly from = input<string>();
  readonly to = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  /** Rows that are left for later; all others that are open are chosen. */
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly now$ = loading(
    combineLatest([
      toObservable(this.from),
      toObservable(this.to),
      merge(inject(Live).about('entry'), this.again).pipe(startWith(undefined)),
    ]).pipe(map(() => this.span())),
    (query) => this.api.call(expenseRoutes.listReimbursements, { query }),
  );

  /** From the first day of last month up to today, unless somebody chose. */
  protected span(): DateSpan {
    const today = isoDay(this.session.now(), this.session.zone);
    return { from: this.from() ?? monthOf(today, 1).from, to: this.to() ?? today };
  }

  protected set({ from, to }: DateSpan): void {
    void this.router.navigate([], { queryParams: { from, to } });
  }

  protected people(rows: readonly ReimbursementWire[]): PersonOwed[] {
    return [...new Set(rows.map((r) => r.personId))].map((id) => {
      const own = rows.filter((r) => r.personId === id);
      const open = own.filter((r) => !r.reimbursedOn).map((r) => money(r.amount.minor, r.amount.currency));
      return { id, name: own[0]!.person, rows: own, open: formatMoney(sumMoney(open, own[0]!.amount.currency)) };
    });
  }

  protected flip(id: string): void {
    const left = new Set(this.left());
    if (!left.delete(id)) left.add(id);
    this.left.set(left);
  }

  protected chosen(rows: readonly ReimbursementWire[]): ReimbursementWire[] {
    return rows.filter((r) => !r.reimbursedOn && !this.left().has(r.id));
  }

  protected pay(rows: readonly ReimbursementWire[]): void {
    const of = (what: ReimbursementWire['what']) => rows.filter((r) => r.what === what).map((r) => r.id);
    const on = isoDay(this.session.now(), this.session.zone);
    this.api.call(expenseRoutes.payBack, { body: { expenses: of('expense'), distances: of('distance'), on } }).subscribe({
      next: ({ paid }) => (this.toasts.done(`${paid} marked as paid back today`), this.again.next()),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }

  protected csv(rows: readonly ReimbursementWire[]): void {
    const { from, to } = this.span();
    downloadCsv(
      `reimbursements-${from}-${to}.csv`,
      ['person', 'day', 'what', 'says', 'ticket', 'client', 'amount', 'currency', 'paid back on'],
      rows.map((r) => [
        r.person,
        r.day,
        r.what,
        r.says,
        r.number === null ? '' : String(r.number),
        r.client ?? '',
        plainMoney(r.amount),
        r.amount.currency,
        r.reimbursedOn ?? '',
      ]),
    );
  }
}
