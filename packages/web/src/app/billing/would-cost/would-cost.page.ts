import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { distinctUntilChanged, filter, startWith, switchMap, takeWhile } from 'rxjs';
import { type CostTrialWire, MOST_TRIED, wouldCostRoutes } from '@core/billing';
import { contractRoutes } from '@core/contracts';
import { formatMoney, type Id, type Money, money } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { everyPage } from '../../ui/every-page';
import { loading } from '../../ui/loading';
import { DatePipe, MinutesPipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { plainDate } from '../../ui/time-format';

/** What a year's work of a client would have cost under up to three of its contracts, drafts among them. */
@Component({
  selector: 'dl-would-cost-page',
  imports: [AsyncPipe, DatePipe, MinutesPipe, MoneyPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let there = contracts$ | async;
    <div class="page">
      <header class="page-head">
        <p class="small"><a [routerLink]="['/clients', clientId()]">Client</a></p>
        <h1>What would it cost?</h1>
      </header>
      <div class="page-body">
        @if (there && there.is !== 'there') {
          <dl-state-note [state]="there" />
        } @else if (there) {
          <p>
            The work of the last twelve whole months is rated and drawn anew under each contract, as if it had begun with them, with its
            lines as they stand now.
          </p>
          <p class="which" role="group" aria-label="Contracts to try, three at the most">
            @for (c of there.value.rows; track c.id) {
              <label class="yes"
                ><input
                  type="checkbox"
                  [checked]="tried().has(c.id)"
                  [disabled]="!tried().has(c.id) && tried().size >= most"
                  (change)="toggle(c.id)"
                />
                {{ c.number }} {{ c.name }} <span class="soft small">{{ c.state }}</span></label
              >
            } @empty {
              <span class="soft">It has no contract yet: draw one up to try it.</span>
            }
            <button type="button" class="btn-main" [disabled]="!tried().size || busy()" (click)="start()">Work it out</button>
          </p>
          @let now = trial$ | async;
          @if (now && now.is !== 'there') {
            <dl-state-note [state]="now" />
          } @else if (now) {
            @let t = now.value;
            @if (t.state === 'failed') {
              <p class="late" role="alert">{{ t.trouble }}</p>
            } @else if (t.state !== 'ready') {
              <p role="status">
                Working it out: {{ t.percent }} %. <progress max="100" [value]="t.percent" aria-label="How far it is"></progress>
              </p>
            } @else {
              <table class="rows">
                <thead>
                  <tr>
                    <th>Month</th>
                    @if (t.costs) {
                      <th class="num">All time</th>
                      <th class="num">It cost us</th>
                    }
                    <th class="num">Billable</th>
                    <th class="num">Charged in fact</th>
                    @for (o of t.offers; track $index) {
                      <th class="num">{{ o.name }}</th>
                    }
                  </tr>
                </thead>
                <tbody>
                  @for (m of t.offers[0]!.months; track m.month; let n = $index) {
                    <tr>
                      <td class="nowrap">{{ monthOf(m.month) }}</td>
                      @if (t.costs) {
                        <td class="num">{{ allTime(t, m.month) | minutes }}</td>
                        <td class="num mono">{{ costOf(t, m.month) | money }}</td>
                      }
                      <td class="num">{{ m.minutes ? (m.minutes | minutes) : '' }}</td>
                      <td class="num mono">{{ chargedIn(t, m.month) | money }}</td>
                      @for (o of t.offers; track $index) {
                        @let there = o.months[n]!;
                        <td class="num">
                          <span class="mono">{{ there.total | money }}</span>
                          @if (there.recurring.minor && there.work.minor) {
                            <div class="soft small">of it work {{ there.work | money }}</div>
                          }
                        </td>
                      }
                    </tr>
                  }
                </tbody>
                <tfoot>
                  <tr>
                    <th>From {{ t.from | date }}</th>
                    @if (t.costs) {
                      <th class="num">{{ allTime(t) | minutes }}</th>
                      <th class="num mono">{{ cost(t) | money }}</th>
                    }
                    <th class="num">{{ minutesOf(t) | minutes }}</th>
                    <th class="num mono">{{ charged(t) | money }}</th>
                    @for (o of t.offers; track $index) {
                      <th class="num mono">{{ o.total | money }}</th>
                    }
                  </tr>
                  @if (t.costs) {
                    <tr>
                      <td colspan="4">Margin</td>
                      <td class="num">{{ margin(t, charged(t)) }}</td>
                      @for (o of t.offers; track $index) {
                        <td class="num">{{ margin(t, o.total) }}</td>
                      }
                    </tr>
                  }
                </tfoot>
              </table>
              @if (withoutRate(t); as minutes) {
                <p class="small late">
                  {{ minutes | minutes }} of it were worked by people of whom it is not said what an hour costs; the margin leaves them out.
                  <a routerLink="/setup/time">Say what an hour costs</a>
                </p>
              }
              <p class="small soft">
                Net. Goods, expenses, distances and flat fees stay as they are under every contract and are left out.
              </p>
            }
          }
        }
      </div>
    </div>
  `,
  styles: `
    .which {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 20px;
      align-items: center;
      padding: 10px 0 14px;
    }
    .yes {
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 32px;
    }
    th.num {
      white-space: normal;
      vertical-align: bottom;
    }
    tfoot th,
    tfoot td {
      border-top: 2px solid var(--rule);
      text-align: right;
    }
    tfoot th:first-child,
    tfoot td:first-child {
      text-align: left;
    }
  `,
})
export class WouldCostPage {
  readonly clientId = input.required<Id<'client'>>();
  /** The contract from whose page somebody came. */
  readonly contractId = input<Id<'contract'>>();
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly toasts = inject(Toasts);
  protected readonly most = MOST_TRIED;
  protected readonly busy = signal(false);
  protected readonly tried = linkedSignal<ReadonlySet<Id<'contract'>>>(() => {
    const from = this.contractId();
    return new Set(from ? [from] : []);
  });
  private readonly trialId = signal<Id<'cost_trial'> | undefined>(undefined);
  private readonly id$ = toObservable(computed(() => this.trialId()));
  protected readonly contracts$ = loading(toObservable(this.clientId), (clientId) =>
    everyPage((page) => this.api.call(contractRoutes.listContracts, { query: { clientId, ...page } })),
  );
  protected readonly trial$ = loading(
    this.id$.pipe(
      filter((id) => id !== undefined),
      distinctUntilChanged(),
    ),
    (trialId) =>
      this.live.about('trial').pipe(
        startWith(undefined),
        switchMap(() => this.api.call(wouldCostRoutes.getCostTrial, { params: { trialId } })),
        takeWhile((t) => t.state === 'waiting' || t.state === 'running', true),
      ),
  );

  protected toggle(id: Id<'contract'>): void {
    const next = new Set(this.tried());
    if (!next.delete(id)) next.add(id);
    this.tried.set(next);
  }

  protected start(): void {
    this.busy.set(true);
    const asked = { params: { clientId: this.clientId() }, body: { contractIds: [...this.tried()] } };
    this.api.call(wouldCostRoutes.startCostTrial, asked).subscribe({
      next: ({ id }) => {
        this.busy.set(false);
        this.trialId.set(id);
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }

  protected monthOf(month: string): string {
    return plainDate(month).replace(/^\d+ /, '');
  }

  private sum(all: readonly Money[], { offers }: CostTrialWire): Money {
    return money(
      all.reduce((total, m) => total + m.minor, 0),
      offers[0]!.total.currency,
    );
  }

  protected chargedIn(t: CostTrialWire, month: string): Money {
    return this.sum(
      t.charged.filter((c) => c.month === month).map((c) => c.net),
      t,
    );
  }

  protected charged(t: CostTrialWire): Money {
    return this.sum(
      t.charged.map((c) => c.net),
      t,
    );
  }

  protected costOf(t: CostTrialWire, month: string): Money {
    return this.sum(
      (t.costs ?? []).filter((c) => c.month === month).map((c) => c.cost),
      t,
    );
  }

  protected cost(t: CostTrialWire): Money {
    return this.sum(
      (t.costs ?? []).map((c) => c.cost),
      t,
    );
  }

  /** Of a month, or of all. */
  protected allTime({ costs }: CostTrialWire, month?: string): number {
    return (costs ?? []).filter((c) => !month || c.month === month).reduce((total, c) => total + c.minutes, 0);
  }

  protected minutesOf({ offers }: CostTrialWire): number {
    return offers[0]!.months.reduce((total, m) => total + m.minutes, 0);
  }

  protected withoutRate({ costs }: CostTrialWire): number {
    return (costs ?? []).reduce((total, c) => total + c.withoutRate, 0);
  }

  /** "€1,200.00, 62 %"; of nothing paid there is no share. */
  protected margin(t: CostTrialWire, paid: Money): string {
    const left = money(paid.minor - this.cost(t).minor, paid.currency);
    const share = paid.minor === 0 ? '' : `, ${Math.round((left.minor * 100) / paid.minor)} %`;
    return `${formatMoney(left)}${share}`;
  }
}
