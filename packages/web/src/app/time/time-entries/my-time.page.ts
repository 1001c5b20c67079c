import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import {
  BehaviorSubject,
  catchError,
  combineLatest,
  map,
  merge,
  of,
  shareReplay,
  startWith,
  Subject,
  switchMap,
  tap,
  type Observable,
} from 'rxjs';
import { ActionTimeStrip, IsItSolved } from '../../desk';
import { OutsideCalendars, ScheduleFeed } from '../../scheduling';
import { ProposedEntries } from '../proposed-entries/proposed-entries';
import { type ActionTime, actionTimeRoutes, ticketRoutes } from '@core/desk';
import { dispatchRoutes } from '@core/scheduling';
import { type Id, type LocalDate, plusDays, sayWork, sayWorkShortly, ticketIdOf } from '@core/ground';
import { timeRoutes, type DaySheetWire } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Timers } from '../../shell/timers';
import { Toasts } from '../../shell/toasts';
import { BeatStrip } from '../../ui/beat-strip';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { clockTime, isoDay, longDay } from '../../ui/time-format';
import { WorkLink } from '../../ui/work-link';
import { LogTime } from './log-time';
import { MyTimers } from './my-timers';
import { RecordedEntries } from './recorded-entries';
import { workOf, type WorkedOn } from '../../ui/work-finder';

/** So many gaps are offered to be filled; the sentence tells of all. */
const MOST_GAPS = 4;

