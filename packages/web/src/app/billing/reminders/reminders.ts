import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { merge, type Observable, startWith, Subject } from 'rxjs';
import { type DueReminderWire, reminderRoutes, type ReminderPauseWire } from '@core/billing';
import { type AnswerOf, formatMoney, type Id, plural } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { RecordFormPanel } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { PAUSE_LINES, pauseForm } from './pause-lines';
import { ReminderSteps } from './reminder-steps';

type Due = AnswerOf<typeof reminderRoutes.listDueReminders>;

/** Reminders that are due, each beside its mail; what is paused; and the steps. */
@Component({
  selector: 'dl-reminders',
  imports: [AsyncPipe, DatePipe, MoneyPipe, RecordFormPanel, ReminderSteps, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reminders.html',
  styleUrl: './reminders.css',
})
export class Reminders {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly stepWords = ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth'];
  protected readonly pauseLines = PAUSE_LINES;
  protected readonly busy = signal(false);
  protected readonly read = signal<string | undefined>(undefined);
  protected readonly pausing = signal<string | undefined>(undefined);
  protected readonly again = new Subject<void>();
  protected readonly due$ = loading(merge(inject(Live).about('invoice', 'payment', 'client'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(reminderRoutes.listDueReminders, {}),
  );
  protected readonly steps$ = loading(this.again.pipe(startWith(undefined)), () => this.api.call(reminderRoutes.getReminderSteps, {}));

  protected reading({ due }: Due): DueReminderWire | undefined {
    return due.find((r) => r.clientId === this.read()) ?? due[0];
  }

  protected dueWords({ due, invoices, total, byThemselves }: Due): string {
    const words = due.length ? `${plural(due.length, 'mail')} for ${plural(invoices, 'invoice')} over ${formatMoney(total)}` : '';
    return byThemselves ? [words, 'sent by themselves'].filter(Boolean).join(', ') : words;
  }

  protected numbers({ invoices }: DueReminderWire): string {
    const [first, second, ...more] = invoices.map((i) => i.number);
    return [first, second].filter(Boolean).join(', ') + (more.length ? ` and ${more.length} more` : '');
  }

  protected pause({ clientId }: DueReminderWire) {
    return pauseForm(this.api, { clientId, invoiceId: null });
  }

  /** One of them, or all. */
  protected send({ invoices, total }: Due, one?: DueReminderWire): void {
    const body: { clientIds: Id<'client'>[] | null; invoices: number; totalMinor: number } = one
      ? { clientIds: [one.clientId], invoices: one.invoices.length, totalMinor: one.total.minor }
      : { clientIds: null, invoices, totalMinor: total.minor };
    this.run(this.api.call(reminderRoutes.sendReminders, { body }), ({ reminders }) =>
      this.toasts.done(`${plural(reminders, 'reminder')} on ${reminders === 1 ? 'its' : 'their'} way`),
    );
  }

  protected end({ id }: ReminderPauseWire): void {
    this.run(this.api.call(reminderRoutes.endPause, { params: { pauseId: id } }), () => this.toasts.done('The pause is over'));
  }

  private run<T>(command: Observable<T>, then: (answer: T) => void): void {
    this.busy.set(true);
    command.subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.again.next();
        then(answer);
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.again.next();
        this.toasts.trouble(fault);
      },
    });
  }
}
