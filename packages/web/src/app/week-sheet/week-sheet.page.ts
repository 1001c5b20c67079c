import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { map, shareReplay } from 'rxjs';
import { houseRoutes } from '@core/house';
import { formatMinutes, parseMinutes, plusDays, type LocalDate } from '@core/time';
import { clock, readGrid, writeGrid, type TypedCell, type WeekRowWire, type WeekSheetWire } from '@core/week-sheet';
import { Api } from '../shell/api';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { MinutesPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';
import { isoDay } from '../ui/time-format';
import { keyOfRow, type KeptCell, type RowHead } from './kept-cells';
import { RowAdder } from './row-adder';
import { RowSuggestions, type ChosenRow } from './row-suggestions';
import { WeekSheetState } from './week-sheet.state';

interface At {
  readonly row: number;
  readonly column: number;
}
const MOVES: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Enter: [1, 0],
};

/** One's week as a grid to type in: rows by ticket and activity, a cell a day, as quick as a spreadsheet. */
@Component({
  selector: 'dl-week-sheet-page',
  imports: [AsyncPipe, MinutesPipe, RouterLink, RowAdder, RowSuggestions, StateNote],
  providers: [WeekSheetState],
  changeDetection: ChangeDetectionStrategy.OnPush,
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
  protected readonly activities$ = inject(Api).call(houseRoutes.getHouse, {}).pipe(map((h) => h.activities), shareReplay(1)); // prettier-ignore
  private readonly today = computed(() => isoDay(this.session.now(), this.session.zone));

  constructor() {
    effect(() => this.state.show(this.day()));
    this.state.sendingAgain$.pipe(takeUntilDestroyed(inject(DestroyRef))).subscribe();
  }

  protected title(w: WeekSheetWire): string {
    const say = (day: string) =>
      new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', day: 'numeric', month: 'long' }).format(Date.parse(`${day}T12:00:00Z`));
    return `${say(w.days[0]!.day)} to ${say(w.days[6]!.day)}`;
  }

  protected dayName(day: string): string {
    return new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', weekday: 'short', day: 'numeric' }).format(Date.parse(`${day}T12:00:00Z`));
  }

  protected show(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected go(w: WeekSheetWire, days: number): void {
    this.show({ day: plusDays(w.days[0]!.day as LocalDate, days) });
  }

  protected shown(w: WeekSheetWire): WeekSheetWire['days'] {
    const all =
      this.days() === '7' || w.days.slice(5).some((d, n) => d.expectedMinutes > 0 || w.rows.some((r) => r.cells[n + 5]!.minutes > 0));
    return all ? w.days : w.days.slice(0, 5);
  }

  protected rows(w: WeekSheetWire): readonly (RowHead & Partial<Pick<WeekRowWire, 'cells'>>)[] {
    const there = new Set(w.rows.map(keyOfRow));
    return this.state.inOrder([...w.rows, ...this.state.rows().filter((r) => !there.has(keyOfRow(r)))]);
  }

  protected stored(row: Partial<Pick<WeekRowWire, 'cells'>>, day: string): WeekRowWire['cells'][number] | undefined {
    return row.cells?.find((c) => c.day === day);
  }

  protected kept(row: RowHead, day: string): KeptCell | undefined {
    return this.state.keptFor({ ...row, day });
  }

  /** What a cell shows: what was typed where that is not stored yet, else what is stored. */
  protected text(row: RowHead & Partial<Pick<WeekRowWire, 'cells'>>, day: string): string {
    const kept = this.kept(row, day);
    if (kept) return kept.typed;
    const minutes = this.stored(row, day)?.minutes ?? 0;
    return minutes ? clock(minutes) : '';
  }

  protected minutes(row: RowHead & Partial<Pick<WeekRowWire, 'cells'>>, day: string): number {
    const kept = this.kept(row, day);
    return kept ? (parseMinutes(kept.typed) ?? 0) : (this.stored(row, day)?.minutes ?? 0);
  }

  protected ofDay(w: WeekSheetWire, day: string): number {
    return this.rows(w).reduce((sum, r) => sum + this.minutes(r, day), 0);
  }

  protected ofRow(w: WeekSheetWire, row: RowHead & Partial<Pick<WeekRowWire, 'cells'>>): number {
    return w.days.reduce((sum, d) => sum + this.minutes(row, d.day), 0);
  }

  protected total(w: WeekSheetWire): number {
    return w.days.reduce((sum, d) => sum + this.ofDay(w, d.day), 0);
  }

  protected expected(w: WeekSheetWire): number {
    return w.days.reduce((sum, d) => sum + d.expectedMinutes, 0);
  }

  /** What is missing of a day that has come. */
  protected missing(w: WeekSheetWire, d: WeekSheetWire['days'][number]): number {
    return d.day <= this.today() ? Math.max(0, d.expectedMinutes - this.ofDay(w, d.day)) : 0;
  }

  protected isAhead(day: string): boolean {
    return day > this.today();
  }

  protected label(row: RowHead, day: string): string {
    return `${row.number ? `#${row.number}` : 'on no ticket'}, ${row.activity}, ${this.dayName(day)}`;
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
    field.select();
  }

  /** A cell is stored once it is left. */
  protected leave(row: RowHead & Partial<Pick<WeekRowWire, 'cells'>>, day: string, field: HTMLInputElement): void {
    const typed = field.value.trim();
    if (typed === this.text(row, day)) return;
    this.put(row, day, typed);
  }

  protected put(row: RowHead & Partial<Pick<WeekRowWire, 'cells'>>, day: string, typed: string, note?: string | null): void {
    this.state.put([this.cell(row, day, typed, note)]);
  }

  private cell(row: RowHead & Partial<Pick<WeekRowWire, 'cells'>>, day: string, typed: string, note?: string | null): TypedCell {
    const was = this.stored(row, day)?.minutes ?? 0;
    return { ticketId: row.ticketId, activityId: row.activityId, day, typed, was, note };
  }

  protected keys(event: KeyboardEvent, w: WeekSheetWire, at: At): void {
    const field = event.target as HTMLInputElement;
    if (event.key === 'Escape') {
      field.value = this.text(this.rows(w)[at.row]!, this.shown(w)[at.column]!.day);
      field.select();
      return;
    }
    const move = MOVES[event.key];
    if (!move || event.ctrlKey || event.metaKey || event.altKey) return;
    const whole = field.selectionStart === 0 && field.selectionEnd === field.value.length;
    const edge = event.key === 'ArrowLeft' ? field.selectionEnd === 0 : field.selectionStart === field.value.length;
    if (move[1] !== 0 && !whole && !edge) return;
    event.preventDefault();
    const from = event.shiftKey ? (this.corner() ?? at) : at;
    const to = { row: from.row + move[0], column: from.column + move[1] };
    if (to.row < 0 || to.column < 0 || to.row >= this.rows(w).length || to.column >= this.shown(w).length) return;
    if (event.shiftKey && event.key !== 'Enter') this.corner.set(to);
    else field.closest('table')!.querySelector<HTMLInputElement>(`[data-at="${to.row} ${to.column}"]`)?.focus();
  }

  /** Copies what is chosen as a spreadsheet takes it. */
  protected copy(event: ClipboardEvent, w: WeekSheetWire): void {
    const [a, b] = [this.at(), this.corner()];
    if (!a || !b) return;
    event.preventDefault();
    const [top, bottom, left, right] = [
      Math.min(a.row, b.row),
      Math.max(a.row, b.row),
      Math.min(a.column, b.column),
      Math.max(a.column, b.column),
    ];
    const days = this.shown(w).slice(left, right + 1);
    const rows = this.rows(w).slice(top, bottom + 1);
    event.clipboardData?.setData('text/plain', writeGrid(rows.map((r) => days.map((d) => this.minutes(r, d.day)))));
  }

  /** Takes a block from a spreadsheet from the cell on; all of it is stored or none. */
  protected paste(event: ClipboardEvent, w: WeekSheetWire, at: At): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n]/.test(text.trimEnd())) return;
    event.preventDefault();
    const grid = readGrid(text);
    const [rows, days] = [this.rows(w), this.shown(w)];
    const [bad] = grid.wrong;
    if (bad)
      return this.toasts.trouble(`Line ${bad.row + 1}, column ${bad.column + 1} says "${bad.text}"; a time is 25, 1:30, 1.5 or 1 h 40. Nothing was put in.`); // prettier-ignore
    if (grid.rows.length > rows.length - at.row || grid.rows.some((r) => r.length > days.length - at.column))
      return this.toasts.trouble(`${grid.rows.length} lines of ${Math.max(...grid.rows.map((r) => r.length))} do not fit here. Add rows first, or begin further up. Nothing was put in.`); // prettier-ignore
    const cells = grid.rows.flatMap((line, r) =>
      line.flatMap((minutes, c) => {
        const [row, day] = [rows[at.row + r]!, days[at.column + c]!.day];
        return minutes === undefined || minutes === this.minutes(row, day) ? [] : [this.cell(row, day, clock(minutes))];
      }),
    );
    if (cells.length) this.state.put(cells);
  }

  protected add(row: RowHead): void {
    this.state.addRow(row);
    this.asking.set(undefined);
  }

  /** Takes suggested rows in, with their hours on days that have come where that is wanted. */
  protected takeRows(w: WeekSheetWire, chosen: readonly ChosenRow[]): void {
    const cells = chosen.flatMap(({ row, hours, notes }) =>
      hours
        ? w.days.flatMap((d, n) =>
            row.minutes[n] && !d.closed && !this.isAhead(d.day)
              ? [{ ...this.cell(row, d.day, clock(row.minutes[n])), note: notes ? row.note : undefined }]
              : [],
          )
        : [],
    );
    for (const { row } of chosen) this.state.addRow(row);
    if (cells.length) this.state.put(cells);
    this.asking.set(undefined);
  }

  protected readonly says = formatMinutes;
}
