import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, of, startWith, Subject } from 'rxjs';
import { GATHERED_BY, planAndFactRoutes, type FactBookingWire, type GatheredBy, type PlanFactWire } from '@core/insight';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { BarChart, type Bar } from '../../ui/bar-chart';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { GatheredByChoice } from '../../ui/gathered-by';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { namedSpans } from '../../ui/spans';
import { SpanChoice } from '../../ui/span-choice';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';
import { WorkLink } from '../../ui/work-link';

type Row = Omit<PlanFactWire, 'key'>;

/** How the plan held: planned against actual, lost time, travel and moves of any span, open to the bookings behind. */
@Component({
  selector: 'dl-plan-and-fact-page',
  imports: [AsyncPipe, AtPipe, BarChart, EmptyNote, GatheredByChoice, MinutesPipe, RouterLink, WorkLink, SpanChoice, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-and-fact.page.html',
  styleUrl: './plan-and-fact.page.css',
})
export class PlanAndFactPage {
  readonly from = input<string>();
  readonly to = input<string>();
  readonly by = input<string>();
  readonly open = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly choices = GATHERED_BY;
  protected readonly spans = namedSpans(isoDay(this.session.now(), this.session.zone));
  private readonly asked$ = combineLatest([toObservable(this.from), toObservable(this.to), toObservable(this.by)]).pipe(
    map(([from, to, by]) => ({ ...this.shown(from, to), by: this.gathered(by) })),
  );
  private readonly changes$ = merge(inject(Live).about('booking', 'entry'), this.again).pipe(startWith(undefined));
  protected readonly report$ = loading(combineLatest([this.asked$, this.changes$]), ([query]) =>
    this.api.call(planAndFactRoutes.getPlanAndFact, { query }),
  );
  protected readonly bookings$ = loading(combineLatest([this.asked$, toObservable(this.open), this.changes$]), ([query, key]) =>
    key ? this.api.call(planAndFactRoutes.listFactBookings, { query: { ...query, key } }) : of(undefined),
  );

  protected shown(from = this.from(), to = this.to()): { from: string; to: string } {
    const { from: first, to: last } = this.spans[0]!;
    return { from: from ?? first, to: to ?? last };
  }

  protected gathered(by = this.by()): GatheredBy {
    return GATHERED_BY.find((g) => g === by) ?? 'technician';
  }

  protected set(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected bars(rows: readonly PlanFactWire[]): Bar[] {
    return [
      { name: 'planned', colour: '--hold', minutes: rows.map((r) => r.plannedMinutes) },
      { name: 'actual', colour: '--run', minutes: rows.map((r) => r.actualMinutes) },
      { name: 'travel', colour: '--brass', minutes: rows.map((r) => r.travelMinutes) },
    ];
  }

  protected names(rows: readonly PlanFactWire[]): string[] {
    return rows.map((r) => r.name);
  }

  protected offBy(row: Row): number {
    return Math.abs(row.actualMinutes - row.plannedMinutes);
  }

  protected percent(row: Row): string {
    if (!row.plannedMinutes) return '';
    const share = Math.trunc(((row.actualMinutes - row.plannedMinutes) * 100) / row.plannedMinutes);
    return `${share > 0 ? '+' : ''}${share} %`.replace('-', '−');
  }

  protected flip(key: string): void {
    this.set({ open: this.open() === key ? undefined : key });
  }

  protected stands(b: FactBookingWire): string {
    return b.state === 'cancelled' && b.cancelReason ? `cancelled: ${b.cancelReason}` : b.state;
  }

  protected csv(rows: readonly PlanFactWire[], total: Row): void {
    const { from, to } = this.shown();
    const cells = (r: Row) => [
      r.name,
      ...[
        r.bookings,
        r.done,
        r.cancelled,
        r.plannedMinutes,
        r.actualMinutes,
        r.aheadMinutes,
        r.travelMinutes,
        r.lostMinutes ?? '',
        r.moved,
        r.moves,
      ].map(String),
    ];
    downloadCsv(
      `plan-and-fact-${from}-${to}.csv`,
      [
        this.gathered(),
        'bookings',
        'done',
        'cancelled',
        'planned min',
        'actual min',
        'ahead min',
        'travel min',
        'lost min',
        'bookings moved',
        'moves',
      ],
      [...rows.map(cells), cells(total)],
    );
  }
}
