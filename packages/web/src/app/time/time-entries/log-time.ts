import { AsyncPipe } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  type OnInit,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { BehaviorSubject, catchError, combineLatest, debounceTime, map, of, shareReplay, switchMap, take } from 'rxjs';
import { actionTimeRoutes } from '@core/desk';
import { houseRoutes } from '@core/house';
import {
  dateOf,
  formatInstant,
  formatMinutes,
  type Id,
  instantAt,
  instantOfMillis,
  type LocalDate,
  parseLocalDate,
  parseMinutes,
  plusSeconds,
  sayWork,
} from '@core/ground';
import { entryFormSchema, timeRoutes, type EntryWire } from '@core/time';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Timers } from '../../shell/timers';
import { Toasts } from '../../shell/toasts';
import { Field, type Option } from '../../ui/field';
import { FormState } from '../../ui/form-state';
import { AtPipe } from '../../ui/pipes';
import { EffectNote } from '../../ui/effect-note';
import { WorkFinder, workOf, type WorkedOn } from '../../ui/work-finder';
import { clockTime } from '../../ui/time-format';

const WAIT_MS = 150;

/** Records time on work, from its timer or typed; says what it will do before it is saved. */
@Component({
  selector: 'dl-log-time',
  imports: [AsyncPipe, AtPipe, EffectNote, Field, WorkFinder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './log-time.html',
  styleUrl: './log-time.css',
})
export class LogTime implements OnInit {
  /** What it is on; without it, that is chosen here. */
  readonly workId = input<Id<'work'> | undefined>(undefined);
  /** Time to be filled, with what it was likely spent on. */
  readonly gap = input<{ readonly from: string; readonly to: string; readonly likely?: WorkedOn | undefined } | undefined>(undefined);
  /** The day it was on, where that is not today. */
  readonly day = input<string | undefined>(undefined);
  /** Set to change an entry instead of recording a new one. */
  readonly entry = input<EntryWire | undefined>(undefined);
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly toasts = inject(Toasts);
  private readonly timers = inject(Timers);
  protected endedWrong = '';
  protected workWrong = '';
  protected readonly work = signal<WorkedOn | undefined>(undefined);
  protected readonly say = sayWork;
  /** Somebody chose how it was done. */
  protected chose = false;
  protected readonly state = new FormState(entryFormSchema, {
    duration: '',
    ended: clockTime(this.session.now(), this.session.zone),
    activityId: '',
    note: null,
    billable: true,
    reason: null,
    insideNote: null,
    distance: null,
  });
  private readonly house$ = this.api.call(houseRoutes.getHouse, {}).pipe(shareReplay(1));
  protected readonly unit$ = this.house$.pipe(map((h) => h.distanceUnit));
  private readonly on = new BehaviorSubject('');
  /** What may be chosen on its kind, the usual first. */
  private readonly offered$ = this.on.pipe(
    switchMap((workId) =>
      workId
        ? this.api.call(actionTimeRoutes.getProposedTime, { params: { workId } }).pipe(catchError(() => of(undefined)))
        : of(undefined),
    ),
    switchMap((p) =>
      p
        ? of({ activities: p.activities, usual: p.activityId })
        : this.house$.pipe(map((h) => ({ activities: h.activities, usual: h.activities[0]?.id }))),
    ),
    shareReplay(1),
  );
  protected readonly activities$ = this.offered$.pipe(map((o): Option[] => o.activities.map((a) => ({ value: a.id, label: a.name }))));
  protected readonly effect$ = combineLatest([this.state.view$, this.on]).pipe(
    debounceTime(WAIT_MS),
    switchMap(([{ values }, workId]) => {
      const [duration, startsAt] = [String(values['duration'] ?? ''), this.startsAt()];
      if (!parseMinutes(duration) || !startsAt || !values['activityId'] || !workId) return of(undefined);
      const entry = this.entry();
      return this.api
        .call(timeRoutes.previewEntry, {
          query: {
            workId,
            ...(entry ? { entryId: entry.id } : {}),
            startsAt,
            duration,
            activityId: String(values['activityId']),
            billable: values['billable'] ? 'true' : 'false',
            ...(isDistance(values['distance']) ? { distance: String(values['distance']) } : {}),
          },
        })
        .pipe(catchError(() => of(undefined)));
    }),
  );

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    afterNextRender(() => host.nativeElement.querySelector('input')?.focus());
    effect(() => this.on.next(this.workId() ?? this.work()?.workId ?? ''));
    effect(() => {
      const gap = this.gap();
      if (!gap) return;
      this.state.set('duration', formatMinutes(Math.round((Date.parse(gap.to) - Date.parse(gap.from)) / 60_000)));
      this.state.set('ended', clockTime(Date.parse(gap.to), this.session.zone));
      if (gap.likely) this.take(gap.likely);
    });
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
          insideNote: entry.insideNote,
          distance: entry.distance,
        }))
          this.state.set(name, value);
      if (entry && !this.workId()) this.take(workOf(entry));
    });
    // What is usual is proposed until somebody chooses.
    this.offered$.pipe(takeUntilDestroyed()).subscribe(({ activities, usual }) => {
      const chosen = String(this.state.values['activityId'] ?? '');
      if (!this.entry() && (!this.chose || !activities.some((a) => a.id === chosen))) this.state.set('activityId', usual);
    });
  }

  /** Chooses what it is on; nothing to look for something else. */
  protected take(work: WorkedOn | undefined): void {
    this.work.set(work);
    this.workWrong = '';
    if (work?.workKind !== 'internal work' || this.entry()) return;
    this.state.set('billable', false);
    this.state.set('reason', 'internal');
  }

  ngOnInit(): void {
    // A timer that ran on it says how long.
    this.timers.timers$.pipe(take(1)).subscribe(({ timers }) => {
      const timer = timers.find((t) => t.workId === this.workId());
      if (!timer || this.entry() || this.gap()) return;
      this.state.set('timerId', timer.id);
      this.state.set('duration', String(Math.max(1, Math.round(timer.seconds / 60))));
    });
  }

  /** The start follows from when it ended, on the provider's clock, today or on the entry's day. */
  private startsAt(): string | undefined {
    const found = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(String(this.state.values['ended'] ?? '').trim());
    const minutes = parseMinutes(String(this.state.values['duration'] ?? ''));
    if (!found || !minutes) return undefined;
    const day = this.dayOfEnd();
    return formatInstant(plusSeconds(instantAt(day, Number(found[1]) * 60 + Number(found[2]), this.session.zone), -minutes * 60));
  }

  private dayOfEnd(): LocalDate {
    const day = this.day();
    if (day && !this.entry() && !this.gap()) return parseLocalDate(day);
    const end = this.entry()?.endsAt ?? this.gap()?.to;
    return dateOf(instantOfMillis(end ? Date.parse(end) : this.session.now()), this.session.zone);
  }

  protected save(event: Event): void {
    event.preventDefault();
    const work = this.work();
    if (!this.workId() && !work && !this.entry()) {
      this.workWrong = 'choose a ticket, or internal work';
      return;
    }
    const startsAt = this.startsAt();
    if (!startsAt && parseMinutes(String(this.state.values['duration'] ?? ''))) {
      this.endedWrong = 'a time of day such as 10:40';
      return;
    }
    this.state.set('workId', this.workId() ?? work?.workId ?? null);
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

const distanceSchema = entryFormSchema.pick(['distance']);
/** A distance that can be read by now. */
const isDistance = (typed: unknown): boolean => Boolean(typed) && distanceSchema.isValidSync({ distance: typed });
