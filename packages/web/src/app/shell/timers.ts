import { inject, Injectable } from '@angular/core';
import { catchError, of, shareReplay, startWith, switchMap, tap } from 'rxjs';
import { timeRoutes } from '@core/time';
import type { Id } from '@core/ground';
import { Api } from './api';
import { Live } from './live';
import { Session } from './session';
import { Toasts } from './toasts';

/** Your timers, kept by the server, so that they run on through reloads and on every device. */
@Injectable({ providedIn: 'root' })
export class Timers {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  /** When the figures were read, by the machine's clock. */
  readAt = 0;
  readonly timers$ = inject(Live)
    .mine(['timer'])
    .pipe(
      startWith(undefined),
      switchMap(() =>
        this.session.may('time.own')
          ? this.api.call(timeRoutes.listTimers, {}).pipe(catchError(() => of({ timers: [] })))
          : of({ timers: [] }),
      ),
      tap(() => (this.readAt = Date.now())),
      shareReplay({ bufferSize: 1, refCount: true }),
    );

  start(workId: Id<'work'>): void {
    this.api.call(timeRoutes.startTimer, { body: { workId } }).subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  /** By preference, opening a ticket that is worked on starts its timer. */
  startByItself(ticketId: Id<'ticket'>): void {
    const me = this.session.current;
    if (me?.timerOnOpen && me.person.gradeId && this.session.may('time.own')) this.start(ticketId);
  }

  /** What a timer counted goes to another ticket. */
  move(timerId: Id<'timer'>, workId: Id<'work'>, words: string): void {
    this.api.call(timeRoutes.moveTimer, { params: { timerId }, body: { workId } }).subscribe({
      next: () => this.toasts.done(words),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** Whether opening a ticket starts its timer; kept with the person. */
  setOnOpen(on: boolean): void {
    this.api
      .call(timeRoutes.setTimerOnOpen, { body: { on } })
      .pipe(switchMap(() => this.session.load()))
      .subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  discard(timerId: Id<'timer'>): void {
    this.api.call(timeRoutes.discardTimer, { params: { timerId } }).subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  pause(timerId: Id<'timer'>): void {
    this.api.call(timeRoutes.pauseTimer, { params: { timerId } }).subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
  }
}
