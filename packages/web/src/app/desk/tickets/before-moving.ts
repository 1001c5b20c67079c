import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { switchMap, type Observable } from 'rxjs';
import { chargeRoutes } from '@core/billing';
import { dispatchRoutes } from '@core/scheduling';
import { flatFeeRoutes, type ObstacleWire, type Status, ticketRoutes, type TicketWire } from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Timers } from '../../shell/timers';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';

/** Something that is settled elsewhere on the page. */
export type Settled = 'time' | 'reply' | 'waive' | 'resolution' | 'asset' | 'name asset' | 'contact' | 'fee' | 'fields';

/** What stands in the way of a move, each settled where it stands; and the way past, for who may. */
@Component({
  selector: 'dl-before-moving',
  imports: [Field, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-label="Before it moves">
      <h2>Before it is {{ to() }}</h2>
      @for (o of obstacles(); track o.check + o.id) {
        <p class="line">
          <span>{{ o.what }}</span>
          <span class="acts">
            @switch (o.check) {
              @case ('open checklist items') {
                <button type="button" class="btn-link" (click)="answer(o, 'done')">
                  done<span class="visually-hidden"> {{ o.what }}</span>
                </button>
                <button type="button" class="btn-link" (click)="answer(o, 'not needed')">
                  not needed<span class="visually-hidden"> {{ o.what }}</span>
                </button>
              }
              @case ('open bookings') {
                <button type="button" class="btn-link" (click)="booking(o, 'finishBooking')">it happened</button>
                @if (session.may('dispatch.book')) {
                  <button type="button" class="btn-link" (click)="booking(o, 'cancelBooking')">it did not</button>
                  @if (moving() === o.id) {
                    <dl-field label="It moved to" kind="moment" [value]="null" (said)="movedTo(o, $event)" />
                  } @else {
                    <button type="button" class="btn-link" (click)="moving.set(o.id)">it moved</button>
                  }
                }
              }
              @case ('running timers') {
                <button type="button" class="btn-link" (click)="ask.emit('time')">log its time</button>
                <button type="button" class="btn-link" (click)="pause(o)">pause it</button>
              }
              @case ('no time logged') {
                <button type="button" class="btn-link" (click)="ask.emit('time')">log time</button>
              }
              @case ('unanswered message') {
                @if (o.id) {
                  <a [routerLink]="['/tickets', o.id]">answer it there</a>
                } @else {
                  <button type="button" class="btn-link" (click)="ask.emit('reply')">reply</button>
                  <button type="button" class="btn-link" (click)="ask.emit('waive')">waive</button>
                }
              }
              @case ('no resolution text') {
                <button type="button" class="btn-link" (click)="ask.emit('resolution')">say it</button>
              }
              @case ('pending charges') {
                @if (!session.may('charges.decide')) {
                  <span class="soft small">billing decides on it</span>
                } @else if (waiving() === o.id) {
                  <input #because class="in" type="text" maxlength="300" aria-label="Why it is waived" placeholder="because …" />
                  <button type="button" class="btn-link" (click)="decide(o, 'waive', because.value)">waive it</button>
                } @else {
                  <button type="button" class="btn-link" (click)="decide(o, 'approve', null)">
                    approve<span class="visually-hidden"> {{ o.what }}</span>
                  </button>
                  <button type="button" class="btn-link" (click)="waiving.set(o.id)">
                    waive<span class="visually-hidden"> {{ o.what }}</span>
                  </button>
                }
              }
              @case ('missing fee') {
                <button type="button" class="btn-link" (click)="takeFee(o)">take that fee</button>
                <button type="button" class="btn-link" (click)="noFee()">it is none</button>
              }
              @case ('no fee result') {
                <button type="button" class="btn-link" (click)="ask.emit('fee')">say how it went</button>
              }
              @case ('missing field') {
                <button type="button" class="btn-link" (click)="ask.emit('fields')">fill it</button>
              }
              @case ('own condition') {
                <a routerLink="/setup/tickets">what asks for it</a>
              }
              @case ('no asset') {
                <button type="button" class="btn-link" (click)="ask.emit('name asset')">name it</button>
              }
              @case ('placeholder contact') {
                <button type="button" class="btn-link" (click)="ask.emit('contact')">say who it was</button>
              }
              @case ('asset of another client') {
                <button type="button" class="btn-link" (click)="ask.emit('asset')">take it off</button>
              }
            }
          </span>
        </p>
      } @empty {
        <p class="line">
          <span>Nothing stands in the way any more.</span>
          <button type="button" class="btn-main" (click)="go.emit(null)">Now it is {{ to() }}</button>
        </p>
      }
      @if (obstacles().length && session.may('tickets.override')) {
        <form class="line" (submit)="$event.preventDefault(); go.emit(why.value)">
          <input
            #why
            class="in"
            type="text"
            maxlength="500"
            aria-label="Why it moves all the same"
            placeholder="move it all the same, because …"
            (input)="reason.set(why.value)"
          />
          <button class="btn-plain" [disabled]="!reason().trim()">Move it</button>
        </form>
      }
      <button type="button" class="btn-link" (click)="closed.emit()">Leave it as it is</button>
    </section>
  `,
  styles: `
    section {
      padding: 12px 16px;
      border-color: var(--brass);
    }
    .line {
      display: flex;
      justify-content: space-between;
      gap: 16px;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule);
      align-items: center;
    }
    .acts {
      display: flex;
      gap: 12px;
      white-space: nowrap;
    }
    form {
      border: 0 !important;
    }
  `,
})
export class BeforeMoving {
  readonly ticket = input.required<TicketWire>();
  readonly to = input.required<Status>();
  readonly changed = output<void>();
  readonly closed = output<void>();
  /** The move, with the reason where it goes past what stands in the way. */
  readonly go = output<string | null>();
  readonly ask = output<Settled>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly timers = inject(Timers);
  protected readonly session = inject(Session);
  protected readonly reason = signal('');
  /** The booking that is being moved. */
  protected readonly moving = signal<string | null>(null);
  /** The charge that is being waived. */
  protected readonly waiving = signal<string | null>(null);
  protected readonly obstacles = computed(() => this.ticket().obstacles.filter((o) => o.move === this.to()));

  protected answer(o: ObstacleWire, answer: 'done' | 'not needed'): void {
    this.run(this.api.call(ticketRoutes.answerChecklistItem, { params: { checklistItemId: o.id! }, body: { answer } }));
  }

  protected booking(o: ObstacleWire, by: 'finishBooking' | 'cancelBooking'): void {
    const booking = this.ticket().bookings.find((b) => b.id === o.id);
    if (!booking) return;
    const to = { params: { bookingId: booking.id }, version: booking.version };
    const left = { reason: null, series: false, crew: false, tellClient: false };
    if (by === 'finishBooking') this.run(this.api.call(dispatchRoutes.finishBooking, { ...to, body: {} }));
    else this.run(this.api.call(dispatchRoutes.cancelBooking, { ...to, body: left }));
  }

  /** A booking that moved keeps its length and its technician. */
  protected movedTo(o: ObstacleWire, startsAt: string | null): void {
    const b = this.ticket().bookings.find((one) => one.id === o.id);
    if (!b || !startsAt) return;
    this.moving.set(null);
    const minutes = Math.round((Date.parse(b.endsAt) - Date.parse(b.startsAt)) / 60_000);
    const body = { personId: b.personId, startsAt, minutes, tellClient: false };
    this.run(this.api.call(dispatchRoutes.moveBooking, { params: { bookingId: b.id }, version: b.version, body }));
  }

  protected pause(o: ObstacleWire): void {
    this.timers.pause(o.id!);
  }

  /** As it is stored now: whoever decided meanwhile is not undone. */
  protected decide(o: ObstacleWire, decision: 'approve' | 'waive', reason: string | null): void {
    if (decision === 'waive' && !reason?.trim()) return this.toasts.trouble('Say why it is waived.');
    this.waiving.set(null);
    const params = { chargeId: o.id! };
    this.run(
      this.api.call(chargeRoutes.getCharge, { params }).pipe(
        switchMap(({ version }) =>
          this.api.call(chargeRoutes.decideCharge, {
            params,
            version,
            body: { decision, reason, quantity: null, unitPrice: null, description: null, until: null },
          }),
        ),
      ),
    );
  }

  protected takeFee(o: ObstacleWire): void {
    this.run(this.api.call(flatFeeRoutes.setFee, { params: { ticketId: this.ticket().id }, body: { feeId: o.id!, quantity: 1 } }));
  }

  protected noFee(): void {
    this.run(this.api.call(flatFeeRoutes.dismissFeeHint, { params: { ticketId: this.ticket().id } }));
  }

  private run(command: Observable<unknown>): void {
    command.subscribe({ next: () => this.changed.emit(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }
}
