import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { escalationRoutes, type EscalationWire, type TicketWire } from '@core/desk';
import { formatSeconds } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { AtPipe } from '../../ui/pipes';

/** What to do next on a ticket, in one line on top: sort it, answer, assign, or see where it is worked on. */
@Component({
  selector: 'dl-ticket-next',
  imports: [RouterLink, AtPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let t = ticket();
    @for (rung of rung(); track rung.id) {
      @if (!rung.takenAt && t.replyOwedSince) {
        <p class="next rings" role="alert">
          <b>Rings</b> {{ rung.person }} since {{ rung.at | at }}, by app{{ rung.mailedAt ? ' and mail' : '' }}: {{ rung.why }}.
          @if (session.may('tickets.work')) {
            <button type="button" class="btn-link" (click)="takeIt()">I have it</button>
          }
        </p>
      }
    }
    @if (t.look; as look) {
      <p class="next">
        <b>Look</b>
        @if (look.is === 'not delivered') {
          Mail to {{ look.at }} did not arrive {{ look.since | at }}. Reach them another way, or correct the address and send it again.
        } @else {
          {{ look.at }}, who is no client, wrote {{ look.since | at }}. No reply to the client is owed for that.
        }
        @if (session.may('tickets.work')) {
          <button type="button" class="btn-link" (click)="looked()">I have looked at it</button>
        }
      </p>
    }
    @if (t.mergedInto; as into) {
      <p class="next">
        A double, merged into <a [routerLink]="['/tickets', into.id]">#{{ into.number }}</a
        >: its messages stand there.
        @if (session.may('tickets.work')) {
          <button type="button" class="btn-link" (click)="unmerge.emit()">take that back</button>
        }
      </p>
    }
    @if (t.umbrella) {
      <p class="next">
        One of several reports of one cause: it is worked on at umbrella
        <a [routerLink]="['/tickets', t.umbrella.id]">#{{ t.umbrella.number }}</a> and resolved with it; its clocks hold.
        @if (session.may('tickets.work')) {
          <button type="button" class="btn-link" (click)="detach.emit()">detach it</button>
        }
      </p>
    }
    @if (t.umbrella) {
      @if (t.replyOwedSince) {
        <p class="next">
          <b>Next</b> <b>Reply owed</b> to {{ t.replyOwedBy ?? t.contact }} since {{ t.replyOwedSince | at }}: {{ waiting() }}.
          @if (session.may('tickets.work')) {
            <button type="button" class="btn-link" (click)="waive.emit()">waive</button>
          }
        </p>
      }
    } @else if (t.kind === 'unsorted' && t.status !== 'closed') {
      <p class="next"><b>Next</b> This is not sorted yet. <a routerLink="/intake">Sort it in intake</a></p>
    } @else if (t.replyOwedSince) {
      <p class="next">
        <b>Next</b> <b>Reply owed</b> to {{ t.replyOwedBy ?? t.contact }} since {{ t.replyOwedSince | at }}: {{ waiting() }}.
        @if (session.may('tickets.work') && !t.isUmbrella) {
          <button type="button" class="btn-link" (click)="waive.emit()">waive</button>
        }
      </p>
    } @else if (t.waived) {
      <p class="next">
        {{ t.waived.thanks ? 'Thanks of the client: no reply is owed.' : 'Reply waived by ' + t.waived.who + ': ' + t.waived.reason + '.' }}
        @if (session.may('tickets.work')) {
          <button type="button" class="btn-link" (click)="unwaive.emit()">it needs a reply after all</button>
        }
      </p>
    } @else if (!t.assignee && t.status !== 'resolved' && t.status !== 'closed') {
      <p class="next"><b>Next</b> Nobody has this yet. Assign it at the side, or <a routerLink="/dispatch">book it</a>.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    .rings {
      background: var(--late-wash);
    }
  `,
})
export class TicketNext {
  readonly ticket = input.required<TicketWire>();
  readonly waive = output<void>();
  readonly unwaive = output<void>();
  readonly detach = output<void>();
  readonly unmerge = output<void>();
  readonly changed = output<void>();
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly rung = signal<readonly EscalationWire[]>([]);

  constructor() {
    effect(() => {
      const { id: ticketId, replyOwedSince } = this.ticket();
      if (!replyOwedSince) return this.rung.set([]);
      this.api.call(escalationRoutes.listEscalations, { params: { ticketId } }).subscribe({
        next: ({ escalations }) => this.rung.set(escalations),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
    });
  }

  protected takeIt(): void {
    this.run(this.api.call(escalationRoutes.takeEscalation, { params: { ticketId: this.ticket().id } }), 'Nobody else is rung');
  }

  protected looked(): void {
    this.run(this.api.call(escalationRoutes.lookedAt, { params: { ticketId: this.ticket().id } }), 'Looked at');
  }

  private run(command: Observable<unknown>, words: string): void {
    command.subscribe({
      next: () => {
        this.toasts.done(words);
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** How long somebody waits, by working time and by the clock on the wall. */
  protected waiting(): string {
    const t = this.ticket();
    const wall = Math.floor((this.session.now() - Date.parse(t.replyOwedSince!)) / 1000);
    return `${formatSeconds(t.owedWorkingSeconds ?? 0)} of working time, ${formatSeconds(wall)} by the clock on the wall`;
  }
}
