import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { chargeRoutes, decideSchema, runRoutes, type RunInvoiceWire, type RunLineWire, sayPart } from '@core/billing';
import { type Id, money, type Money } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { type Line, type RecordForm, RecordFormPanel } from '../../ui/record-form';
import { showRecord } from '../../ui/shown-record';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { howMuch } from '../charges/how-much';
import { sayDiffers, sayReasons } from './run-words';

/** One invoice of a run, line by line: hold a line, waive it, or issue the invoice alone. */
@Component({
  selector: 'dl-run-invoice',
  imports: [AsyncPipe, DatePipe, MoneyPipe, RecordFormPanel, RouterLink, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-invoice.html',
  styleUrl: './run-invoice.css',
})
export class RunInvoicePanel {
  readonly runId = input.required<Id<'billing_run'>>();
  readonly runInvoiceId = input.required<Id<'billing_run_invoice'>>();
  /** Whether something can still be held, waived and issued. */
  readonly open = input.required<boolean>();
  readonly issue = output<RunInvoiceWire>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly waiving = signal<{ readonly chargeId: string; readonly form: RecordForm } | undefined>(undefined);
  protected readonly waiveLines: readonly Line[] = [{ name: 'reason', label: 'Why it is waived', wide: true }];
  protected readonly reasons = sayReasons;
  protected readonly differs = sayDiffers;
  protected readonly part = sayPart;
  protected readonly invoice = showRecord<RunInvoiceWire>({
    id: this.runInvoiceId,
    read: (runInvoiceId) => this.api.call(runRoutes.getRunInvoice, { params: { runId: this.runId(), runInvoiceId } }),
    topics: ['run', 'charge'],
    clientId: (i) => i.clientId,
    beside: () => this.runId(),
  });

  /** A credit note gives what it comes to. */
  protected net({ kind, net }: RunInvoiceWire): Money {
    return kind === 'credit note' ? money(-net.minor, net.currency) : net;
  }

  protected amount(l: RunLineWire): string {
    return howMuch(l, l.net.currency);
  }

  protected hold(l: RunLineWire): void {
    this.send(this.api.call(runRoutes.holdRunLine, { params: this.line(l) }), 'Held for the next run', () =>
      this.send(this.api.call(runRoutes.releaseRunLine, { params: this.line(l) }), 'On the invoice again'),
    );
  }

  protected release(l: RunLineWire): void {
    this.send(this.api.call(runRoutes.releaseRunLine, { params: this.line(l) }), 'On the invoice again');
  }

  protected askWaive(l: RunLineWire): void {
    this.waiving.set({
      chargeId: l.chargeId,
      form: {
        schema: decideSchema,
        initial: { decision: 'waive', reason: null, quantity: null, unitPrice: null, description: null, until: null },
        draft: `waive.${l.chargeId}`,
        does: 'Waive it',
        version: l.version,
        save: (body, version) =>
          this.api.call(chargeRoutes.decideCharge, {
            params: { chargeId: l.chargeId },
            body,
            ...(version === undefined ? {} : { version }),
          }),
      },
    });
  }

  protected waived(): void {
    this.waiving.set(undefined);
    this.toasts.done('Waived; it is in charge review under Waived');
    this.invoice.again();
  }

  protected releaseAll(i: RunInvoiceWire): void {
    const asked = { params: { runId: this.runId() }, body: { ids: [i.id] } };
    this.send(this.api.call(runRoutes.releaseRunInvoices, asked), 'In the run again');
  }

  private line({ chargeId }: RunLineWire) {
    return { runId: this.runId(), runInvoiceId: this.runInvoiceId(), chargeId };
  }

  private send(command: Observable<unknown>, words: string, undo?: () => void): void {
    command.subscribe({
      next: () => {
        this.toasts.done(words, undo);
        this.invoice.again();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
