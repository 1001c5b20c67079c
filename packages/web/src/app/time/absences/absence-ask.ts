import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, type OnInit } from '@angular/core';
import { BehaviorSubject, catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { absenceFormSchema, absenceRoutes, sayDays, type AbsenceKindWire } from '@core/time';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { isoDay, saySpan } from '../../ui/time-format';

const WAIT_MS = 200;
type Values = Readonly<Record<string, unknown>>;

/** Asks for time off; says before it is asked what it takes, what would be left, and who else is away then. */
@Component({
  selector: 'dl-absence-ask',
  imports: [AsyncPipe, RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form) {
      <dl-record-form [form]="form" [lines]="lines" (values)="values.next($event)" (saved)="asked.emit()" (closed)="closed.emit()">
        @if (preview$ | async; as p) {
          <div role="status">
            <p>
              It takes <b>{{ days(p.halves) }}</b>.
              @for (l of p.left; track l.year) {
                <span [class.late]="p.overdrawn"
                  >{{ days(l.halves) }} of {{ l.year }} would be left{{
                    p.overdrawn ? ', ' + days(p.overdrawn) + ' more than there is' : ''
                  }}.
                </span>
              }
              @if (p.bookings) {
                <span class="late">{{ p.bookings }} bookings of yours lie in it.</span>
              }
            </p>
            @if (p.away.length) {
              <p class="small">
                Away then:
                @for (m of p.away; track $index; let last = $last) {
                  <span>{{ m.person }} ({{ span(m.from, m.to) }}{{ m.decided ? '' : ', asked for' }}){{ last ? '' : ', ' }}</span>
                }
              </p>
            } @else {
              <p class="soft small">Nobody else is away then.</p>
            }
          </div>
        }
      </dl-record-form>
    }
  `,
  styles: `
    p {
      margin: 4px 0;
    }
  `,
})
export class AbsenceAsk implements OnInit {
  readonly kinds = input.required<readonly AbsenceKindWire[]>();
  readonly asked = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly days = sayDays;
  protected readonly span = saySpan;
  protected readonly values = new BehaviorSubject<Values>({});
  protected form: RecordForm<typeof absenceFormSchema> | undefined;
  protected lines: readonly Line[] = [];
  protected readonly preview$ = this.values.pipe(
    debounceTime(WAIT_MS),
    switchMap((v) => {
      const [kindId, from, to] = [v['kindId'], v['from'], v['to']].map((x) => String(x ?? ''));
      if (!kindId || !from || !to || to < from) return of(undefined);
      const query = { kindId, from, to, fromMiddle: yesNo(v['fromMiddle']), toMiddle: yesNo(v['toMiddle']) };
      return this.api.call(absenceRoutes.previewAbsence, { query }).pipe(catchError(() => of(undefined)));
    }),
    map((p) => p ?? null),
  );

  ngOnInit(): void {
    const today = isoDay(this.session.now(), this.session.zone);
    this.lines = [
      { name: 'kindId', label: 'What for', kind: 'choice', options: this.kinds().map((k) => ({ value: k.id, label: k.name })) },
      // A first day after the last takes it along.
      {
        name: 'from',
        label: 'First day',
        kind: 'date',
        write: (v) => ({ from: v, ...(String(this.values.value['to']) < String(v) ? { to: v } : {}) }),
      },
      { name: 'to', label: 'Last day', kind: 'date' },
      { name: 'fromMiddle', label: 'Only from midday of the first day', kind: 'yes' },
      { name: 'toMiddle', label: 'Only until midday of the last day', kind: 'yes' },
      { name: 'note', label: 'Note', wide: true },
    ];
    this.form = {
      schema: absenceFormSchema,
      initial: {
        kindId: this.kinds()[0]?.id ?? '',
        from: today,
        to: today,
        fromMiddle: false,
        toMiddle: false,
        note: null,
        personId: null,
      },
      draft: 'absence.new',
      does: 'Ask for it',
      save: (body) => this.api.call(absenceRoutes.requestAbsence, { body }),
    };
  }
}

const yesNo = (v: unknown): 'yes' | 'no' => (v === true ? 'yes' : 'no');
