import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, of, startWith, Subject } from 'rxjs';
import { HOURS_BY, timeReportRoutes, shareOf, type TimeReportBy, type TimeReportRowWire, type TimeReportTotalWire } from '@core/insight';
import { daysBetween, formatMinutes, plusDays, type LocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { BarChart, type Bar } from '../../ui/bar-chart';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { GatheredByChoice } from '../../ui/gathered-by';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { namedSpans, type DateSpan } from '../../ui/spans';
import { SpanChoice } from '../../ui/span-choice';
import { StateNote } from '../../ui/state-note';
import { isoDay, saySpan } from '../../ui/time-format';
import { WorkLink } from '../../ui/work-link';

/** Hours of any span, by technician, client, activity or time band; with the billable share, against what is expected and another span. */
@Component({
  selector: 'dl-hours-page',
  imports: [AsyncPipe, AtPipe, BarChart, EmptyNote, GatheredByChoice, MinutesPipe, RouterLink, WorkLink, SpanChoice, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './time-report.page.html',
  styleUrl: '../plan-and-fact/plan-and-fact.page.css',
})
export class TimeReportPage {
  readonly from = input<string>();
  readonly to = input<string>();
  readonly by = input<string>();
  readonly thanFrom = input<string>();
  readonly thanTo = input<string>();
  readonly open = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly choices = HOURS_BY;
  protected readonly spans = namedSpans(isoDay(this.session.now(), this.session.zone));
  protected readonly say = (span: DateSpan) => saySpan(span.from, span.to);
  private readonly asked$ = combineLatest([this.from, this.to, this.by, this.thanFrom, this.thanTo].map((i) => toObservable(i))).pipe(
    map(() => ({ ...this.shown(), by: this.gathered(), ...this.thanQuery() })),
  );
  private readonly changes$ = merge(inject(Live).about('entry'), this.again).pipe(startWith(undefined));
  protected readonly report$ = loading(combineLatest([this.asked$, this.changes$]), ([query]) =>
    this.api.call(timeReportRoutes.getTimeReport, { query }),
  );
  protected readonly entries$ = loading(combineLatest([this.asked$, toObservable(this.open), this.changes$]), ([{ from, to, by }, key]) =>
    key ? this.api.call(timeReportRoutes.listWorkedEntries, { query: { from, to, by, key } }) : of(undefined),
  );

  protected shown(): DateSpan {
    const { from, to } = this.spans[2]!;
    return { from: this.from() ?? from, to: this.to() ?? to };
  }

  protected than(): DateSpan | undefined {
    const [from, to] = [this.thanFrom(), this.thanTo()];
    return from && to ? { from, to } : undefined;
  }

  private thanQuery() {
    const than = this.than();
    return than ? { thanFrom: than.from, thanTo: than.to } : {};
  }

  protected gathered(): TimeReportBy {
    return HOURS_BY.find((g) => g === this.by()) ?? 'technician';
  }

  protected set(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  /** As many days, right before those that are shown. */
  protected before(): void {
    const { from, to } = this.shown() as { from: LocalDate; to: LocalDate };
    const days = daysBetween(from, to) + 1;
    this.set({ thanFrom: plusDays(from, -days), thanTo: plusDays(from, -1) });
  }

  protected bars(rows: readonly TimeReportRowWire[]): Bar[] {
    const than = rows.some((r) => r.thanMinutes !== null);
    return [
      { name: 'billable', colour: '--run', stack: 'now', minutes: rows.map((r) => r.billableMinutes) },
      { name: 'not billable', colour: '--hold', stack: 'now', minutes: rows.map((r) => r.minutes - r.billableMinutes) },
      ...(this.gathered() === 'technician'
        ? [{ name: 'expected', colour: '--brass' as const, minutes: rows.map((r) => r.expectedMinutes ?? 0) }]
        : []),
      ...(than ? [{ name: 'the other days', colour: '--met' as const, minutes: rows.map((r) => r.thanMinutes ?? 0) }] : []),
    ];
  }

  protected names(rows: readonly TimeReportRowWire[]): string[] {
    return rows.map((r) => r.name);
  }

  protected share(row: TimeReportTotalWire): string {
    const share = shareOf(row.billableMinutes, row.minutes);
    return share === undefined ? '' : `${share} %`;
  }

  /** Against another figure: "+2 h", "−30 min". */
  protected against(minutes: number, other: number): string {
    return `${minutes > other ? '+' : ''}${formatMinutes(minutes - other)}`;
  }

  protected flip(key: string): void {
    this.set({ open: this.open() === key ? undefined : key });
  }

  protected csv(rows: readonly TimeReportRowWire[], total: TimeReportTotalWire): void {
    const { from, to } = this.shown();
    const figures = (r: TimeReportTotalWire) =>
      [
        r.minutes,
        r.billableMinutes,
        shareOf(r.billableMinutes, r.minutes) ?? '',
        r.expectedMinutes ?? '',
        r.thanMinutes ?? '',
        r.thanBillableMinutes ?? '',
      ].map(String);
    downloadCsv(
      `hours-${from}-${to}.csv`,
      [this.gathered(), 'min', 'billable min', 'billable %', 'expected min', 'min of the other days', 'billable min of the other days'],
      [...rows.map((r) => [r.name, ...figures(r)]), ['all', ...figures(total)]],
    );
  }
}
