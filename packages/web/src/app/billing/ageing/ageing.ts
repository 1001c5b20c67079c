import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { merge, startWith, Subject } from 'rxjs';
import { AGES, ageingRoutes, type AgeingWire } from '@core/billing';
import { type Money, plainMoney, plural } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';

/** What clients owe by how long it is overdue, and when it is expected. */
@Component({
  selector: 'dl-ageing',
  imports: [AsyncPipe, DatePipe, EmptyNote, MoneyPipe, RouterLink, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ageing.html',
  styleUrl: './ageing.css',
})
export class Ageing {
  private readonly api = inject(Api);
  protected readonly ages = AGES;
  protected readonly again = new Subject<void>();
  protected readonly ageing$ = loading(merge(inject(Live).about('invoice', 'payment'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(ageingRoutes.getAgeing, {}),
  );

  protected paysWords(days: number): string {
    if (!days) return 'on the day it is due';
    return `${plural(Math.abs(days), 'day')} ${days > 0 ? 'late' : 'early'}`;
  }

  /** How long a week's bar is beside the longest. */
  protected part(amount: Money, { weeks }: AgeingWire): number {
    return amount.minor / Math.max(1, ...weeks.map((w) => w.amount.minor));
  }

  protected csv({ clients }: AgeingWire): void {
    const head = ['client', ...AGES, 'all', 'credit', 'oldest due', 'reminders'];
    const rows = clients.map((c) => [
      c.client,
      ...c.ages.map(plainMoney),
      plainMoney(c.left),
      plainMoney(c.credit),
      c.oldestDueOn,
      String(c.reminders),
    ]);
    downloadCsv('ageing.csv', head, rows);
  }
}
