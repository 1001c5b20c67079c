import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { type Observable, switchMap } from 'rxjs';
import { type CreditRowWire, paymentRoutes } from '@core/billing';
import { formatMoney, type Id, plainMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { Field, type Option } from '../../ui/field';
import { everyClient } from './every-client';
import { openInvoices } from './open-invoices';

/** Settles an invoice of the client with a payment or a credit note; of a payment that nobody knows, says whose it is first. */
@Component({
  selector: 'dl-use-credit',
  imports: [Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="wash use" (submit)="$event.preventDefault(); credit().clientId ? settle() : setClient()" novalidate>
      @if (credit().clientId) {
        @if (options().length) {
          <dl-field
            label="Invoice"
            kind="choice"
            none="choose an invoice"
            [options]="options()"
            [value]="invoiceId()"
            [error]="errors()['invoiceId']"
            (said)="choose($event)"
          />
          <dl-field label="Amount" kind="money" [value]="amount()" [error]="errors()['amount']" (said)="amount.set($event)" />
          <button class="btn-main" [disabled]="busy()">Settle it</button>
        } @else {
          <span class="soft">No invoice of {{ credit().client }} is open: this settles the next one when you choose it here.</span>
        }
      } @else {
        <dl-field
          label="Client"
          kind="choice"
          none="choose a client"
          [options]="clients()"
          [value]="clientId()"
          [error]="errors()['clientId']"
          (said)="clientId.set($event)"
        />
        <button class="btn-main" [disabled]="busy()">It is theirs</button>
      }
      <button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
    </form>
  `,
  styles: `
    .use {
      display: flex;
      gap: 12px;
      align-items: end;
      padding: 10px 14px;
      flex-wrap: wrap;
    }
  `,
})
export class UseCredit {
  readonly credit = input.required<CreditRowWire>();
  readonly done = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly clients = toSignal(everyClient(this.api), { initialValue: [] });
  private readonly invoices = toSignal(toObservable(this.credit).pipe(switchMap(({ clientId }) => openInvoices(this.api, clientId))), {
    initialValue: [],
  });
  protected readonly options = computed(() =>
    this.invoices().map((i): Option => ({ value: i.id, label: `${i.number}, ${formatMoney(i.left)} left, ${i.state}` })),
  );
  protected readonly invoiceId = signal('');
  protected readonly clientId = signal('');
  protected readonly amount = signal('');
  protected readonly busy = signal(false);
  protected readonly errors = signal<Readonly<Record<string, string>>>({});

  constructor() {
    // The one that is due first is the likely one.
    effect(() => {
      const [first] = this.invoices();
      if (first && !untracked(this.invoiceId)) this.choose(first.id);
    });
  }

  /** As much as goes, until another amount is typed. */
  protected choose(invoiceId: Id<'invoice'>): void {
    this.invoiceId.set(invoiceId);
    const invoice = this.invoices().find((i) => i.id === invoiceId);
    if (!invoice) return;
    const { left } = this.credit();
    this.amount.set(plainMoney({ ...left, minor: Math.min(left.minor, invoice.left.minor) }));
  }

  protected settle(): void {
    if (!this.invoiceId()) return this.errors.set({ invoiceId: 'choose an invoice' });
    const { source, id: sourceId } = this.credit();
    const invoice = this.invoices().find((i) => i.id === this.invoiceId())!;
    this.send(
      this.api.call(paymentRoutes.settleInvoice, {
        params: { invoiceId: invoice.id },
        body: { source, sourceId, amount: this.amount() || null },
      }),
      (done) => `${formatMoney(done.amount)} of ${invoice.number} settled`,
    );
  }

  protected setClient(): void {
    if (!this.clientId()) return this.errors.set({ clientId: 'choose a client' });
    this.send(
      this.api.call(paymentRoutes.setPaymentClient, { params: { paymentId: this.credit().id }, body: { clientId: this.clientId() } }),
      () => 'Kept: it is their credit now',
    );
  }

  private send<T>(sending: Observable<T>, words: (done: T) => string): void {
    this.busy.set(true);
    this.errors.set({});
    sending.subscribe({
      next: (done) => {
        this.busy.set(false);
        this.toasts.done(words(done));
        this.done.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.errors.set(problemOf(fault).fields ?? {});
        this.toasts.trouble(fault);
      },
    });
  }
}
