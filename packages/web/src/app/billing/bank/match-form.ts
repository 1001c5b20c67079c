import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { switchMap } from 'rxjs';
import { allocateMoney, type BankLineWire, bankRoutes, type InvoiceRowWire } from '@core/billing';
import { formatMoney, type Id, money, type Money, parseMoney, plainMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { everyClient } from '../payments/every-client';
import { openInvoices } from '../payments/open-invoices';

/** Says by hand whose a line is and what it settles; what is over is their credit. */
@Component({
  selector: 'dl-match-form',
  imports: [DatePipe, Field, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="wash" (submit)="$event.preventDefault(); match()" novalidate>
      <dl-field
        kind="choice"
        label="Who paid {{ line().amount | money }}?"
        none="choose a client"
        [options]="clients()"
        [value]="clientId()"
        [error]="errors()['clientId']"
        (said)="clientId.set($event)"
      />
      @if (clientId()) {
        @if (invoices().length) {
          <table class="rows">
            <tbody>
              @for (i of invoices(); track i.id) {
                <tr>
                  <td class="mono">{{ i.number }}</td>
                  <td class="soft">due {{ i.dueOn | date }}</td>
                  <td class="num">{{ i.left | money }} left</td>
                  <td class="num">
                    <input
                      #sum
                      class="in mono"
                      inputmode="decimal"
                      [attr.aria-label]="'Of it for ' + i.number"
                      [class.wrong]="!read(i)"
                      [value]="typed()[i.id] ?? ''"
                      (input)="type(i.id, sum.value)"
                    />
                  </td>
                </tr>
              }
            </tbody>
          </table>
        } @else {
          <span class="soft">No invoice of theirs is open: all of it becomes their credit.</span>
        }
        <p class="soft" role="status" [class.late]="rest().minor < 0">{{ restWords() }}</p>
        <button class="btn-main" [disabled]="busy()">Match it</button>
      }
      <button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 260px minmax(0, 1fr) auto auto auto;
      gap: 14px;
      align-items: end;
      padding: 12px 20px;
    }
    table {
      max-width: 560px;
    }
    .in {
      width: 110px;
      text-align: right;
    }
    p {
      margin: 0 0 6px;
      max-width: 180px;
    }
  `,
})
export class MatchForm {
  readonly line = input.required<BankLineWire>();
  readonly done = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly clients = toSignal(everyClient(this.api), { initialValue: [] });
  protected readonly clientId = signal<Id<'client'> | ''>('');
  protected readonly invoices = toSignal(toObservable(this.clientId).pipe(switchMap((clientId) => openInvoices(this.api, clientId))), {
    initialValue: [],
  });
  protected readonly typed = signal<Readonly<Record<string, string>>>({});
  protected readonly busy = signal(false);
  protected readonly errors = signal<Readonly<Record<string, string>>>({});
  /** What nothing is settled with; below nothing where more is said than came. */
  protected readonly rest = computed((): Money => {
    const used = this.invoices().reduce((sum, i) => sum + (this.read(i)?.minor ?? 0), 0);
    return money(this.line().amount.minor - used, this.line().amount.currency);
  });

  constructor() {
    effect(() => {
      const [first] = this.line().matches;
      if (first && !untracked(this.clientId)) this.clientId.set(first.clientId);
    });
    // As the likeliest match of this client has it, else as far as it goes, the oldest first.
    effect(() => {
      const [invoices, line, clientId] = [this.invoices(), this.line(), untracked(this.clientId)];
      const match = line.matches.find((m) => m.clientId === clientId);
      const settles = match
        ? match.settles.map((s) => ({ id: s.invoiceId as string, amount: s.amount }))
        : allocateMoney(line.amount, invoices).settled;
      this.typed.set(Object.fromEntries(settles.map((s) => [s.id, plainMoney(s.amount)])));
    });
  }

  protected type(invoiceId: string, words: string): void {
    this.typed.update((now) => ({ ...now, [invoiceId]: words }));
  }

  /** What is typed for an invoice: nothing where it is empty, undefined where it is wrong or more than is left. */
  protected read(i: InvoiceRowWire): Money | undefined {
    const words = this.typed()[i.id]?.trim();
    if (!words) return money(0, i.left.currency);
    const amount = parseMoney(words, i.left.currency);
    return amount && amount.minor >= 0 && amount.minor <= i.left.minor ? amount : undefined;
  }

  protected restWords(): string {
    const rest = this.rest();
    if (rest.minor < 0) return `${formatMoney(money(-rest.minor, rest.currency))} more than came`;
    return rest.minor ? `${formatMoney(rest)} becomes their credit` : 'all of it is used';
  }

  protected match(): void {
    const clientId = this.clientId();
    const wrong = this.invoices().find((i) => !this.read(i));
    if (!clientId) return;
    if (wrong) return this.toasts.trouble(`For ${wrong.number}, an amount of at most ${formatMoney(wrong.left)} goes.`);
    if (this.rest().minor < 0) return this.toasts.trouble(`${this.restWords()}: ${formatMoney(this.line().amount)} came.`);
    const settles = this.invoices()
      .map((i) => ({ invoiceId: i.id, minor: this.read(i)!.minor }))
      .filter(({ minor }) => minor > 0);
    this.busy.set(true);
    this.api.call(bankRoutes.matchBankLine, { body: { lineId: this.line().id, clientId, settles, paymentId: null } }).subscribe({
      next: () => this.done.emit(this.line().id),
      error: (fault: unknown) => {
        this.busy.set(false);
        this.errors.set(problemOf(fault).fields ?? {});
        this.toasts.trouble(fault);
      },
    });
  }
}
