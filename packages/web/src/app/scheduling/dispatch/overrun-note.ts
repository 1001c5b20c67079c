import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { sayWork, sayWorkShortly } from '@core/ground';
import { dispatchRoutes, type MoveForm, type OverrunWire } from '@core/scheduling';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { AtPipe } from '../../ui/pipes';
import { Why } from '../../ui/why';
import { DispatchState } from './dispatch.state';

/** A booking that runs into the next, with where that could go. */
@Component({
  selector: 'dl-overrun-note',
  imports: [AtPipe, RouterLink, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let o = overrun();
    <div class="note" role="status">
      <span
        ><b class="late">{{ o.technician }} is over</b> on {{ shortly(o) }} since {{ o.endedAt | at: 'time' }}; next is {{ say(o.next) }} at
        {{ o.next.startsAt | at: 'time' }}.</span
      >
      @for (p of o.proposals; track p.how + p.personId) {
        <span class="way">
          <button type="button" class="btn-plain" (click)="take(p)">
            {{ p.how === 'move' ? 'Move it to ' + (p.startsAt | at) : 'Hand over to ' + p.person + ' ' + (p.startsAt | at) }}
          </button>
          <dl-why [explanation]="p.why" [of]="'why: ' + p.says" />
        </span>
      }
      @if (o.next.workKind === 'ticket') {
        <a class="btn-link" [routerLink]="['/tickets', o.next.workId]" fragment="reply">Tell the client</a>
      }
      <button type="button" class="btn-link" (click)="state.settle(o.bookingId)">Leave it</button>
    </div>
  `,
  styles: `
    .note {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 10px;
      align-items: center;
      padding: 6px 16px;
      background: var(--wash);
      border-bottom: 1px solid var(--rule);
    }
    .way {
      display: inline-flex;
      gap: 4px;
      align-items: center;
    }
    .btn-plain,
    .btn-link {
      min-height: 26px;
      font-size: 12.5px;
      padding: 2px 8px;
    }
  `,
})
export class OverrunNote {
  readonly overrun = input.required<OverrunWire>();
  protected readonly state = inject(DispatchState);
  protected readonly say = sayWork;
  protected readonly shortly = sayWorkShortly;
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);

  protected take({ personId, startsAt }: OverrunWire['proposals'][number]): void {
    const { next } = this.overrun();
    const body = { personId, startsAt, minutes: next.minutes, tellClient: false } as MoveForm;
    this.api.call(dispatchRoutes.moveBooking, { params: { bookingId: next.bookingId }, version: next.version, body }).subscribe({
      next: () => (this.toasts.done(`${sayWorkShortly(next)} moved to ${this.state.who(personId)}`), this.state.retry()),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.state.retry()),
    });
  }
}
