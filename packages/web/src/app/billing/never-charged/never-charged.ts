import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, startWith, Subject } from 'rxjs';
import { MOST_NEVER_CHARGED, neverChargedRoutes, type NeverChargedIs, type NeverChargedWire } from '@core/billing';
import { formatMinutes, plainMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { downloadCsv } from '../../ui/csv';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';

const WORDS: Readonly<Record<NeverChargedIs, string>> = {
  'not billable': 'Time that is not billable',
  'no fee': 'Jobs that look like a flat fee',
  'new person': 'New people without a fee',
  'new device': 'New devices without a fee',
};

/** What was done for clients and charged to nobody, in money, so that somebody looks before the run does not. */
@Component({
  selector: 'dl-never-charged',
  imports: [AsyncPipe, RouterLink, DatePipe, MoneyPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section class="panel never" aria-label="Never charged">
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        <header>
          <h2>Never charged</h2>
          <span class="soft small">done since {{ now.value.from | date }}, at what it would come to</span>
          <span class="grow"></span>
          <button type="button" class="btn-link small" (click)="export(now.value.rows)">CSV</button>
        </header>
        @for (s of now.value.sums; track s.is) {
          @if (s.count) {
            <h3>
              {{ words[s.is] }} <span class="mono">{{ s.count }}</span> <span class="grow"></span>
              <span class="mono">{{ s.worth | money }}</span>
            </h3>
            @if (s.is === 'not billable') {
              <p class="reasons" role="group" aria-label="By reason">
                @for (b of now.value.reasons; track b.reason) {
                  <button type="button" class="btn-plain small" [attr.aria-pressed]="reason() === b.reason" (click)="reason.set(b.reason)">
                    {{ b.reason ?? 'no reason' }} <span class="mono">{{ b.count }}</span> <span class="mono">{{ b.worth | money }}</span>
                  </button>
                }
              </p>
            }
            @for (r of of(now.value.rows, s.is); track $index) {
              <p class="row">
                <span class="soft small">{{ r.on | date }}</span>
                <span class="what">
                  <span class="clip">{{ r.what }}</span>
                  <span class="small soft">
                    <a class="ink-link" [routerLink]="['/clients', r.clientId]">{{ r.client }}</a>
                    @if (r.ticketId) {
                      <a class="ink-link mono" [routerLink]="['/tickets', r.ticketId]">#{{ r.ticketNumber }}</a>
                    }
                    {{ r.person }} {{ r.minutes === null ? '' : minutes(r.minutes) }}
                    @if (r.because) {
                      <span>{{ r.is === 'not billable' ? 'as' : 'like' }} “{{ r.because }}”</span>
                    } @else {
                      <span class="odd">no reason given</span>
                    }
                  </span>
                </span>
                <span class="mono net">{{ r.isRated ? (r.worth | money) : 'no rate' }}</span>
              </p>
            }
            @if (of(now.value.rows, s.is).length === most) {
              <p class="soft small">The dearest {{ most }}; the sums are of all.</p>
            }
          }
        }
        @if (!now.value.rows.length) {
          <p class="soft">Nothing: all that was done is charged, or covered.</p>
        }
      }
    </section>
  `,
  styles: `
    .never {
      padding: 10px 14px;
      margin-bottom: 16px;
    }
    header,
    h3 {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
    h3 {
      font-size: 14px;
      margin: 14px 0 4px;
    }
    .reasons {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin: 0 0 6px;
    }
    .row {
      display: grid;
      grid-template-columns: 92px minmax(0, 1fr) 96px;
      gap: 12px;
      margin: 0;
      padding: 5px 0;
      border-bottom: 1px solid var(--rule);
    }
    .what {
      display: grid;
      min-width: 0;
    }
    .net {
      text-align: right;
    }
    .odd {
      color: var(--late);
    }
  `,
})
export class NeverCharged {
  private readonly api = inject(Api);
  protected readonly words = WORDS;
  protected readonly minutes = formatMinutes;
  protected readonly most = MOST_NEVER_CHARGED;
  /** Whose time is listed; null is without a reason. */
  protected readonly reason = signal<string | null>(null);
  protected readonly again = new Subject<void>();
  protected readonly now$ = loading(combineLatest([toObservable(this.reason), this.again.pipe(startWith(undefined))]), ([reason]) =>
    this.api.call(neverChargedRoutes.listNeverCharged, { query: reason === null ? {} : { reason } }),
  );

  protected of(rows: readonly NeverChargedWire[], is: NeverChargedIs): readonly NeverChargedWire[] {
    return rows.filter((r) => r.is === is);
  }

  protected export(rows: readonly NeverChargedWire[]): void {
    downloadCsv(
      'never-charged.csv',
      ['what', 'date', 'client', 'ticket', 'person', 'text', 'minutes', 'because', 'worth'],
      [
        ...rows.map((r) => [
          r.is,
          r.on,
          r.client,
          String(r.ticketNumber ?? ''),
          r.person ?? '',
          r.what,
          String(r.minutes ?? ''),
          r.because ?? '',
          plainMoney(r.worth),
        ]),
      ],
    );
  }
}
