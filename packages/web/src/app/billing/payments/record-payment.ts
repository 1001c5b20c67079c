import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type InvoiceWire, newPaymentSchema, paymentRoutes } from '@core/billing';
import { plainMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { type Line, type RecordForm, RecordFormPanel } from '../../ui/record-form';
import { Session } from '../../shell/session';
import { isoDay } from '../../ui/time-format';
import { everyClient } from './every-client';

/** Writes money down that came by another way than the ledger: for an invoice, or for a client. */
@Component({
  selector: 'dl-record-payment',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-record-form [form]="form()" [lines]="lines()" (saved)="saved.emit()" (closed)="closed.emit()" />`,
})
export class RecordPayment {
  /** What it is for; undefined for a client that is chosen here. */
  readonly invoice = input<InvoiceWire>();
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly clients = toSignal(everyClient(this.api), { initialValue: [] });
  protected readonly lines = computed((): readonly Line[] => [
    ...(this.invoice() ? [] : [{ name: 'clientId', label: 'Client', kind: 'choice' as const, options: this.clients(), wide: true }]),
    { name: 'amount', label: 'Amount', kind: 'money' },
    { name: 'receivedOn', label: 'Received on', kind: 'date' },
    { name: 'reference', label: 'Reference', placeholder: 'such as a cheque and its number', wide: true },
  ]);
  protected readonly form = computed((): RecordForm<typeof newPaymentSchema> => {
    const invoice = this.invoice();
    return {
      schema: newPaymentSchema,
      initial: {
        clientId: invoice?.clientId ?? '',
        amount: invoice ? plainMoney(invoice.left) : '',
        receivedOn: isoDay(this.session.now(), this.session.zone),
        reference: '',
        invoiceId: invoice?.id ?? null,
      },
      draft: `new-payment.${invoice?.id ?? ''}`,
      does: 'Record it',
      save: (body) => this.api.call(paymentRoutes.recordPayment, { body }),
    };
  });
}
