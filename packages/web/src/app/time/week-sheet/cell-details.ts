import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, debounceTime, distinctUntilChanged, map, merge, of, startWith, Subject, switchMap } from 'rxjs';
import { expenseRoutes, weekSheetRoutes } from '@core/time';
import { houseRoutes } from '@core/house';
import { ticketRoutes } from '@core/desk';
import { formatMinutes, type Id, parseMinutes, ticketIdOf } from '@core/ground';
import { ExpenseFormPanel } from '../expenses/expense-form';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { workOf } from '../../ui/work-finder';
import { MoneyPipe } from '../../ui/pipes';
import { EffectNote } from '../../ui/effect-note';
import type { GridCell, RowOfWeek } from './grid';
import { keyOfCell, type KeptCell } from './kept-cells';
import { typedCell, type CellSaid } from './typed-cell';

/** Arrows pass over cells quicker than this; only where somebody stays is more read. */
const STAYS_MS = 250;
/** What is typed rests already when it comes here. */
const WAIT_MS = 50;

/** The cell that is typed in: what it does before it is stored, its notes and distance, what was spent with it, and the ticket's checklist, all in place. */
@Component({
  selector: 'dl-cell-details',
  imports: [AsyncPipe, ExpenseFormPanel, EffectNote, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cell-details.html',
  styleUrl: './cell-details.css',
})
export class CellDetails {
  readonly row = input.required<RowOfWeek>();
  readonly cell = input.required<GridCell>();
  /** What stands in its field by now, stored or not. */
  readonly typed = input.required<string>();
  readonly said = output<CellSaid>();
  readonly again = output<KeptCell>();
  readonly dropped = output<KeptCell>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly changed = new Subject<void>();
  protected readonly spending = signal<string | undefined>(undefined);
  protected readonly says = formatMinutes;
  protected readonly key = computed(() => keyOfCell({ ...this.row(), day: this.cell().day }));
  /** It is about to be said why its time is not billable. */
  private readonly unbilled = signal<string | undefined>(undefined);
  /** What is said of the cell: stored, or typed and on its way. */
  protected readonly stands = computed(() => {
    const { stored, kept } = this.cell();
    const { note, insideNote, distance, billable = true, reason } = { ...stored, ...definedOf(kept) };
    return { note, insideNote, distance, billable: billable && this.unbilled() !== this.key(), reason };
  });
  /** There is time to say something of, stored or in its field. */
  protected readonly hasTime = computed(() => this.cell().minutes > 0 || !!parseMinutes(this.typed().trim()));
  protected readonly work = computed(() => workOf(this.row()));
  protected readonly unit$ = this.api.call(houseRoutes.getHouse, {}).pipe(
    map((h) => h.distanceUnit),
    catchError(() => of('km')),
  );
  private readonly changes$ = merge(
    inject(Live).mine(['entry', 'ticket'], () => this.row()),
    this.changed,
  ).pipe(startWith(undefined));
  private readonly asked = computed(() => {
    const { billable, reason } = this.stands();
    return typedCell({
      row: this.row(),
      cell: this.cell(),
      typed: this.typed().trim(),
      said: billable ? { billable } : { billable, reason: reason || 'not said yet' },
    });
  });
  /** What the cell does to the client as it stands in its field, by the plan that storing it carries out. */
  protected readonly effect$ = combineLatest([
    toObservable(this.asked).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      debounceTime(WAIT_MS),
    ),
    this.changes$,
  ]).pipe(
    switchMap(([cell]) =>
      parseMinutes(cell.typed)
        ? this.api.call(weekSheetRoutes.previewCells, { body: { cells: [cell] } }).pipe(
            map((a) => ({ ...a.cells[0]!, key: keyOfCell(cell) })),
            catchError(() => of(undefined)),
          )
        : of(undefined),
    ),
  );
  private readonly place$ = combineLatest([
    toObservable(this.key).pipe(debounceTime(STAYS_MS), distinctUntilChanged()),
    this.changes$,
  ]).pipe(map(() => ({ workId: this.row().workId, isTicket: this.row().workKind === 'ticket', day: this.cell().day })));
  protected readonly expenses$ = this.place$.pipe(
    switchMap(({ workId, day }) =>
      this.api.call(expenseRoutes.listExpenses, { query: { from: day, to: day } }).pipe(
        map((a) => a.expenses.filter((x) => x.workId === workId)),
        catchError(() => of([])),
      ),
    ),
  );
  protected readonly checklist$ = this.place$.pipe(
    switchMap(({ workId, isTicket }) =>
      isTicket
        ? this.api.call(ticketRoutes.getTicket, { params: { ticketId: ticketIdOf(workId) } }).pipe(
            map((t) => t.checklist),
            catchError(() => of([])),
          )
        : of([]),
    ),
  );

  protected answer(checklistItemId: Id<'checklist_item'>, done: boolean): void {
    this.api.call(ticketRoutes.answerChecklistItem, { params: { checklistItemId }, body: { answer: done ? 'done' : null } }).subscribe({
      next: () => this.changed.next(),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.changed.next()),
    });
  }

  protected bill(billable: boolean): void {
    this.unbilled.set(billable ? undefined : this.key());
    if (billable && this.cell().stored?.billable === false) this.said.emit({ billable, reason: null });
  }

  /** Time that is not billable is stored so once it is said why. */
  protected leaveUnbilled(reason: string): void {
    if (!reason) return;
    this.unbilled.set(undefined);
    this.said.emit({ billable: false, reason });
  }

  protected spent(): void {
    this.spending.set(undefined);
    this.changed.next();
  }
}

function definedOf(kept: KeptCell | undefined): CellSaid {
  return Object.fromEntries(Object.entries(kept ?? {}).filter(([, value]) => value !== undefined));
}
