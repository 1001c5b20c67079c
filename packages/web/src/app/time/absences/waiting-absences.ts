import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { merge, startWith, Subject } from 'rxjs';
import { absenceRoutes, sayDays, type AbsenceDecision, type AbsenceWire } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { saySpan } from '../../ui/time-format';

/** Time off that waits for a decision, with what it goes by: what is left, who else is away, and what is booked. */
@Component({
  selector: 'dl-waiting-absences',
  imports: [AsyncPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="To decide on">
      @if (now && now.is === 'failed') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now && now.is === 'there') {
        <h2>To decide on</h2>
        @for (w of now.value.absences; track w.absence.id) {
          @let a = w.absence;
          <div class="item panel">
            <span class="what"
              ><span
                ><b>{{ a.person }}</b> {{ span(a.from, a.to) }}{{ a.fromMiddle ? ', from midday' : ''
                }}{{ a.toMiddle ? ', until midday' : '' }}</span
              ><span class="soft small">{{ a.kind }}, {{ days(a.halves) }}{{ a.note ? ' · ' + a.note : '' }}</span></span
            >
            <span class="small">
              @if (w.left !== null) {
                <span [class.late]="w.left < 0">{{ days(w.left) }} left with it</span>
              }
              @if (w.bookings) {
                <span class="late">, {{ w.bookings }} bookings in it</span>
              }
              <span class="soft away">{{ w.away.length ? 'away too: ' + names(w.away) : 'nobody else away' }}</span>
            </span>
            @if (a.personId === me) {
              <span class="soft small">decided by somebody else</span>
            } @else if (refusing() === a.id) {
              <form class="acts" (submit)="$event.preventDefault(); decide(a, 'refuse', because.value)">
                <input #because class="in" maxlength="500" aria-label="Why not" placeholder="why not" />
                <button class="btn-plain">Refuse</button>
                <button type="button" class="btn-link" (click)="refusing.set(undefined)">Leave it</button>
              </form>
            } @else {
              <span class="acts">
                <button
                  type="button"
                  class="btn-main"
                  [attr.aria-label]="'Approve ' + a.person + ' ' + a.from"
                  (click)="decide(a, 'approve', null)"
                >
                  Approve
                </button>
                <button type="button" class="btn-link" (click)="refusing.set(a.id)">
                  Refuse<span class="visually-hidden"> {{ a.person }} {{ a.from }}</span>
                </button>
              </span>
            }
          </div>
        } @empty {
          <p class="soft">No time off waits for a decision.</p>
        }
      }
    </section>
  `,
  styles: `
    h2 {
      margin: 0 0 8px;
    }
    .item {
      display: grid;
      grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.2fr) auto;
      gap: 16px;
      align-items: center;
      padding: 8px 12px;
      margin-bottom: 6px;
    }
    .what,
    .away {
      display: grid;
    }
    .acts {
      display: flex;
      gap: 12px;
      align-items: center;
    }
  `,
})
export class WaitingAbsences {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly again = new Subject<void>();
  protected readonly me = inject(Session).current?.person.id;
  protected readonly refusing = signal<string | undefined>(undefined);
  protected readonly days = sayDays;
  protected readonly span = saySpan;
  protected readonly now$ = loading(merge(inject(Live).about('booking', 'entry'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(absenceRoutes.listWaitingAbsences, {}),
  );

  protected names(away: readonly { readonly person: string; readonly what: string }[]): string {
    return [...new Set(away.map((m) => `${m.person}, ${m.what.toLowerCase()}`))].join('; ');
  }

  protected decide(a: AbsenceWire, decision: AbsenceDecision, remark: string | null): void {
    if (decision === 'refuse' && !remark?.trim()) return this.toasts.trouble('Say why not.');
    this.send({ absence: a, version: a.version, decision, remark: remark?.trim() || null });
  }

  private send({
    absence: a,
    version,
    decision,
    remark,
  }: {
    readonly absence: AbsenceWire;
    readonly version: number;
    readonly decision: AbsenceDecision;
    readonly remark: string | null;
  }): void {
    const words = { approve: 'approved', refuse: 'refused', 'take back': 'waits again' }[decision];
    this.api.call(absenceRoutes.decideAbsence, { params: { absenceId: a.id }, version, body: { decision, remark } }).subscribe({
      next: (done) => {
        this.refusing.set(undefined);
        const undo =
          decision === 'take back'
            ? undefined
            : () => this.send({ absence: a, version: done.version, decision: 'take back', remark: null });
        this.toasts.done(`${a.kind} of ${a.person} ${words}`, undo);
        this.again.next();
      },
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }
}
