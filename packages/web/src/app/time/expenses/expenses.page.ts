import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, startWith, Subject } from 'rxjs';
import { expenseRoutes, type ExpenseWire } from '@core/time';
import { formatMoney, money, sumMoney, type Currency } from '@core/ground';
import { Api, urlOf } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { EmptyNote } from '../../ui/empty-note';
import { loading } from '../../ui/loading';
import { MoneyPipe } from '../../ui/pipes';
import { monthOf } from '../../ui/spans';
import { StateNote } from '../../ui/state-note';
import { isoDay, saySpan, shortDay } from '../../ui/time-format';
import { Why } from '../../ui/why';
import { WorkLink } from '../../ui/work-link';
import { ExpenseFormPanel } from './expense-form';

/** A month of what somebody spent: what the client pays of it, and what comes back to them. */
@Component({
  selector: 'dl-expenses-page',
  imports: [AsyncPipe, EmptyNote, ExpenseFormPanel, MoneyPipe, RouterLink, WorkLink, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './expenses.page.html',
})
export class ExpensesPage {
  /** Any day of the month that is shown. */
  readonly day = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly opened = signal<{ readonly key: string; readonly expense: ExpenseWire | undefined } | undefined>(undefined);
  protected readonly dayName = shortDay;
  protected readonly span$ = toObservable(this.day).pipe(map((day) => monthOf(day ?? isoDay(this.session.now(), this.session.zone), 0)));
  protected readonly now$ = loading(
    combineLatest([this.span$, merge(inject(Live).mine(['entry']), this.again).pipe(startWith(undefined))]),
    ([query]) => this.api.call(expenseRoutes.listExpenses, { query }).pipe(map((a) => ({ ...a, span: query }))),
  );

  protected title(span: { readonly from: string; readonly to: string }): string {
    return saySpan(span.from, span.to);
  }

  protected go(span: { readonly from: string }, back: number): void {
    this.show(monthOf(span.from, back).from);
  }

  protected show(day: string | undefined): void {
    void this.router.navigate([], { queryParams: { day } });
  }

  protected sum(all: readonly ExpenseWire[], currency: Currency, of: 'back' | 'client'): string {
    const own = of === 'back' ? all.filter((x) => x.ownMoney).map((x) => x.gross) : all.flatMap((x) => x.charge ?? []);
    return formatMoney(
      sumMoney(
        own.map((m) => money(m.minor, m.currency)),
        currency,
      ),
    );
  }

  protected stands(x: ExpenseWire): string {
    if (x.reimbursedOn) return `paid back on ${x.reimbursedOn}`;
    return x.approval === 'open' ? 'waits for approval' : x.approval;
  }

  protected receiptUrl(x: ExpenseWire): string {
    return urlOf(expenseRoutes.getReceipt, { expenseId: x.id });
  }

  protected open(expense: ExpenseWire | undefined): void {
    this.opened.set({ key: expense?.id ?? 'new', expense });
  }

  protected done(): void {
    this.opened.set(undefined);
    this.again.next();
  }

  protected remove(x: ExpenseWire): void {
    this.api.call(expenseRoutes.removeExpense, { params: { expenseId: x.id }, version: x.version }).subscribe({
      next: () => (this.toasts.done('Expense removed'), this.again.next()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
