import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, debounceTime, distinctUntilChanged, map, merge, of, startWith, Subject, switchMap } from 'rxjs';
import { expenseRoutes } from '@core/expenses';
import { houseRoutes } from '@core/house';
import { ticketRoutes } from '@core/tickets';
import { formatMinutes } from '@core/time';
import type { TypedCell } from '@core/week-sheet';
import { ExpenseFormPanel } from '../expenses/expense-form';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Toasts } from '../shell/toasts';
import { ON_NOTHING, type WorkedOn } from '../time-entries/work-finder';
import { MoneyPipe } from '../ui/pipes';
import type { GridCell, RowOfWeek } from './grid';
import type { KeptCell } from './kept-cells';

/** What is said of a cell besides its time. */
export type CellSaid = Partial<Pick<TypedCell, 'note' | 'insideNote' | 'distance'>>;
/** Arrows pass over cells quicker than this; only where somebody stays is more read. */
const STAYS_MS = 250;

/** The cell that is typed in: its notes and distance, what was spent with it, and the ticket's checklist, all in place. */
@Component({
  selector: 'dl-cell-details',
  imports: [AsyncPipe, ExpenseFormPanel, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cell-details.html',
  styleUrl: './cell-details.css',
})
export class CellDetails {
  readonly row = input.required<RowOfWeek>();
  readonly cell = input.required<GridCell>();
  readonly said = output<CellSaid>();
  readonly again = output<KeptCell>();
  readonly dropped = output<KeptCell>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly changed = new Subject<void>();
  protected readonly spending = signal<string | undefined>(undefined);
  protected readonly says = formatMinutes;
  protected readonly key = computed(() => `${this.row().ticketId ?? ''} ${this.cell().day}`);
  protected readonly work = computed((): WorkedOn => ({ ...ON_NOTHING, ticketId: this.row().ticketId, number: this.row().number, subject: this.row().subject, client: this.row().client })); // prettier-ignore
  protected readonly unit$ = this.api.call(houseRoutes.getHouse, {}).pipe(
    map((h) => h.distanceUnit),
    catchError(() => of('km')),
  );
  private readonly place$ = combineLatest([
    toObservable(this.key).pipe(debounceTime(STAYS_MS), distinctUntilChanged()),
    merge(inject(Live).about('entry', 'ticket'), this.changed).pipe(startWith(undefined)),
  ]).pipe(map(() => ({ ticketId: this.row().ticketId, day: this.cell().day })));
  protected readonly expenses$ = this.place$.pipe(
    switchMap(({ ticketId, day }) =>
      this.api.call(expenseRoutes.listExpenses, { query: { from: day, to: day } }).pipe(
        map((a) => a.expenses.filter((x) => x.ticketId === ticketId)),
        catchError(() => of([])),
      ),
    ),
  );
  protected readonly checklist$ = this.place$.pipe(
    switchMap(({ ticketId }) =>
      ticketId
        ? this.api.call(ticketRoutes.getTicket, { params: { ticketId } }).pipe(
            map((t) => t.checklist),
            catchError(() => of([])),
          )
        : of([]),
    ),
  );

  protected answer(itemId: string, done: boolean): void {
    this.api.call(ticketRoutes.answerChecklistItem, { params: { itemId }, body: { answer: done ? 'done' : null } }).subscribe({
      next: () => this.changed.next(),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.changed.next()),
    });
  }

  protected spent(): void {
    this.spending.set(undefined);
    this.changed.next();
  }
}
