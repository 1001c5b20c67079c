import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { sayUnits } from '@core/contracts';
import { usageRoutes, usageSchema } from '@core/insight';
import type { Id, Wire } from '@core/ground';
import { Api, urlOf } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { DateInput } from '../../ui/date-input';
import { loading } from '../../ui/loading';
import { DatePipe, MinutesPipe, MoneyPipe } from '../../ui/pipes';
import { monthOf } from '../../ui/spans';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';

type UsageWire = Wire<typeof usageSchema>;
type Used = UsageWire['contracts'][number]['allowances'][number];

/** What was done for a client in a span, by ticket, as the client may see it. */
@Component({
  selector: 'dl-usage-page',
  imports: [AsyncPipe, DateInput, DatePipe, MinutesPipe, MoneyPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = report$ | async;
    @let span = (span$ | async) ?? thisMonth;
    <div class="page">
      <header class="page-head">
        <p class="small"><a [routerLink]="['/clients', clientId()]">Client</a></p>
        <h1>Usage report{{ now && now.is === 'there' ? ' of ' + now.value.client : '' }}</h1>
        <span class="grow"></span>
        <a class="btn-plain" [href]="file('getUsagePdf', span)" download>PDF</a>
        <a class="btn-plain" [href]="file('getUsageCsv', span)" download>CSV</a>
      </header>
      <div class="page-body">
        <p class="span">
          <span class="one">From <dl-date label="From" [value]="span.from" (changed)="choose({ from: $event })" /></span>
          <span class="one">to <dl-date label="to" [value]="span.to" (changed)="choose({ to: $event })" /></span>
          <button type="button" class="btn-link" (click)="choose(thisMonth)">this month</button>
          <button type="button" class="btn-link" (click)="choose(lastMonth)">last month</button>
        </p>
        @if (now && now.is !== 'there') {
          <dl-state-note [state]="now" (again)="again.next()" />
        } @else if (now) {
          @let r = now.value;
          <p class="sum">
            <b>{{ r.minutes | minutes }}</b> on {{ r.tickets.length }} tickets, of which {{ r.coveredMinutes | minutes }} covered by
            contracts and {{ r.chargedMinutes | minutes }} charged: <b>{{ r.net | money }}</b> before tax. Flat-fee jobs and work that is
            not billable stay out.
          </p>
          @for (c of r.contracts; track c.number) {
            @for (a of c.allowances; track $index) {
              <p>
                <a class="ink-link" [routerLink]="['/contracts', c.number]">{{ c.number }} {{ c.name }}</a
                >, {{ a.name }}:
                @if (a.measure === 'unlimited') {
                  without limit
                } @else {
                  {{ say(a, a.granted, r) }} granted, <b>{{ say(a, a.used, r) }} used</b>, {{ say(a, a.left, r) }} left
                }
              </p>
            }
          }
          <table class="rows">
            <thead>
              <tr>
                <th>No.</th>
                <th>What</th>
                <th>Stands</th>
                <th class="num">Time</th>
                <th class="num">Net</th>
              </tr>
            </thead>
            @for (t of r.tickets; track t.id) {
              <tr>
                <td>
                  <a class="ink-link mono" [routerLink]="['/tickets', t.id]">{{ t.number }}</a>
                </td>
                <td>
                  <b>{{ t.subject }}</b> <span class="soft small">{{ t.contact }}</span>
                  @if (t.done) {
                    <div>{{ t.done }}</div>
                  }
                  @for (w of t.work; track $index) {
                    <div class="soft small">
                      {{ w.on | date }}, {{ w.person }}, {{ w.activity }}, {{ w.minutes | minutes }}{{ treated[w.treatment] }}
                    </div>
                  }
                </td>
                <td>{{ t.status }}</td>
                <td class="num">{{ t.minutes | minutes }}</td>
                <td class="num mono">{{ t.net | money }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="5" class="soft">No billable work for them in this span. Choose another above.</td>
              </tr>
            }
          </table>
        }
      </div>
    </div>
  `,
  styles: `
    .span {
      display: flex;
      gap: 16px;
      align-items: center;
    }
    .one {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    dl-date {
      width: 150px;
    }
    .sum {
      margin: 8px 0 16px;
    }
    td {
      vertical-align: top;
    }
  `,
})
export class UsagePage {
  readonly clientId = input.required<Id<'client'>>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  private readonly today = isoDay(this.session.now(), this.session.zone);
  protected readonly thisMonth = monthOf(this.today, 0);
  protected readonly lastMonth = monthOf(this.today, 1);
  /** The span stands in the address, so that a report can be kept and shared. */
  protected readonly span$ = inject(ActivatedRoute).queryParams.pipe(
    map((q) => ({ from: String(q['from'] ?? this.thisMonth.from), to: String(q['to'] ?? this.thisMonth.to) })),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  /** The address may name the client by number. */
  private shown: string | undefined;
  protected readonly report$ = loading(
    combineLatest([
      toObservable(this.clientId),
      this.span$,
      merge(
        inject(Live).touching(() => ({ topics: ['entry', 'charge'], clientId: this.shown ?? null })),
        this.again,
      ).pipe(startWith(undefined)),
    ]),
    ([clientId, query]) => this.api.call(usageRoutes.getUsage, { params: { clientId }, query }).pipe(tap((u) => (this.shown = u.clientId))),
  );

  protected readonly treated = { charged: '', covered: ', covered', waived: ', not charged' };

  protected say({ measure }: Used, units: number, { net }: UsageWire): string {
    return sayUnits(measure, units, net.currency);
  }

  protected choose(part: Partial<{ from: string; to: string }>): void {
    void this.router.navigate([], { queryParams: part, queryParamsHandling: 'merge' });
  }

  protected file(route: 'getUsagePdf' | 'getUsageCsv', span: { from: string; to: string }): string {
    return urlOf(usageRoutes[route], { clientId: this.clientId() }, span);
  }
}
