import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { journalRoutes } from '@core/billing';
import { urlOf } from '../../shell/api';
import { Session } from '../../shell/session';
import { Field } from '../../ui/field';
import { isoDay } from '../../ui/time-format';

/** What was issued and received as plain text for accounting programs, and the sums of accounts, of days that are chosen. */
@Component({
  selector: 'dl-journal',
  imports: [Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="days">
      <dl-field label="From" kind="date" [value]="from()" (said)="from.set($event)" />
      <dl-field label="To" kind="date" [value]="to()" (said)="to.set($event)" />
    </div>
    @if (from() && to() && from() <= to()) {
      <p>
        @for (f of files(); track f.words) {
          <a class="btn-plain" [href]="f.link" download>{{ f.words }}</a>
        }
      </p>
    } @else {
      <p class="late">The first day is not after the last.</p>
    }
  `,
  styles: `
    .days {
      display: flex;
      gap: 14px;
    }
    p {
      display: flex;
      gap: 10px;
      margin: 10px 0 0;
      flex-wrap: wrap;
    }
  `,
})
export class Journal {
  private readonly session = inject(Session);
  private readonly today = isoDay(this.session.now(), this.session.zone);
  protected readonly from = signal(`${this.today.slice(0, 7)}-01`);
  protected readonly to = signal(this.today);
  protected readonly files = computed(() => {
    const days = { from: this.from(), to: this.to() };
    return [
      { words: 'Journal for hledger and ledger', link: urlOf(journalRoutes.getLedgerJournal, undefined, days) },
      { words: 'Journal for beancount', link: urlOf(journalRoutes.getBeancountJournal, undefined, days) },
      { words: 'Accounts by month, CSV', link: urlOf(journalRoutes.getAccountSums, undefined, days) },
    ];
  });
}
