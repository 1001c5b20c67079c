import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { combineLatest, map, merge, startWith, Subject, tap } from 'rxjs';
import { isEnded, ticketRoutes, type TicketWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { BeforeMoving, type Settled } from './before-moving';

/** Asked once a booking is done: is the ticket solved with it? What stands in the way of that is settled right here. */
@Component({
  selector: 'dl-is-it-solved',
  imports: [AsyncPipe, BeforeMoving, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = ticket$ | async;
    @if (now && now.is === 'failed') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now && now.is === 'there') {
      @let t = now.value;
      @if (ended(t)) {
        <p class="line met">#{{ t.number }} is {{ t.status }}.</p>
      } @else if (resolving() && barred(t)) {
        <dl-before-moving
          [ticket]="t"
          to="resolved"
          (changed)="again.next()"
          (closed)="closed.emit()"
          (go)="resolve(t, $event)"
          (ask)="settle(t, $event)"
        />
      } @else {
        <p class="line">
          <span>Is #{{ t.number }} solved with that?</span>
          <button type="button" class="btn-plain" (click)="resolve(t, null)">Resolve it</button>
          <button type="button" class="btn-link" (click)="closed.emit()">There is more to do</button>
        </p>
      }
    }
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 16px;
      align-items: center;
      padding: 4px 12px 10px;
      margin: 0;
    }
  `,
})
export class IsItSolved {
  readonly ticketId = input.required<Id<'ticket'>>();
  readonly closed = output<void>();
  /** Time is missing; who shows this has the form for it. */
  readonly logTime = output<void>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  protected readonly again = new Subject<void>();
  protected readonly resolving = signal(false);
  protected readonly ended = (t: TicketWire) => isEnded(t.status);
  private shown: TicketWire | undefined;
  private readonly changes$ = merge(
    inject(Live).of(['ticket', 'booking', 'charge', 'entry', 'timer'], () => [this.ticketId(), this.shown]),
    this.again,
  );
  protected readonly ticket$ = loading(
    combineLatest([toObservable(this.ticketId), this.changes$.pipe(startWith(undefined))]).pipe(map(([id]) => id)),
    (ticketId) => this.api.call(ticketRoutes.getTicket, { params: { ticketId } }).pipe(tap((t) => (this.shown = t))),
  );

  protected barred(t: TicketWire): boolean {
    return t.obstacles.some((o) => o.move === 'resolved');
  }

  protected resolve(t: TicketWire, override: string | null): void {
    this.resolving.set(true);
    if (this.barred(t) && !override) return;
    const body = { status: 'resolved' as const, holdReason: null, override, ownStatusId: null };
    this.api.call(ticketRoutes.setTicketStatus, { params: { ticketId: t.id }, version: t.version, body }).subscribe({
      next: () => (this.toasts.done(`#${t.number} is resolved`), this.again.next()),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }

  protected settle(t: TicketWire, what: Settled): void {
    if (what === 'time') this.logTime.emit();
    else void this.router.navigate(['/tickets', t.id]);
  }
}
