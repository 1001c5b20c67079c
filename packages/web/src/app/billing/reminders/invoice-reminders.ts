import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, merge, startWith, Subject } from 'rxjs';
import { type InvoiceWire, reminderRoutes, type ReminderPauseWire } from '@core/billing';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { DatePipe } from '../../ui/pipes';
import { RecordFormPanel } from '../../ui/record-form';
import { isoDay, nearTime } from '../../ui/time-format';
import { PAUSE_LINES, pauseForm } from './pause-lines';

/** Of an invoice: when it was reminded of and is next, and the pause of it. */
@Component({
  selector: 'dl-invoice-reminders',
  imports: [AsyncPipe, DatePipe, RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = reminders$ | async;
    @if (now && now.is === 'there') {
      @let r = now.value;
      @for (s of r.sent; track s.id) {
        <p class="small">
          Reminder {{ s.step }} {{ at(s.at) }} to {{ s.to }}
          @if (s.undeliveredAt) {
            <span class="late">not delivered</span>
          } @else if (!s.mailedAt) {
            <span class="soft">waits to be mailed</span>
          }
        </p>
      }
      @for (p of r.pauses; track p.id) {
        <p class="small">
          <b>{{ p.invoiceId ? 'Reminders paused' : 'Reminders of the client paused' }}</b>
          @if (p.until) {
            until {{ p.until | date }}
          }
          : {{ p.reason }}
          @if (session.may('invoices.issue')) {
            <button type="button" class="btn-link" (click)="end(p)">end it</button>
          }
        </p>
      } @empty {
        @if (r.next.is === 'on') {
          <p class="small soft">
            Reminder {{ r.next.step }} is due {{ r.next.day! <= today() ? 'since' : '' }} {{ r.next.day! | date }}
            @if (session.may('invoices.issue')) {
              <button type="button" class="btn-link" (click)="pausing.set(!pausing())">pause</button>
            }
          </p>
        } @else if (r.next.is === 'all sent' && r.sent.length) {
          <p class="small soft">Every reminder was sent.</p>
        }
      }
      @if (pausing()) {
        <dl-record-form [form]="form()" [lines]="lines" (saved)="pausing.set(false); again.next()" (closed)="pausing.set(false)" />
      }
    }
  `,
  styles: `
    p {
      margin: 4px 0;
    }
  `,
})
export class InvoiceReminders {
  readonly invoice = input.required<InvoiceWire>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly lines = PAUSE_LINES;
  protected readonly pausing = signal(false);
  protected readonly again = new Subject<void>();
  protected readonly reminders$ = loading(
    combineLatest([toObservable(this.invoice), merge(inject(Live).about('invoice', 'client'), this.again).pipe(startWith(undefined))]),
    ([{ id }]) => this.api.call(reminderRoutes.getInvoiceReminders, { params: { invoiceId: id } }),
  );

  protected today(): string {
    return isoDay(this.session.now(), this.session.zone);
  }

  protected at(moment: string): string {
    return nearTime(Date.parse(moment), this.session.now(), this.session.zone);
  }

  protected form() {
    const { clientId, id: invoiceId } = this.invoice();
    return pauseForm(this.api, { clientId, invoiceId });
  }

  protected end({ id }: ReminderPauseWire): void {
    this.api.call(reminderRoutes.endPause, { params: { pauseId: id } }).subscribe({
      next: () => {
        this.toasts.done('The pause is over');
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
