import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, debounceTime, map, of, startWith, Subject, switchMap, tap } from 'rxjs';
import { actionTimeRoutes, actionTimeSchema, type ActionTime, type ProposedTimeWire, type TimedAction } from '@core/desk';
import { formatInstant, formatMinutes, type Id, instantOfMillis, parseMinutes, plusSeconds } from '@core/ground';
import { timeRoutes } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { EffectNote } from '../../ui/effect-note';

const WAIT_MS = 150;
const distanceSchema = actionTimeSchema.pick(['distance']);
/** What ends a piece of work. */
const ENDS_WORK: readonly TimedAction[] = ['visit', 'resolve'];

/** How long what is done on a ticket took, recorded with it in one step; proposed from what is known, and left out where nothing is typed. */
@Component({
  selector: 'dl-action-time',
  imports: [AsyncPipe, EffectNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (records && (proposed$ | async); as p) {
      <span class="time small" role="group" aria-label="Time for it">
        <label
          >Time
          <input
            #textBox
            class="in mono"
            aria-label="How long this took"
            [placeholder]="asks(p) ? 'asked for' : 'none'"
            [class.wrong]="wrong()"
            [attr.aria-invalid]="!!wrong()"
            [value]="duration()"
            (input)="type(textBox.value)"
        /></label>
        <select #selectBox class="in" aria-label="How it was done" (change)="activityId.set(selectBox.value)">
          @for (a of p.activities; track a.id) {
            <option [value]="a.id" [selected]="a.id === activityId()">{{ a.name }}</option>
          }
        </select>
        @if (duration().trim()) {
          <label class="yes"
            ><input #tickBox type="checkbox" [checked]="billable()" (change)="billable.set(tickBox.checked)" /> billable</label
          >
          @if (!billable()) {
            <input
              #textBox2
              class="in why"
              aria-label="Why it is not billable"
              placeholder="why not"
              [value]="reason()"
              (input)="reason.set(textBox2.value)"
            />
          }
        }
        @if (duration().trim() && isVisit(p)) {
          <label
            >How far, {{ p.distanceUnit }}
            <input
              #textBox3
              class="in mono far"
              inputmode="decimal"
              maxlength="6"
              [attr.aria-label]="'How far, ' + p.distanceUnit + ', there and back'"
              placeholder="none"
              [value]="distance()"
              (input)="far(textBox3.value)"
          /></label>
        }
        @if (effect$ | async; as e) {
          <span role="status"><dl-effect [effect]="e" of="what this time comes to" /></span>
        }
        @if (wrong(); as says) {
          <span class="late" role="alert">{{ says }}</span>
        } @else if (!typed() && p.from !== 'nothing') {
          @if (duration()) {
            <span class="soft">{{ p.says }}</span>
          } @else {
            <button type="button" class="btn-link small" (click)="type(said(p.minutes))" [title]="p.says">
              take {{ said(p.minutes) }}<span class="visually-hidden">, {{ p.says }}</span>
            </button>
          }
        }
      </span>
    }
  `,
  styles: `
    .time {
      display: inline-flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 8px;
    }
    label {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
    .in {
      min-height: 28px;
      padding: 2px 6px;
      width: auto;
    }
    input.mono {
      width: 84px;
    }
    .why {
      width: 160px;
    }
  `,
})
export class ActionTimeStrip {
  readonly workId = input.required<Id<'work'>>();
  readonly action = input.required<TimedAction>();
  /** Something is typed in it, or proposed for sure. */
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly records = !!this.session.current?.person.gradeId;
  /** What is proposed stands there, or could not be read: before that, the time would be left out unseen. */
  private readonly known = signal(!this.records);
  readonly ready = this.known.asReadonly();
  protected readonly duration = signal('');
  protected readonly typed = signal(false);
  protected readonly activityId = signal('');
  protected readonly billable = signal(true);
  protected readonly reason = signal('');
  protected readonly distance = signal('');
  private readonly refusal = signal('');
  protected readonly said = formatMinutes;
  private readonly again = new Subject<void>();
  private readonly proposed = signal<ProposedTimeWire | undefined>(undefined);
  protected readonly proposed$ = combineLatest([
    toObservable(this.workId),
    this.again.pipe(startWith(undefined)),
    inject(Live).mine(['timer']).pipe(startWith(undefined)),
  ]).pipe(
    switchMap(([workId]) => this.api.call(actionTimeRoutes.getProposedTime, { params: { workId } }).pipe(catchError(() => of(undefined)))),
    tap((p) => (this.known.set(true), p && (this.proposed.set(p), this.propose(p)))),
    map((p) => p ?? null),
  );
  protected readonly wrong = computed(() => this.refusal());
  /** What the time would do, before it is recorded. */
  private readonly asked = computed(() => ({
    duration: this.duration().trim(),
    activityId: this.activityId(),
    billable: this.billable(),
    distance: this.way(),
  }));
  protected readonly effect$ = toObservable(this.asked).pipe(
    debounceTime(WAIT_MS),
    switchMap(({ duration, activityId, billable, distance }) => {
      const minutes = parseMinutes(duration);
      if (!minutes || !activityId) return of(null);
      const startsAt = formatInstant(plusSeconds(instantOfMillis(this.session.now()), -minutes * 60));
      const query = {
        workId: this.workId(),
        startsAt,
        duration,
        activityId,
        billable: billable ? ('true' as const) : ('false' as const),
        ...(distance && distanceSchema.isValidSync({ distance }) ? { distance } : {}),
      };
      return this.api.call(timeRoutes.previewEntry, { query }).pipe(catchError(() => of(null)));
    }),
  );

  /** What a timer or a booking tells is put in where work ends or its time is asked for; else it is only offered. */
  private propose(p: ProposedTimeWire): void {
    if (!this.activityId()) this.activityId.set(p.activityId);
    if (this.typed()) return;
    const known = p.from === 'timer' || p.from === 'booking';
    const wanted = this.asks(p) || ENDS_WORK.includes(this.action());
    this.duration.set(known && wanted ? formatMinutes(p.minutes) : '');
    this.changed.emit();
  }

  protected asks(p: ProposedTimeWire): boolean {
    return p.asks.includes(this.action());
  }

  /** Only a visit has a way. */
  protected isVisit(p: ProposedTimeWire): boolean {
    return p.activities.some((a) => a.id === this.activityId() && a.visit);
  }

  protected far(text: string): void {
    this.refusal.set('');
    this.distance.set(text);
  }

  private way(): string | null {
    const known = this.proposed();
    return known && this.isVisit(known) ? this.distance().trim() || null : null;
  }

  protected type(text: string): void {
    this.typed.set(true);
    this.refusal.set('');
    this.duration.set(text);
    this.changed.emit();
  }

  /** The time as it is sent; null where there is none, undefined where what is typed is wrong, which is shown then. */
  take(): ActionTime | null | undefined {
    if (!this.records || !this.duration().trim()) return null;
    const time = {
      duration: this.duration(),
      activityId: this.activityId(),
      billable: this.billable(),
      reason: this.reason() || null,
      distance: this.way(),
    };
    try {
      return actionTimeSchema.validateSync(time);
    } catch (fault) {
      this.refusal.set((fault as Error).message);
      return undefined;
    }
  }

  /** Shows what the server says of it. @returns whether it said anything of it */
  refused(fields: Readonly<Record<string, string>> | undefined): boolean {
    const [said] = Object.entries(fields ?? {}).filter(([field]) => field.startsWith('time.'));
    if (said) this.refusal.set(said[1]);
    return Boolean(said);
  }

  /** What was recorded is not proposed again. */
  clear(): void {
    this.typed.set(false);
    this.duration.set('');
    this.distance.set('');
    this.refusal.set('');
    this.again.next();
  }
}
