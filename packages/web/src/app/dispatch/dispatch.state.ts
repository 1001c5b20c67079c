import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, combineLatest, map, merge, shareReplay, startWith, Subject, tap, type Observable } from 'rxjs';
import { dispatchRoutes, type BookingWire, type DispatchDayWire } from '@core/dispatch';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Toasts } from '../shell/toasts';
import { loading } from '../ui/loading';

export interface Slot {
  readonly personId: string | null;
  readonly startsAt: string;
  readonly minutes: number;
}

/** The lanes of a day, and the commands on bookings; each can be undone. */
@Injectable()
export class DispatchState {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly which = new BehaviorSubject<{ day?: string; teamId?: string }>({});
  private readonly again = new Subject<void>();
  now: DispatchDayWire | undefined;
  readonly day$ = loading(
    combineLatest([this.which, merge(inject(Live).about('booking', 'ticket', 'entry'), this.again).pipe(startWith(undefined))]).pipe(
      map(([which]) => which),
    ),
    (query) => this.api.call(dispatchRoutes.getDispatchDay, { query }),
  ).pipe(
    tap((d) => d.is === 'there' && (this.now = d.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  show(which: { day?: string; teamId?: string }): void {
    this.which.next(which);
  }

  retry(): void {
    this.again.next();
  }

  book(ticketId: string, number: number, slot: Slot): void {
    this.run(
      this.api.call(dispatchRoutes.book, { body: { ticketId, ...slot } }),
      `#${number} booked for ${this.who(slot.personId)}`,
      (done) => this.cancel({ id: done.id, version: done.version, number }, false),
    );
  }

  move(booking: BookingWire, slot: Slot): void {
    const back: Slot = {
      personId: booking.personId,
      startsAt: booking.startsAt,
      minutes: (Date.parse(booking.endsAt) - Date.parse(booking.startsAt)) / 60_000,
    };
    this.run(
      this.api.call(dispatchRoutes.moveBooking, { params: { bookingId: booking.id }, version: booking.version, body: slot }),
      `#${booking.number} moved to ${this.who(slot.personId)}`,
      (done) =>
        this.run(
          this.api.call(dispatchRoutes.moveBooking, { params: { bookingId: booking.id }, version: done.version, body: back }),
          `#${booking.number} is back`,
        ),
    );
  }

  cancel(booking: { id: string; version: number; number: number }, offerUndo = true): void {
    this.run(
      this.api.call(dispatchRoutes.cancelBooking, { params: { bookingId: booking.id }, version: booking.version }),
      `Booking of #${booking.number} cancelled`,
      offerUndo
        ? (done) =>
            this.run(
              this.api.call(dispatchRoutes.restoreBooking, { params: { bookingId: booking.id }, version: done.version }),
              `#${booking.number} is booked again`,
            )
        : undefined,
    );
  }

  finish(booking: BookingWire): void {
    this.run(
      this.api.call(dispatchRoutes.finishBooking, { params: { bookingId: booking.id }, version: booking.version }),
      `Booking of #${booking.number} done`,
      (done) =>
        this.run(
          this.api.call(dispatchRoutes.restoreBooking, { params: { bookingId: booking.id }, version: done.version }),
          `#${booking.number} is not done; its plan holds again`,
        ),
    );
  }

  private who(personId: string | null): string {
    return this.now?.lanes.find((l) => l.personId === personId)?.name ?? 'no technician yet';
  }

  /** Whatever came of it, the lanes then show what is stored. */
  private run<T>(command: Observable<T>, words: string, undo?: (done: T) => void): void {
    command.subscribe({
      next: (done) => (this.toasts.done(words, undo && (() => undo(done))), this.again.next()),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }
}
