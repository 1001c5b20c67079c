import { inject, Injectable, signal } from '@angular/core';
import { BehaviorSubject, combineLatest, debounceTime, filter, fromEvent, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { weekSheetRoutes, type TypedCell, type WeekSheetWire } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import type { RowOfWeek } from './grid';
import { isSame, keyOfCell, keyOfRow, KeptCells, withCell, withoutCells, withSaid, type KeptCell, type RowHead } from './kept-cells';

const AGAIN_MS = 3000;
const QUIET_MS = 300;

/** A week of one's own time: what is stored, and what was typed and is on its way. */
@Injectable()
export class WeekSheetState {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly kept = new KeptCells(inject(Session).current!.person.id);
  private readonly which = new BehaviorSubject<string | undefined>(undefined);
  readonly again = new Subject<void>();
  private readonly sending = new Set<string>();
  readonly sheet = signal<WeekSheetWire | undefined>(undefined);
  /** Rows stay where they were seen first, whatever is stored meanwhile. */
  private order: string[] = [];
  readonly cells = signal<readonly KeptCell[]>([]);
  /** Rows that were added and have nothing in them yet. */
  readonly rows = signal<readonly RowHead[]>([]);
  /** Rows that had something in this week, by their keys; one that is emptied stays under who types until the week is left. */
  private readonly seen = new Map<string, RowHead>();
  /** What is typed is told of here too; many such are one reason to read the week again. */
  private readonly changes$ = merge(inject(Live).mine(['entry']).pipe(debounceTime(QUIET_MS)), this.again).pipe(startWith(undefined));
  readonly sheet$ = loading(combineLatest([this.which, this.changes$]).pipe(map(([day]) => day)), (day) =>
    this.api.call(weekSheetRoutes.getWeekSheet, { query: day ? { day } : {} }),
  ).pipe(
    tap((s) => s.is === 'there' && this.take(s.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  /** What could not be sent is tried again once there is a connection. */
  readonly sendingAgain$ = merge(fromEvent(window, 'online'), this.changes$).pipe(
    debounceTime(AGAIN_MS),
    filter(() => this.cells().some((c) => c.is === 'waiting')),
    tap(() => this.sendWaiting()),
  );

  show(day: string | undefined): void {
    this.which.next(day);
  }

  suggestions(day: string) {
    return this.api.call(weekSheetRoutes.suggestRows, { query: { day } }).pipe(map((a) => a.rows));
  }

  addRow(row: RowHead): void {
    if (this.rows().some((r) => keyOfRow(r) === keyOfRow(row))) return;
    this.rows.set([...this.rows(), row]);
    this.place([row]);
    this.keep();
  }

  /** Takes cells in one go: all of them are stored, or none is and each stays as it was typed. */
  put(cells: readonly TypedCell[], heads: readonly RowHead[] = []): void {
    for (const head of heads) this.addRow(head);
    const whole = cells.map((cell) => withSaid(cell, this.cells()));
    let kept = this.cells();
    for (const cell of whole) kept = withCell(kept, { ...cell, is: 'waiting', says: '' });
    this.cells.set(kept);
    this.keep();
    this.send(whole);
  }

  /** What was typed is given up for what is stored. */
  drop(cell: KeptCell): void {
    this.cells.set(withoutCells(this.cells(), [cell]));
    this.keep();
  }

  /** All rows of the week in the order in which they were seen first. */
  allRows(sheet: WeekSheetWire): RowOfWeek[] {
    const rows = new Map([...this.seen.values(), ...this.rows(), ...sheet.rows].map((r: RowOfWeek) => [keyOfRow(r), r]));
    return this.inOrder([...rows.values()]);
  }

  private inOrder<R extends RowHead>(rows: readonly R[]): R[] {
    const places = new Map(this.order.map((key, n) => [key, n]));
    return [...rows].sort((a, b) => places.get(keyOfRow(a))! - places.get(keyOfRow(b))!);
  }

  private place(rows: readonly RowHead[]): void {
    for (const key of rows.map(keyOfRow)) if (!this.order.includes(key)) this.order.push(key);
  }

  private sendWaiting(): void {
    for (const { is, says: _, ...cell } of this.cells()) if (is === 'waiting' && !this.sending.has(keyOfCell(cell))) this.send([cell]);
  }

  private send(cells: readonly TypedCell[]): void {
    const keys = cells.map(keyOfCell);
    const arrived = () => keys.forEach((key) => this.sending.delete(key));
    keys.forEach((key) => this.sending.add(key));
    this.api.call(weekSheetRoutes.setCells, { body: { cells: [...cells] } }).subscribe({
      next: () => {
        arrived();
        this.cells.set(this.cells().map((k): KeptCell => (cells.some((c) => isSame(c, k)) ? { ...k, is: 'stored' } : k)));
        this.keep();
        this.again.next();
      },
      error: (fault: unknown) => (arrived(), this.refused(cells, fault)),
    });
  }

  private refused(cells: readonly TypedCell[], fault: unknown): void {
    const { status, detail, fields } = problemOf(fault);
    const away = status === 0 || status >= 500;
    let kept = this.cells();
    cells.forEach((cell, n) => {
      const own = fields?.[`cells[${n}]`] ?? fields?.[`cells[${n}].typed`];
      const is = away ? 'waiting' : own && status === 412 ? 'changed meanwhile' : 'wrong';
      kept = withCell(kept, { ...cell, is, says: away ? '' : (own ?? detail) });
    });
    this.cells.set(kept);
    this.keep();
    if (!away) this.toasts.trouble(fault);
    if (status === 412) this.again.next();
  }

  private take(sheet: WeekSheetWire): void {
    const fresh = this.sheet()?.days[0]?.day !== sheet.days[0]!.day;
    if (fresh) this.order = [];
    if (fresh) this.seen.clear();
    for (const { cells: _, ...head } of sheet.rows) this.seen.set(keyOfRow(head), head);
    this.place(sheet.rows);
    this.sheet.set(sheet);
    this.cells.set(this.cells().filter((c) => c.is !== 'stored'));
    if (!fresh) return;
    const kept = this.kept.read(sheet.days[0]!.day);
    this.cells.set(kept.cells);
    this.rows.set(kept.rows);
    this.place(kept.rows);
    this.sendWaiting();
  }

  private keep(): void {
    const sheet = this.sheet();
    const there = new Set(sheet?.rows.map(keyOfRow));
    this.rows.set(this.rows().filter((r) => !there.has(keyOfRow(r))));
    if (sheet) this.kept.write(sheet.days[0]!.day, { cells: this.cells(), rows: this.rows() });
  }
}
