import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, map, type Observable, of, startWith, switchMap } from 'rxjs';
import { recurringChargeRoutes, type SeatsPreviewWire } from '@core/billing';
import {
  type ClientSeatsWire,
  isNothing,
  planChange,
  SEAT_ACTS,
  type SeatAct,
  type SeatLineWire,
  seatRoutes,
  type SeatRowWire,
  type SeatsChangeWire,
} from '@core/contracts';
import { formatMoney, money, parseLocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { DateInput } from '../../ui/date-input';
import { DatePipe, MoneyPipe } from '../../ui/pipes';

type Said =
  | { readonly is: 'nothing' }
  | { readonly is: 'said'; readonly preview: SeatsPreviewWire }
  | { readonly is: 'refused'; readonly why: string };
const ALL = '';

/** Does one thing with all who are chosen, and says before what it does to the next invoice. */
@Component({
  selector: 'dl-seats-change',
  imports: [AsyncPipe, DateInput, DatePipe, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let n = chosen().length;
    <div class="bar" role="group" aria-label="What to do with those who are chosen">
      <b>{{ n }} chosen</b>
      <select #actBox class="in" aria-label="What to do" (change)="act.set($any(actBox.value))">
        @for (a of acts; track a) {
          <option [value]="a" [selected]="a === act()">{{ labels[a] }}</option>
        }
      </select>
      <select #lineBox class="in" aria-label="Line" (change)="choose(lineBox.value)">
        @if (act() !== 'put on') {
          <option [value]="all" [selected]="lineId() === all">all lines</option>
        }
        @for (l of seats().lines; track l.id) {
          <option [value]="l.id" [selected]="l.id === lineId()">{{ l.name }}</option>
        }
      </select>
      @if (act() !== 'take off') {
        <dl-date [label]="act() === 'put on' ? 'First day' : 'Last day'" [value]="day()" (changed)="$event && day.set($event)" />
      }
      <button type="button" class="btn-main" [disabled]="busy() || nothing()" (click)="change()">{{ does() }}</button>
      <button type="button" class="btn-link" (click)="left.emit()">Leave it</button>
    </div>
    @let said = said$ | async;
    <p class="small says" role="status">
      @if (nothing()) {
        Nothing changes by this.
      } @else if (said && said.is === 'refused') {
        <span class="late">{{ said.why }}</span>
      } @else if (said && said.is === 'said') {
        @let p = said.preview;
        Next invoice on {{ p.on | date }}: <b>{{ p.before | money }}</b> becomes <b>{{ p.after | money }}</b>, {{ by(p) }}.
        @for (d of p.differences.slice(0, 4); track $index) {
          <span class="soft">{{ d.line }}, {{ d.period }}: {{ d.before | money }} becomes {{ d.after | money }}. </span>
        }
        @if (p.differences.length > 4) {
          <span class="soft">And {{ p.differences.length - 4 }} periods more.</span>
        }
      }
    </p>
  `,
  styles: `
    .bar {
      display: flex;
      gap: 8px;
      align-items: center;
      flex-wrap: wrap;
    }
    .bar .in {
      width: auto;
    }
    .says {
      min-height: 36px;
      padding: 6px 0 4px;
    }
  `,
})
export class SeatsChange {
  readonly seats = input.required<ClientSeatsWire>();
  readonly chosen = input.required<readonly SeatRowWire[]>();
  /** The line that somebody pressed on. */
  readonly meant = input<SeatLineWire>();
  readonly done = output<void>();
  readonly left = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly acts = SEAT_ACTS;
  protected readonly all = ALL;
  protected readonly labels: Readonly<Record<SeatAct, string>> = {
    'put on': 'put on',
    'last day': 'say the last day on',
    'take off': 'take off',
  };
  /** What is most likely meant stands there first: who is on no line is put on one; then it stays as somebody left it. */
  protected readonly act = linkedSignal<readonly SeatRowWire[], SeatAct>({
    source: this.chosen,
    computation: (rows, before) => before?.value ?? (rows.every((r) => r.state === 'on no line') ? 'put on' : 'last day'),
  });
  private readonly named = linkedSignal(() => this.meant()?.id ?? ALL);
  /** Nobody is put on all lines. */
  protected readonly lineId = computed((): string =>
    this.act() === 'put on' && this.named() === ALL ? (this.seats().lines[0]?.id ?? ALL) : this.named(),
  );
  protected readonly day = linkedSignal<string, string>({
    source: () => this.seats().today,
    computation: (today, before) => before?.value ?? today,
  });
  protected readonly busy = signal(false);

  private readonly plan = computed((): SeatsChangeWire => {
    const line = this.seats().lines.find((l) => l.id === this.lineId());
    return planChange(this.chosen(), { act: this.act(), lineId: line?.id ?? null, day: parseLocalDate(this.day()) });
  });
  protected readonly nothing = computed(() => isNothing(this.plan()));
  protected readonly said$ = toObservable(this.plan).pipe(
    debounceTime(200),
    switchMap((body): Observable<Said> => {
      if (isNothing(body)) return of({ is: 'nothing' });
      return this.api.call(recurringChargeRoutes.previewSeats, { params: { clientId: this.seats().clientId }, body }).pipe(
        map((preview): Said => ({ is: 'said', preview })),
        catchError((fault: unknown) => of<Said>({ is: 'refused', why: problemOf(fault).detail })),
        startWith<Said>({ is: 'nothing' }),
      );
    }),
  );

  protected choose(lineId: string): void {
    this.named.set(lineId);
  }

  protected does(): string {
    const { put, end, takeOff } = this.plan();
    const n = put.length + end.length + takeOff.length;
    if (this.act() === 'put on') return `Put ${n} on it`;
    return this.act() === 'last day' ? `End ${n} ${n === 1 ? 'seat' : 'seats'}` : `Take ${n} off`;
  }

  protected by({ before, after }: SeatsPreviewWire): string {
    const minor = after.minor - before.minor;
    if (minor === 0) return 'the same';
    return `${formatMoney(money(Math.abs(minor), after.currency))} ${minor > 0 ? 'more' : 'less'}`;
  }

  protected change(): void {
    this.busy.set(true);
    const store = (body: SeatsChangeWire) => this.api.call(seatRoutes.changeSeats, { params: { clientId: this.seats().clientId }, body });
    const trouble = (fault: unknown) => {
      this.busy.set(false);
      this.toasts.trouble(fault);
    };
    store(this.plan()).subscribe({
      next: ({ changed, undo }) => {
        this.busy.set(false);
        this.toasts.done(`${changed} changed`, () => store(undo).subscribe({ next: () => this.done.emit(), error: trouble }));
        this.done.emit();
      },
      error: trouble,
    });
  }
}
