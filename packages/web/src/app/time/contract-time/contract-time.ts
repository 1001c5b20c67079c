import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, startWith, Subject } from 'rxjs';
import { type ContractWire, sayUnits, unitsOfOne } from '@core/contracts';
import { plusDays, parseLocalDate } from '@core/ground';
import { type AllowanceUseWire, contractTimeRoutes, type DrawWire, WARN_PERCENT } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { DrawDownChart } from '../../ui/draw-down-chart';
import { loading } from '../../ui/loading';
import { AtPipe, DatePipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';
import { WorkLink } from '../../ui/work-link';
import { ContractClosings } from '../closings/contract-closings';

/** What is left of a contract's allowances, how they went down, and what was drawn by which entry. */
@Component({
  selector: 'dl-contract-time',
  imports: [AsyncPipe, AtPipe, ContractClosings, DatePipe, DrawDownChart, MinutesPipe, StateNote, WorkLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = time$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note class="waits" [state]="now" (again)="again.next()" />
    } @else if (now) {
      @let t = now.value;
      <h2>
        <span>{{ t.from | date }} to {{ before(t.to) | date }}</span>
        <span>
          <button type="button" class="btn-link small" (click)="on.set(before(t.from))">the period before</button>
          @if (t.to <= today) {
            <button type="button" class="btn-link small" (click)="on.set(t.to)">the next</button>
          }
        </span>
      </h2>
      @for (a of t.allowances; track a.allowanceId) {
        <section [attr.aria-label]="a.name">
          @if (a.measure === 'unlimited') {
            <p>
              <b>{{ a.name }}</b> without limit
            </p>
          } @else {
            <p class="left">
              <b>{{ a.name }}</b>
              <span class="figure" [class.late]="a.usedPercent >= warns">{{ say(a)(a.left) }} left</span>
              <span>of {{ say(a)(a.granted) }}{{ a.carried ? ', ' + say(a)(a.carried) + ' of it carried over' : '' }}</span>
              <span class="soft">{{ a.usedPercent }} % used</span>
            </p>
            @if (a.runsOut) {
              <p class="late">{{ a.left === 0 ? 'Used up on' : 'At this pace it is used up on' }} {{ a.runsOut | date }}.</p>
            }
            <dl-draw-down-chart [points]="a.points" [end]="t.to" [today]="today" [runsOut]="a.runsOut" [say]="say(a)" [unit]="unitOf(a)" />
            @if (a.lots.length > 1) {
              @for (l of a.lots; track l.from) {
                <p class="small soft">
                  {{ say(a)(l.left) }} left of {{ say(a)(l.granted) }} from {{ l.from | date }}{{ l.expiry ? ', until ' : ''
                  }}{{ l.expiry ? (before(l.expiry) | date) : '' }}
                </p>
              }
            }
          }
        </section>
      }
      @if (!contract().cover.length) {
        <p class="soft">It covers no work: what is done for {{ contract().client }} goes by the hour, or by another contract.</p>
      } @else {
        @if (session.may('charges.read')) {
          <dl-contract-closings [contract]="contract()" />
        }
        <h2>What was drawn</h2>
        <table class="rows">
          <thead>
            <tr>
              <th>When</th>
              <th>Work</th>
              <th class="num">Time</th>
              <th>What it did</th>
            </tr>
          </thead>
          @for (d of t.draws; track d.entryId) {
            <tr>
              <td class="mono small">{{ d.startsAt | at }}</td>
              <td>
                <dl-work-link [work]="d" />
                <span class="who soft small">{{ d.person }}</span>
              </td>
              <td class="num">{{ d.minutes | minutes }}</td>
              <td [class.late]="isOver(d)">
                {{ d.says }}
                @if (d.frozen) {
                  <span class="soft small" title="A decision stands on it, or its period is closed: it never changes">final</span>
                }
              </td>
            </tr>
          } @empty {
            <tr>
              <td colspan="4" class="soft">No work of this contract in this period.</td>
            </tr>
          }
        </table>
      }
    }
  `,
  styles: `
    h2 {
      display: flex;
      justify-content: space-between;
      margin: 0 0 8px;
    }
    /* What stands below is not pushed down when it comes. */
    .waits {
      display: block;
      min-height: 320px;
    }
    section + h2 {
      margin-top: 18px;
    }
    section {
      margin-bottom: 14px;
    }
    .left {
      display: flex;
      gap: 8px;
      align-items: baseline;
    }
    .figure {
      font-size: 20px;
      font-weight: 700;
    }
    table {
      table-layout: fixed;
      width: 100%;
    }
    td {
      vertical-align: top;
      overflow-wrap: anywhere;
    }
    td:nth-child(2) {
      overflow: hidden;
    }
    th:nth-child(1) {
      width: 84px;
    }
    th:nth-child(3) {
      width: 72px;
    }
    th:nth-child(4) {
      width: 40%;
    }
    .who {
      display: block;
    }
  `,
})
export class ContractTime {
  readonly contract = input.required<ContractWire>();
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected readonly warns = WARN_PERCENT;
  protected readonly again = new Subject<void>();
  protected readonly on = signal<string | undefined>(undefined);
  protected readonly today = isoDay(this.session.now(), this.session.zone);
  protected readonly time$ = loading(
    combineLatest([
      toObservable(this.contract),
      toObservable(this.on),
      this.again.pipe(startWith(undefined)),
      inject(Live)
        .touching(() => ({ topics: ['entry', 'charge'], records: new Set<string>(), clientId: this.contract().clientId }))
        .pipe(startWith(undefined)),
    ]),
    ([{ id: contractId }, on]) => this.api.call(contractTimeRoutes.getContractTime, { params: { contractId }, query: on ? { on } : {} }),
  );

  protected before(date: string): string {
    return plusDays(parseLocalDate(date), -1);
  }

  protected say({ measure }: AllowanceUseWire): (units: number) => string {
    return (units) => sayUnits(measure, units, this.contract().currency);
  }

  protected unitOf({ measure }: AllowanceUseWire): number {
    return unitsOfOne(measure, this.contract().currency);
  }

  protected isOver({ is }: DrawWire): boolean {
    return is === 'overage' || is === 'part overage';
  }
}
