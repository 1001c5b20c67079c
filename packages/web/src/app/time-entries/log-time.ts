import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input, output, type OnInit } from '@angular/core';
import { BehaviorSubject, catchError, combineLatest, debounceTime, filter, map, of, shareReplay, switchMap, take } from 'rxjs';
import { houseRoutes } from '@core/house';
import { dateOf, formatInstant, instantAt, instantOfMillis, parseMinutes, plusSeconds } from '@core/time';
import { entryFormSchema, timeRoutes, type EntryWire } from '@core/time-entries';
import { Api } from '../shell/api';
import { Session } from '../shell/session';
import { Timers } from '../shell/timers';
import { Toasts } from '../shell/toasts';
import { Field, type Option } from '../ui/field';
import { FormState } from '../ui/form-state';
import { Why } from '../ui/why';
import { clockTime } from '../ui/time-format';

const WAIT_MS = 150;

/** Records time on a ticket, from its timer or typed; says what it will do before it is saved. */
@Component({
  selector: 'dl-log-time',
  imports: [AsyncPipe, Field, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state.view$ | async;
    <form class="wash" (submit)="save($event)" novalidate>
      <div class="two">
        <dl-field
          label="How long"
          kind="duration"
          [value]="form?.values?.['duration']"
          [error]="form?.errors?.['duration']"
          (changed)="state.set('duration', $event)"
        />
        <dl-field
          label="Ended at"
          placeholder="10:40"
          [value]="form?.values?.['ended']"
          [error]="endedWrong || form?.errors?.['startsAt']"
          (changed)="state.set('ended', $event); endedWrong = ''"
        />
      </div>
      <dl-field
        label="How"
        kind="choice"
        [options]="(activities$ | async) ?? []"
        [value]="form?.values?.['activityId']"
        [error]="form?.errors?.['activityId']"
        (changed)="state.set('activityId', $event)"
      />
      <dl-field
        label="Note"
        [value]="form?.values?.['note']"
        [error]="form?.errors?.['note']"
        (changed)="state.set('note', $event || null)"
      />
      <dl-field kind="yes" label="Billable" [value]="form?.values?.['billable']" (changed)="state.set('billable', $event)" />
      @if (form?.values?.['billable'] === false) {
        <dl-field
          label="Why not"
          [value]="form?.values?.['reason']"
          [error]="form?.errors?.['reason']"
          (changed)="state.set('reason', $event || null)"
        />
      }
      @if (effect$ | async; as effect) {
        <p class="effect" role="status">
          <b>{{ effect.sentence }}</b> <dl-why [explanation]="effect.why" of="what this time comes to" />
        </p>
      }
      <p class="buttons">
        <button class="btn-main" [disabled]="form?.busy">Record</button
        ><button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
      </p>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
      padding: 12px;
      border-radius: 4px;
      margin: 8px 0;
    }
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
    .buttons {
      display: flex;
      gap: 16px;
    }
  `,
})
export class LogTime implements OnInit {
  readonly ticketId = input.required<string>();
  /** Set to change an entry instead of recording a new one. */
  readonly entry = input<EntryWire | undefined>(undefined);
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly toasts = inject(Toasts);
  private readonly timers = inject(Timers);
  protected endedWrong = '';
  private timerId: string | undefined;
  protected readonly state = new FormState(entryFormSchema, {
    duration: '',
    ended: clockTime(this.session.now(), this.session.zone),
    activityId: '',
    note: null,
    billable: true,
    reason: null,
  });
  protected readonly activities$ = this.api.call(houseRoutes.getHouse, {}).pipe(
    map((h): Option[] => h.activities.map((a) => ({ value: a.id, label: a.name }))),
    shareReplay(1),
  );
  private readonly ticket = new BehaviorSubject('');
  protected readonly effect$ = combineLatest([this.state.view$, this.ticket]).pipe(
    debounceTime(WAIT_MS),
    switchMap(([{ values }, ticketId]) => {
      const [duration, startsAt] = [String(values['duration'] ?? ''), this.startsAt()];
      if (!parseMinutes(duration) || !startsAt || !values['activityId'] || !ticketId) return of(undefined);
      return this.api
        .call(timeRoutes.previewEntry, {
          query: {
            ticketId,
            startsAt,
            duration,
            activityId: String(values['activityId']),
            billable: values['billable'] ? 'true' : 'false',
          },
        })
        .pipe(catchError(() => of(undefined)));
    }),
  );

  constructor() {
    effect(() => this.ticket.next(this.ticketId()));
    effect(() => {
      const entry = this.entry();
      if (entry)
        for (const [name, value] of Object.entries({
          duration: String(entry.minutes),
          ended: clockTime(Date.parse(entry.endsAt), this.session.zone),
          activityId: entry.activityId,
          note: entry.note,
          billable: entry.billable,
          reason: entry.reason,
        }))
          this.state.set(name, value);
    });
    this.activities$
      .pipe(
        take(1),
        filter(() => !this.state.values['activityId']),
      )
      .subscribe((a) => this.state.set('activityId', a[0]?.value));
  }

  ngOnInit(): void {
    // A timer that ran on this ticket says how long.
    this.timers.timers$.pipe(take(1)).subscribe(({ timers }) => {
      const timer = timers.find((t) => t.ticketId === this.ticketId());
      if (!timer || this.entry()) return;
      this.timerId = timer.id;
      this.state.set('duration', String(Math.max(1, Math.round(timer.seconds / 60))));
    });
  }

  /** The start follows from when it ended, on the provider's clock, today or on the entry's day. */
  private startsAt(): string | undefined {
    const found = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(String(this.state.values['ended'] ?? '').trim());
    const minutes = parseMinutes(String(this.state.values['duration'] ?? ''));
    if (!found || !minutes) return undefined;
    const day = dateOf(instantOfMillis(this.entry() ? Date.parse(this.entry()!.endsAt) : this.session.now()), this.session.zone);
    return formatInstant(plusSeconds(instantAt(day, Number(found[1]) * 60 + Number(found[2]), this.session.zone), -minutes * 60));
  }

  protected save(event: Event): void {
    event.preventDefault();
    const startsAt = this.startsAt();
    if (!startsAt && parseMinutes(String(this.state.values['duration'] ?? ''))) {
      this.endedWrong = 'a time of day such as 10:40';
      return;
    }
    this.state.set('ticketId', this.ticketId());
    this.state.set('startsAt', startsAt ?? '2000-01-01T00:00:00Z');
    const body = this.state.check();
    if (!body) return;
    this.state.busy(true);
    const entry = this.entry();
    const command = entry
      ? this.api.call(timeRoutes.editEntry, { params: { entryId: entry.id }, version: entry.version, body })
      : this.api.call(timeRoutes.addEntry, { body });
    command.subscribe({
      next: (done) => {
        this.state.saved();
        if (this.timerId)
          this.api
            .call(timeRoutes.discardTimer, { params: { timerId: this.timerId } })
            .subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
        this.toasts.done(
          'Time recorded',
          entry
            ? undefined
            : () =>
                this.api
                  .call(timeRoutes.removeEntry, { params: { entryId: done.id }, version: done.version })
                  .subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) }),
        );
        this.saved.emit();
      },
      error: (fault: unknown) => {
        this.state.refused(fault);
        this.toasts.trouble(fault);
      },
    });
  }
}