/** A technician's day: what is booked, what runs, what is recorded, and what is still open. */
@Component({
  selector: 'dl-my-time-page',
  imports: [
    ActionTimeStrip,
    MyTimers,
    RecordedEntries,
    IsItSolved,
    ProposedEntries,
    OutsideCalendars,
    ScheduleFeed,
    AsyncPipe,
    RouterLink,
    WorkLink,
    BeatStrip,
    AtPipe,
    MinutesPipe,
    StateNote,
    LogTime,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './my-time.page.html',
  styleUrl: './my-time.page.css',
})
export class MyTimePage {
  protected readonly ticketOf = ticketIdOf;
  readonly day = input<string>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly say = sayWork;
  protected readonly shortly = sayWorkShortly;
  protected readonly timers = inject(Timers);
  private readonly live = inject(Live);
  private readonly which = new BehaviorSubject<string | undefined>(undefined);
  private readonly again = new Subject<void>();
  private now: DaySheetWire | undefined;
  protected readonly logging = signal<string | undefined>(undefined);
  /** The booking that is marked done, with its time. */
  protected readonly finishing = signal<string | undefined>(undefined);
  protected readonly filling = signal<
    | {
        readonly key: string;
        readonly gap: { readonly from: string; readonly to: string; readonly likely?: WorkedOn | undefined } | undefined;
      }
    | undefined
  >(undefined);
  protected readonly mostGaps = MOST_GAPS;
  /** The ticket whose booking was just done: whether it is solved is asked. */
  protected readonly solving = signal<string | undefined>(undefined);
  protected readonly sheet$ = loading(
    combineLatest([
      this.which,
      merge(
        this.live.mine(['entry', 'booking', 'timer', 'ticket'], () => this.now),
        this.again,
      ).pipe(startWith(undefined)),
    ]).pipe(map(([day]) => day)),
    (day) => this.api.call(timeRoutes.getDaySheet, { query: day ? { day } : {} }),
  ).pipe(
    tap((s) => s.is === 'there' && (this.now = s.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  constructor() {
    effect(() => this.which.next(this.day()));
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '← →', what: 'the day before, the day after' },
      { keys: '.', what: 'today' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe(({ key }) => {
      if (key === 'ArrowLeft' || key === 'ArrowRight') this.go(key === 'ArrowLeft' ? -1 : 1);
      if (key === '.') this.show(undefined);
    });
  }

  protected go(days: number): void {
    if (this.now) this.show(plusDays(this.now.day as LocalDate, days));
  }

  protected show(day: string | undefined): void {
    void this.router.navigate([], { queryParams: { day } });
  }

  protected retry(): void {
    this.again.next();
  }

  protected title(day: string): string {
    return longDay(Date.parse(`${day}T12:00:00Z`), 'UTC');
  }

  protected nowAt(s: DaySheetWire): number | undefined {
    const at = ((this.session.now() - Date.parse(s.from)) / (Date.parse(s.to) - Date.parse(s.from))) * 100;
    return at >= 0 && at <= 100 ? at : undefined;
  }

  /** Opens the form for time that is missing, or for any time of this day. */
  protected fill(s: DaySheetWire, gap: DaySheetWire['open'][number] | undefined): void {
    const likely = gap?.likely ? workOf(gap.likely) : undefined;
    this.filling.set({ key: `${s.day} ${gap?.from ?? ''}`, gap: gap && { from: gap.from, to: gap.to, likely } });
  }

  protected answer(checklistItemId: Id<'checklist_item'>): void {
    const answer = (to: 'done' | null) =>
      this.api.call(ticketRoutes.answerChecklistItem, { params: { checklistItemId }, body: { answer: to } });
    answer('done').subscribe({
      next: () => {
        this.toasts.done('Done', () =>
          answer(null).subscribe({ next: () => this.again.next(), error: (f: unknown) => this.toasts.trouble(f) }),
        );
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected readonly questions$ = merge(this.live.mine(['entry', 'booking']), this.again).pipe(
    startWith(undefined),
    switchMap(() =>
      this.api.call(dispatchRoutes.listQuestions, {}).pipe(
        map((a) => a.questions),
        catchError(() => of([])),
      ),
    ),
  );

  protected belongs(entryId: Id<'time_entry'>, bookingId: Id<'booking'>): void {
    this.api.call(dispatchRoutes.answerQuestion, { params: { entryId }, body: { bookingId } }).subscribe({
      next: () => (this.toasts.done('Thanks, that settles it'), this.again.next()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** Where to go, whom to ask for, how to get in and what to take along. */
  protected whereTo(b: DaySheetWire['bookings'][number]): string {
    if (!b.onSite && !b.bring) return [b.contact, b.phone].filter(Boolean).join(' ');
    const place = b.onSite ? [b.address, b.travelMinutes ? `${b.travelMinutes} min on the way` : null] : [];
    return [...place, [b.contact, b.phone].filter(Boolean).join(' '), b.onSite ? b.directions : null, b.bring ? `Bring: ${b.bring}` : null]
      .filter(Boolean)
      .join(' · ');
  }

  protected start(booking: DaySheetWire['bookings'][number], tellClient = false): void {
    const to = { params: { bookingId: booking.id }, version: booking.version, body: { tellClient } };
    this.api.call(dispatchRoutes.startBooking, to).subscribe({
      next: () => (
        this.toasts.done(`${sayWorkShortly(booking)} has begun; its timer runs${tellClient ? ', and the client is told' : ''}`),
        this.again.next()
      ),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** A booking is done at once, unless there is time of it to record with that. */
  protected done(booking: DaySheetWire['bookings'][number]): void {
    const asked = this.api.call(actionTimeRoutes.getProposedTime, { params: { workId: booking.workId } });
    asked.subscribe({
      next: (p) => {
        const some = p.from === 'timer' || p.from === 'booking' || p.asks.includes('visit');
        if (some && this.session.current?.person.gradeId) this.finishing.set(booking.id);
        else this.finish(booking, null);
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** Marks a booking done with the time that it took; what is wrong with that stands at its field. */
  protected finish(booking: DaySheetWire['bookings'][number], time: ActionTime | null | undefined, strip?: ActionTimeStrip): void {
    if (time === undefined) return;
    const to = { params: { bookingId: booking.id }, version: booking.version, body: { time } };
    this.api.call(dispatchRoutes.finishBooking, to).subscribe({
      next: (done) => {
        this.toasts.done(`Booking of ${sayWorkShortly(booking)} done`, () => this.notDone(booking, done.version));
        this.solving.set(booking.workId);
        this.finishing.set(undefined);
        this.again.next();
      },
      error: (fault: unknown) => {
        if (!strip?.refused(problemOf(fault).fields)) this.toasts.trouble(fault);
      },
    });
  }

  protected hasTimer(s: DaySheetWire, workId: Id<'work'>): boolean {
    return s.timers.some((t) => t.workId === workId);
  }

  private notDone(booking: DaySheetWire['bookings'][number], version: number): void {
    this.api.call(dispatchRoutes.restoreBooking, { params: { bookingId: booking.id }, version }).subscribe({
      next: () => this.toasts.done(`Booking of ${sayWorkShortly(booking)} is not done; its plan holds again`),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected isPast(s: DaySheetWire): boolean {
    return s.day <= isoDay(this.session.now(), this.session.zone);
  }

  protected span(s: { readonly from: string; readonly to: string }): string {
    return `${clockTime(Date.parse(s.from), this.session.zone)} to ${clockTime(Date.parse(s.to), this.session.zone)}`;
  }

  /** "45 min between 13:15 and 14:00", or in how many parts, the longest named. */
  protected openWords(s: DaySheetWire): string {
    const length = (g: DaySheetWire['open'][number]) => Date.parse(g.to) - Date.parse(g.from);
    const [longest] = [...s.open].sort((a, b) => length(b) - length(a));
    if (!longest) return '';
    const between = this.span(longest).replace(' to ', ' and ');
    return s.open.length === 1 ? `between ${between}` : `in ${s.open.length} parts, the longest between ${between}`;
  }

  protected close(s: DaySheetWire): void {
    this.run(this.api.call(timeRoutes.closeDay, { body: { day: s.day } }), 'The day is closed', () => this.reopen(s));
  }

  protected reopen(s: DaySheetWire): void {
    this.run(this.api.call(timeRoutes.openDay, { body: { day: s.day } }), 'The day is open again');
  }

  protected complete(s: DaySheetWire, upTo: string | null): void {
    const words = upTo ? 'Your time is complete up to here' : 'Your time is not complete any more';
    this.run(this.api.call(timeRoutes.declareComplete, { body: { upTo } }), words, () =>
      this.run(this.api.call(timeRoutes.declareComplete, { body: { upTo: s.completeUpTo } }), 'As it was'),
    );
  }

  private run(command: Observable<unknown>, words: string, undo?: () => void): void {
    command.subscribe({
      next: () => (this.toasts.done(words, undo), this.again.next()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
