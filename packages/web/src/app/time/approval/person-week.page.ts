import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, effect, ElementRef, inject, input, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, startWith, Subject, tap } from 'rxjs';
import {
  approvalRoutes,
  type EntryWire,
  expenseRoutes,
  type ExpenseWire,
  type JudgedEntryWire,
  teamWeekRoutes,
  type TimeDecision,
} from '@core/time';
import { type Id, type LocalDate, plusDays, sayWork } from '@core/ground';
import { Api, urlOf } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { EmptyNote } from '../../ui/empty-note';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay, saySpan, shortDay } from '../../ui/time-format';
import { Why } from '../../ui/why';
import { WorkLink } from '../../ui/work-link';
import { ChangeTime } from './change-time';
import { CorrectTime } from './correct-time';

type Spent = { readonly expense: ExpenseWire; readonly trace: JudgedEntryWire['trace'] };
interface Day {
  readonly day: string;
  readonly expected: number;
  readonly recorded: number;
  readonly entries: readonly JudgedEntryWire[];
  readonly expenses: readonly Spent[];
}

/** Somebody's week as who approves it sees it: what differs from what is expected, what is odd, and what waits. */
@Component({
  selector: 'dl-person-week-page',
  imports: [AsyncPipe, AtPipe, ChangeTime, CorrectTime, EmptyNote, MinutesPipe, MoneyPipe, RouterLink, WorkLink, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './person-week.page.html',
  styleUrl: './person-week.page.css',
})
export class PersonWeekPage {
  readonly personId = input.required<Id<'person'>>();
  readonly day = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  /** What is left out of the decision; all else that waits is in it. */
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly returning = signal(false);
  protected readonly changing = signal<string | undefined>(undefined);
  protected readonly correcting = signal<string | undefined>(undefined);
  protected readonly traced = signal<string | undefined>(undefined);
  protected remark = '';
  private readonly said = viewChild<ElementRef<HTMLInputElement>>('said');
  protected readonly dayName = shortDay;
  private days: readonly Day[] = [];
  private readonly changes$ = merge(inject(Live).about('entry'), this.again).pipe(startWith(undefined));
  protected readonly now$ = loading(
    combineLatest([toObservable(this.personId), toObservable(this.day), this.changes$]).pipe(map(([personId, day]) => ({ personId, day }))),
    ({ personId, day }) =>
      this.api
        .call(approvalRoutes.getPersonWeek, { params: { personId }, query: day ? { day } : {} })
        .pipe(map((w) => ({ person: w.person, days: daysOf(w, this.session.zone) }))),
  ).pipe(tap((s) => s.is === 'there' && (this.days = s.value.days)));
  /** Who else has time that waits in this week, in the order of the team. */
  protected readonly others$ = loading(combineLatest([toObservable(this.day), this.changes$]), ([day]) =>
    this.api.call(teamWeekRoutes.getTeamWeek, { query: day ? { day } : {} }).pipe(map((w) => w.people)),
  );

  constructor() {
    // Returning begins with its remark.
    effect(() => this.said()?.nativeElement.focus());
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: 'a', what: 'approve all that is chosen' },
      { keys: 'r', what: 'return what is chosen, with a remark' },
      { keys: '← →', what: 'the week before, the week after' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe(({ key }) => {
      if (key === 'a') this.decide('approve', null);
      else if (key === 'r') this.returning.set(true);
      else if (key === 'ArrowLeft' || key === 'ArrowRight') this.go(key === 'ArrowLeft' ? -7 : 7);
    });
  }

  protected title(days: readonly Day[]): string {
    return saySpan(days[0]!.day, days.at(-1)!.day);
  }

  protected go(days: number): void {
    const first = this.days[0]?.day;
    if (first) void this.router.navigate([], { queryParams: { day: plusDays(first as LocalDate, days) } });
  }

  protected total(days: readonly Day[], of: 'expected' | 'recorded'): number {
    return days.reduce((sum, d) => sum + d[of], 0);
  }

  protected differs(d: Day): boolean {
    return d.day < isoDay(this.session.now(), this.session.zone) && d.recorded !== d.expected;
  }

  protected filled(days: readonly Day[]): Day[] {
    return days.filter((d) => d.entries.length || d.expenses.length || d.expected);
  }

  protected flip(id: string): void {
    const left = new Set(this.left());
    if (!left.delete(id)) left.add(id);
    this.left.set(left);
  }

  protected waits(approval: EntryWire['approval']): boolean {
    return approval !== 'approved';
  }

  private chosen() {
    const seen = <T extends { readonly id: string; readonly version: number; readonly approval: EntryWire['approval'] }>(
      all: readonly T[],
    ) => all.filter((x) => x.approval === 'open' && !this.left().has(x.id)).map(({ id, version }) => ({ id, version }));
    return {
      entries: seen(this.days.flatMap((d) => d.entries.map((e) => e.entry))),
      expenses: seen(this.days.flatMap((d) => d.expenses.map((x) => x.expense))),
    };
  }

  protected count(): number {
    const { entries, expenses } = this.chosen();
    return entries.length + expenses.length;
  }

  /** Only what is odd is left, so that it can be returned at once. */
  protected chooseOdd(days: readonly Day[]): void {
    const odd = new Set<string>(days.flatMap((d) => d.entries.filter((e) => e.odd.length).map((e) => e.entry.id)));
    const all = days.flatMap((d) => [...d.entries.map((e) => e.entry.id), ...d.expenses.map((x) => x.expense.id)]);
    this.left.set(new Set(all.filter((id) => !odd.has(id))));
  }

  protected chooseAll(): void {
    this.left.set(new Set());
  }

  protected decide(
    decision: TimeDecision,
    remark: string | null,
    one?: { readonly is: 'entries' | 'expenses'; readonly id: string; readonly version: number },
  ): void {
    const named = one ? { entries: [], expenses: [], [one.is]: [{ id: one.id, version: one.version }] } : this.chosen();
    if (!named.entries.length && !named.expenses.length) return this.toasts.trouble('Nothing that waits is chosen.');
    this.api.call(approvalRoutes.decideTime, { body: { ...named, decision, remark } }).subscribe({
      next: ({ decided }) => {
        const words = { approve: 'approved', return: 'returned', 'take back': 'open again' }[decision];
        this.toasts.done(`${decided} ${words}`);
        this.returning.set(false);
        this.remark = '';
        this.chooseAll();
        this.again.next();
      },
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }

  protected what(e: EntryWire): string {
    return sayWork(e);
  }

  protected receiptUrl(x: ExpenseWire): string {
    return urlOf(expenseRoutes.getReceipt, { expenseId: x.id });
  }

  protected done(): void {
    this.changing.set(undefined);
    this.correcting.set(undefined);
    this.again.next();
  }
}

function daysOf(
  w: {
    readonly days: readonly { readonly day: string; readonly expectedMinutes: number; readonly recordedMinutes: number }[];
    readonly entries: readonly JudgedEntryWire[];
    readonly expenses: readonly Spent[];
  },
  zone: string,
): Day[] {
  return w.days.map((d) => ({
    day: d.day,
    expected: d.expectedMinutes,
    recorded: d.recordedMinutes,
    entries: w.entries.filter((e) => isoDay(Date.parse(e.entry.startsAt), zone) === d.day),
    expenses: w.expenses.filter((x) => x.expense.day === d.day),
  }));
}
