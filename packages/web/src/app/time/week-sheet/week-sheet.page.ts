import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { map, shareReplay } from 'rxjs';
import { houseRoutes } from '@core/house';
import { plusDays, type LocalDate } from '@core/ground';
import { clock, readGrid, writeGrid, type WeekSheetWire } from '@core/time';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay, saySpan } from '../../ui/time-format';
import { WorkLink } from '../../ui/work-link';
import { makeGrid, type Grid, type GridCell, type GridRow } from './grid';
import type { RowHead } from './kept-cells';
import { CellDetails } from './cell-details';
import { CellField } from './cell-field';
import { typedCell, type CellSaid } from './typed-cell';
import { GridKeys, type GridKey } from './grid-keys';
import { RowAdder } from './row-adder';
import { RowSuggestions, type TakenRows } from './row-suggestions';
import { WeekSheetState } from './week-sheet.state';

interface At {
  readonly row: number;
  readonly column: number;
}
/** One's week as a grid to type in: rows by ticket and activity, a cell a day, as quick as a spreadsheet. */
@Component({
  selector: 'dl-week-sheet-page',
  imports: [AsyncPipe, CellDetails, CellField, GridKeys, MinutesPipe, RouterLink, WorkLink, RowAdder, RowSuggestions, StateNote],
  providers: [WeekSheetState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(window:pagehide)': 'close()' },
  templateUrl: './week-sheet.page.html',
  styleUrl: './week-sheet.page.css',
})
export class WeekSheetPage {
  readonly day = input<string>();
  /** Seven days where it says so; five otherwise, and the weekend if something is in it. */
  readonly days = input<string>();
  protected readonly state = inject(WeekSheetState);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly toasts = inject(Toasts);
  protected readonly asking = signal<'add' | 'suggest' | undefined>(undefined);
  /** The cell that is typed in, and the other corner of what is chosen with it. */
  protected readonly at = signal<At | undefined>(undefined);
  protected readonly corner = signal<At | undefined>(undefined);
  /** What stands in the field of the cell while it is typed in; undefined where nothing was typed. */
  protected readonly typing = signal<string | undefined>(undefined);
  private closing = false;
  protected readonly activities$ = inject(Api)
    .call(houseRoutes.getHouse, {})
    .pipe(
      map((h) => h.activities),
      shareReplay(1),
    );
  protected readonly today = computed(() => isoDay(this.session.now(), this.session.zone));

  protected readonly grid = computed(() => {
    const sheet = this.state.sheet();
    if (!sheet) return undefined;
    return makeGrid({
      sheet,
      rows: this.state.allRows(sheet),
      kept: this.state.cells(),
      today: this.today(),
      seven: this.days() === '7',
    });
  });

  constructor() {
    effect(() => this.state.show(this.day()));
    this.state.sendingAgain$.pipe(takeUntilDestroyed(inject(DestroyRef))).subscribe();
  }

  protected title(w: WeekSheetWire): string {
    return saySpan(w.days[0]!.day, w.days[6]!.day);
  }

  protected show(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected go(w: WeekSheetWire, days: number): void {
    this.show({ day: plusDays(w.days[0]!.day as LocalDate, days) });
  }

  /** Some of the week is approved, so it is worth a line. */
  protected anyApproved(g: Grid): boolean {
    return g.days.some((d) => d.approved > 0);
  }

  protected isChosen(row: number, column: number): boolean {
    const [a, b] = [this.at(), this.corner()];
    if (!a || !b) return false;
    const within = (x: number, p: number, q: number) => Math.min(p, q) <= x && x <= Math.max(p, q);
    return within(row, a.row, b.row) && within(column, a.column, b.column);
  }

  protected enter(row: number, column: number, field: HTMLInputElement): void {
    this.at.set({ row, column });
    this.corner.set(undefined);
    this.typing.set(undefined);
    field.select();
  }

  /** A cell is stored once it is left, and the next one is on screen by then; at once where the page may be gone then. */
  protected leave(row: GridRow, cell: GridCell, field: HTMLInputElement): void {
    const typed = field.value.trim();
    if (typed === cell.text) return;
    if (this.closing || !document.hasFocus()) this.put(row, cell, { typed });
    else afterFrame(() => this.put(row, cell, { typed }));
  }

  /** What stands in a cell that was not left yet is kept too. */
  protected close(): void {
    this.closing = true;
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    this.closing = false;
  }

  protected put({ head }: GridRow, cell: GridCell, { typed, said = {} }: { typed: string; said?: CellSaid }): void {
    this.state.put([typedCell({ row: head, cell, typed, said })]);
  }

  protected keys({ field, step, chooses }: GridKey, g: Grid): void {
    const at = this.at();
    if (!at) return;
    if (!step) return this.typing.set(undefined);
    const from = chooses ? (this.corner() ?? at) : at;
    const to = { row: from.row + step[0], column: from.column + step[1] };
    const isThere = to.row >= 0 && to.column >= 0 && to.row < g.rows.length && to.column < g.days.length;
    // A key that leads out of the grid stores what was typed, as leaving does, and stays.
    if (!isThere) return stored(field);
    if (chooses) this.corner.set(to);
    else field.closest('table')!.querySelector<HTMLInputElement>(`[data-at="${to.row} ${to.column}"]`)?.focus();
  }

  /** Copies what is chosen as a spreadsheet takes it. */
  protected copy(event: ClipboardEvent, g: Grid): void {
    const [a, b] = [this.at(), this.corner()];
    if (!a || !b) return;
    event.preventDefault();
    const rows = g.rows.slice(Math.min(a.row, b.row), Math.max(a.row, b.row) + 1);
    const [left, right] = [Math.min(a.column, b.column), Math.max(a.column, b.column) + 1];
    event.clipboardData?.setData('text/plain', writeGrid(rows.map((r) => r.cells.slice(left, right).map((c) => c.minutes))));
  }

  /** Takes a block from a spreadsheet from the cell on; all of it is stored or none. */
  protected paste(event: ClipboardEvent, g: Grid, at: At): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n]/.test(text.trimEnd())) return;
    event.preventDefault();
    const block = readGrid(text);
    const [bad] = block.wrong;
    if (bad)
      return this.toasts.trouble(
        `Line ${bad.row + 1}, column ${bad.column + 1} says "${bad.text}"; a time is 25, 1:30, 1.5 or 1 h 40. Nothing was put in.`,
      );
    if (block.rows.length > g.rows.length - at.row || block.rows.some((r) => r.length > g.days.length - at.column))
      return this.toasts.trouble(
        `${block.rows.length} lines of ${Math.max(...block.rows.map((r) => r.length))} do not fit here. Add rows first, or begin further up. Nothing was put in.`,
      );
    const cells = block.rows.flatMap((line, r) =>
      line.flatMap((minutes, c) => {
        const row = g.rows[at.row + r]!;
        const cell = row.cells[at.column + c]!;
        return minutes === undefined || minutes === cell.minutes ? [] : [typedCell({ row: row.head, cell, typed: clock(minutes) })];
      }),
    );
    if (cells.length) this.state.put(cells);
  }

  protected add(row: RowHead): void {
    this.state.addRow(row);
    this.asking.set(undefined);
  }

  /** Takes suggested rows in, with their hours where that is wanted. */
  protected takeRows({ rows, cells }: TakenRows): void {
    for (const row of rows) this.state.addRow(row);
    if (cells.length) this.state.put(cells);
    this.asking.set(undefined);
  }
}

function stored(field: HTMLInputElement): void {
  field.blur();
  field.focus();
}

function afterFrame(run: () => void): void {
  requestAnimationFrame(() => setTimeout(run));
}
