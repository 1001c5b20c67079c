import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { invoiceRoutes, type InvoiceWire, paymentRoutes, sayQuantity, type SettlementWire } from '@core/billing';
import type { Id } from '@core/ground';
import { Api, urlOf } from '../../shell/api';
import { PageAddress } from '../../shell/page-address';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { showRecord } from '../../ui/shown-record';
import { DatePipe, MoneyPipe, UnitPricePipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { Why } from '../../ui/why';
import { RecordPayment } from '../payments/record-payment';
import { InvoiceReminders } from '../reminders/invoice-reminders';
import { CreditForm } from './credit-form';

/** The document as the client gets it, with each line's trail, and what became of it. */
@Component({
  selector: 'dl-invoice-page',
  imports: [AsyncPipe, RouterLink, CreditForm, DatePipe, InvoiceReminders, MoneyPipe, RecordPayment, StateNote, Story, UnitPricePipe, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './invoice.page.html',
  styleUrl: './invoice.page.css',
})
export class InvoicePage {
  readonly invoiceId = input.required<Id<'invoice'>>();
  private readonly api = inject(Api);
  private readonly address = inject(PageAddress);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  /** The settlement that is being taken back. */
  protected readonly takingBack = signal<string | undefined>(undefined);
  protected readonly whyNot = signal('');
  protected readonly acting = signal<'payment' | 'credit' | undefined>(undefined);
  protected readonly earlier = (before: string) =>
    this.api.call(invoiceRoutes.getInvoiceStory, { params: { invoiceId: this.invoiceId() }, query: { before } });
  protected readonly invoice = showRecord({
    id: this.invoiceId,
    topics: ['invoice'],
    read: (invoiceId) => this.api.call(invoiceRoutes.getInvoice, { params: { invoiceId } }),
    take: (i) => this.address.show({ under: '/billing', param: 'invoiceId', number: i.number, name: `${i.number} ${i.client}` }),
  });

  protected pdf(invoiceId: Id<'invoice'>): string {
    return urlOf(invoiceRoutes.getInvoicePdf, { invoiceId });
  }

  protected ubl(invoiceId: Id<'invoice'>): string {
    return urlOf(invoiceRoutes.getInvoiceUbl, { invoiceId });
  }

  protected amount(l: InvoiceWire['lines'][number]): string {
    return sayQuantity(l.quantity, l.unit);
  }

  protected act(what: 'payment' | 'credit'): void {
    this.acting.set(this.acting() === what ? undefined : what);
  }

  protected done(): void {
    this.acting.set(undefined);
    this.invoice.again();
  }

  protected canCredit(i: InvoiceWire): boolean {
    return i.lines.some((l) => l.left !== null);
  }

  protected takeBack(event: Event, { id }: SettlementWire, reason: string): void {
    event.preventDefault();
    if (!reason.trim()) return this.whyNot.set('write why');
    this.api.call(paymentRoutes.takeSettlementBack, { params: { settlementId: id }, body: { reason } }).subscribe({
      next: () => {
        this.toasts.done('Taken back: it is owed again, and their credit again');
        this.takingBack.set(undefined);
        this.invoice.again();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
