import { inject, Injectable, signal } from '@angular/core';
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
import {
  type BookForm,
  type BookingWire,
  dispatchRoutes,
  type DispatchWire,
  fittingRoutes,
  type GapFitWire,
  type MoveForm,
  openingRoutes,
  type WorkFitWire,
} from '@core/scheduling';
import { peopleRoutes } from '@core/house';
import {
  dateOf,
  formatInstant,
  formatMinutes,
  type Id,
  instantAt,
  instantOfMillis,
  type NamedWork,
  naming,
  sayWorkShortly,
  ticketIdOf,
} from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';

export type Slot = Pick<MoveForm, 'personId' | 'startsAt' | 'minutes'> & Partial<MoveForm>;
export type Shown = Readonly<Record<string, string>>;
export type UnbookedFilter = Readonly<Record<string, string | undefined>>;

/** A change that met somebody else's: what was wanted, to make it after all or to leave theirs. */
export interface Clash {
  readonly booking: BookingWire;
  readonly wanted: Slot;
}

/** The lanes and the unbooked work beside them, and the commands on bookings; each can be undone. */
@Injectable()
export class DispatchState {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  private readonly which = new BehaviorSubject<Shown>({});
  private readonly filter = new BehaviorSubject<UnbookedFilter>({});
  private readonly again = new Subject<void>();
  private readonly changes$ = merge(inject(Live).about('booking', 'ticket', 'entry', 'timer'), this.again).pipe(startWith(undefined));
  now: DispatchWire | undefined;
  readonly clash = signal<Clash | undefined>(undefined);
  readonly view$ = loading(combineLatest([this.which, this.changes$]).pipe(map(([which]) => which)), (query) =>
    this.api.call(dispatchRoutes.getDispatch, { query: query as never }),
  ).pipe(
    tap((d) => d.is === 'there' && (this.now = d.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  readonly unbooked$ = loading(combineLatest([this.filter, this.changes$]).pipe(map(([filter]) => filter)), (filter) => {
    const query = Object.fromEntries(Object.entries(filter).filter(([, v]) => v));
    return this.api.call(dispatchRoutes.listUnbooked, { query: query as never });
  }).pipe(shareReplay({ bufferSize: 1, refCount: true }));
  readonly overruns$ = this.changes$.pipe(
    switchMap(() =>
      this.session.may('dispatch.book')
        ? this.api.call(fittingRoutes.listOverruns, {}).pipe(
            map((a) => a.overruns),
            catchError(() => of([])),
          )
        : of([]),
    ),
  );

  show(which: Shown): void {
    this.which.next(which);
  }

  narrow(filter: UnbookedFilter): void {
    this.filter.next(filter);
  }

  retry(): void {
    this.again.next();
  }

  gapFits(personId: Id<'person'>, gap: { from: string; to: string }): Observable<GapFitWire[]> {
    return this.api.call(fittingRoutes.listGapFits, { query: { personId, from: gap.from, to: gap.to } }).pipe(map((a) => a.fits));
  }

  workFits(workId: Id<'work'>, days: number): Observable<WorkFitWire[]> {
    return this.api.call(fittingRoutes.listWorkFits, { params: { workId }, query: { days } }).pipe(map((a) => a.fits));
  }

  /** @param done what follows once it is stored; where it is refused, what was typed stays */
  book(work: NamedWork, slot: Slot & Partial<BookForm>, done: () => void = nothingMore): void {
    const rest = {
      onSite: false,
      tentative: false,
      fixed: false,
      bring: null,
      tellClient: false,
      withIds: [],
      repeat: 'no' as const,
      times: 1,
    };
    this.run({
      command: this.api.call(dispatchRoutes.book, { body: { ...rest, ...slot, workId: work.workId } }),
      words: `${sayWorkShortly(work)} booked for ${this.who(slot.personId)}`,
      undo: (made) => this.cancel({ id: made.id, version: made.version, ...naming(work) }, { undo: false, series: true, crew: true }),
      done,
    });
  }

  move(booking: BookingWire, slot: Slot, done: () => void = nothingMore): void {
    const back: Slot = {
      personId: booking.personId,
      startsAt: booking.startsAt,
      minutes: minutesOf(booking),
      onSite: booking.onSite,
      tentative: booking.tentative,
      fixed: booking.fixed,
      bring: booking.bring,
    };
    const put = (version: number, to: Slot) =>
      this.api.call(dispatchRoutes.moveBooking, {
        params: { bookingId: booking.id },
        version,
        body: { tellClient: false, ...to } as MoveForm,
      });
    const same = slot.personId === booking.personId && slot.startsAt === booking.startsAt && slot.minutes === back.minutes;
    put(booking.version, slot).subscribe({
      next: (moved) => {
        done();
        this.toasts.done(
          same ? `Booking of ${sayWorkShortly(booking)} changed` : `${sayWorkShortly(booking)} moved to ${this.who(slot.personId)}`,
          () => this.run({ command: put(moved.version, back), words: `${sayWorkShortly(booking)} is back` }),
        );
        this.again.next();
      },
      error: (fault: unknown) => {
        if (problemOf(fault).status === 412) (this.clash.set({ booking, wanted: slot }), done());
        else this.toasts.trouble(fault);
        this.again.next();
      },
    });
  }

  cancel(
    booking: NamedWork & { id: Id<'booking'>; version: number },
    {
      undo = true,
      reason = null,
      series = false,
      crew = false,
      tellClient = false,
    }: { undo?: boolean; reason?: string | null; series?: boolean; crew?: boolean; tellClient?: boolean } = {},
    done: () => void = nothingMore,
  ): void {
    this.run({
      command: this.api.call(dispatchRoutes.cancelBooking, {
        params: { bookingId: booking.id },
        version: booking.version,
        body: { reason, series, crew, tellClient },
      }),
      words: `Booking of ${sayWorkShortly(booking)} cancelled`,
      undo:
        undo && !series && !crew ? (gone) => this.restore(booking, gone.version, `${sayWorkShortly(booking)} is booked again`) : undefined,
      done,
    });
  }

  finish(booking: BookingWire): void {
    this.run({
      command: this.api.call(dispatchRoutes.finishBooking, { params: { bookingId: booking.id }, version: booking.version, body: {} }),
      words: `Booking of ${sayWorkShortly(booking)} done`,
      undo: (done) => this.restore(booking, done.version, `${sayWorkShortly(booking)} is not done; its plan holds again`),
    });
  }

  restore(booking: NamedWork & { id: Id<'booking'> }, version: number, words: string): void {
    this.run({ command: this.api.call(dispatchRoutes.restoreBooking, { params: { bookingId: booking.id }, version }), words });
  }

  release(booking: BookingWire): void {
    this.run({
      command: this.api.call(openingRoutes.releaseOpenings, { params: { setId: booking.held!.setId } }),
      words: `The openings of ${sayWorkShortly(booking)} are let go`,
    });
  }

  setVisit(work: NamedWork, needsVisit: boolean): void {
    this.run({
      command: this.api.call(dispatchRoutes.setNeedsVisit, { params: { ticketId: ticketIdOf(work.workId) }, body: { needsVisit } }),
      words: needsVisit ? `${sayWorkShortly(work)} needs somebody on site` : `${sayWorkShortly(work)} is done from here`,
    });
  }

  setEstimate(work: NamedWork, minutes: number): void {
    this.run({
      command: this.api.call(dispatchRoutes.setEstimate, { params: { ticketId: ticketIdOf(work.workId) }, body: { minutes } }),
      words: `${sayWorkShortly(work)} is estimated at ${formatMinutes(minutes)}`,
    });
  }

  /** Somebody called in ill: nothing of theirs can be done today any more. Their bookings then show as conflicts. */
  awayToday(personId: Id<'person'>): void {
    const { zone } = this.session;
    const now = instantOfMillis(this.session.now());
    const body = { startsAt: formatInstant(now), endsAt: formatInstant(instantAt(dateOf(now, zone), 1440, zone)), reason: 'ill' };
    this.run({
      command: this.api.call(peopleRoutes.addTimeOff, { params: { personId }, body }),
      words: `${this.who(personId)} is away for the rest of the day`,
      undo: ({ id }) =>
        this.run({
          command: this.api.call(peopleRoutes.removeTimeOff, { params: { timeOffId: id } }),
          words: `${this.who(personId)} is here again`,
        }),
    });
  }

  settle(bookingId: Id<'booking'>): void {
    this.run({ command: this.api.call(fittingRoutes.settleOverrun, { params: { bookingId } }), words: 'Seen to' });
  }

  who(personId: Id<'person'> | null): string {
    return this.now?.lanes.find((l) => l.personId === personId)?.name ?? 'no technician yet';
  }

  /** Whatever came of it, the lanes then show what is stored. */
  private run<T>({
    command,
    words,
    undo,
    done = nothingMore,
  }: {
    readonly command: Observable<T>;
    readonly words: string;
    readonly undo?: (answer: T) => void;
    readonly done?: () => void;
  }): void {
    command.subscribe({
      next: (answer) => (this.toasts.done(words, undo && (() => undo(answer))), done(), this.again.next()),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }
}

const nothingMore = (): void => undefined;

export function minutesOf(b: { readonly startsAt: string; readonly endsAt: string }): number {
  return Math.round((Date.parse(b.endsAt) - Date.parse(b.startsAt)) / 60_000);
}
