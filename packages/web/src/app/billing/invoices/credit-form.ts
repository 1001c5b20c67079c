import { ChangeDetectionStrategy, Component, computed, inject, input, type OnInit, output, signal } from '@angular/core';
import { creditSchema, invoiceRoutes, type InvoiceWire } from '@core/billing';
import { formatMoney, money, parseMoney, plainMoney, type Money } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';
import { MoneyPipe } from '../../ui/pipes';
import { AsyncPipe } from '@angular/common';

/** A line that may be credited, with what is typed of it. */
interface Row {
  readonly position: number;
  readonly description: string;
  readonly left: Money;
  readonly on: boolean;
  readonly typed: string;
}

/** Credits an invoice: all that is left of it, or some lines or amounts; for good, or so that it is billed again. */
@Component({
  selector: 'dl-credit-form',
  imports: [AsyncPipe, Field, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let view = form.view$ | async;
    <form (submit)="$event.preventDefault(); issue()" novalidate>
      <h2>Credit {{ invoice().number }}</h2>
      <table class="rows">
        <thead>
          <tr>
            <th><input type="checkbox" aria-label="All lines" [checked]="all()" (change)="chooseAll(!all())" /></th>
            <th>Line</th>
            <th class="num">Left to credit</th>
            <th class="num">Credit, net</th>
          </tr>
        </thead>
        <tbody>
          @for (r of rows(); track r.position) {
            <tr>
              <td>
                <input type="checkbox" [checked]="r.on" [attr.aria-label]="'Credit line ' + r.position" (change)="set(r, { on: !r.on })" />
              </td>
              <td>{{ r.description }}</td>
              <td class="num">{{ r.left | money }}</td>
              <td class="num">
                <input
                  #textBox
                  class="in amount"
                  inputmode="decimal"
                  [attr.aria-label]="'Net amount of line ' + r.position"
                  [class.wrong]="r.on && !read(r)"
                  [disabled]="!r.on"
                  [value]="r.typed"
                  (input)="set(r, { typed: textBox.value })"
                />
              </td>
            </tr>
          }
        </tbody>
      </table>
      <fieldset>
        <legend class="visually-hidden">What becomes of the billing</legend>
        <label class="yes"
          ><input type="radio" name="undoes" [checked]="view?.values?.['undoes'] === true" (change)="form.set('undoes', true)" /> Undo the
          billing: what these lines billed can be billed again</label
        >
        <label class="yes"
          ><input type="radio" name="undoes" [checked]="view?.values?.['undoes'] === false" (change)="form.set('undoes', false)" /> Give the
          money back for good</label
        >
        @if (view?.errors?.['undoes']) {
          <span class="late small">choose one of both</span>
        }
      </fieldset>
      <div class="end">
        <dl-field
          label="Why, as the client reads it"
          [value]="view?.values?.['reason']"
          [error]="view?.errors?.['reason']"
          (changed)="form.set('reason', $event)"
        />
        <button class="btn-main" [disabled]="view?.busy">Issue a credit note over {{ net() | money }} net</button>
        <button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
      </div>
      @if (wrong()) {
        <p class="late small" role="alert">{{ wrong() }}</p>
      }
    </form>
  `,
  styles: `
    h2 {
      margin: 0 0 8px;
    }
    .amount {
      width: 110px;
      text-align: right;
    }
    .amount:disabled {
      color: var(--ink-soft);
      background: var(--wash);
      border-color: var(--rule);
    }
    fieldset {
      border: 0;
      margin: 10px 0;
      padding: 0;
      display: flex;
      gap: 20px;
      flex-wrap: wrap;
    }
    .end {
      display: flex;
      gap: 12px;
      align-items: end;
    }
    .end dl-field {
      flex: 1;
    }
  `,
})
export class CreditForm implements OnInit {
  readonly invoice = input.required<InvoiceWire>();
  readonly done = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected form = new FormState(creditSchema, {});
  protected readonly rows = signal<readonly Row[]>([]);
  protected readonly wrong = signal('');
  protected readonly net = computed(() =>
    money(
      this.rows().reduce((sum, r) => sum + (r.on ? (this.read(r)?.minor ?? 0) : 0), 0),
      this.invoice().gross.currency,
    ),
  );

  ngOnInit(): void {
    this.form = new FormState(creditSchema, { lines: null, reason: '' }, { draft: `credit.${this.invoice().id}` });
    this.rows.set(
      this.invoice().lines.flatMap(({ position, description, left }) =>
        left ? [{ position, description, left, on: true, typed: plainMoney(left) }] : [],
      ),
    );
  }

  protected readonly all = computed(() => this.rows().every((r) => r.on));

  protected chooseAll(on: boolean): void {
    this.rows.update((rows) => rows.map((r) => ({ ...r, on })));
  }

  protected set(row: Row, part: Partial<Row>): void {
    this.wrong.set('');
    this.rows.update((rows) => rows.map((r) => (r.position === row.position ? { ...r, ...part } : r)));
  }

  /** What is typed, where it is an amount that goes: something of what is left, with its sign. */
  protected read({ typed, left }: Row): Money | undefined {
    const net = parseMoney(typed.trim(), left.currency);
    if (!net || Math.abs(net.minor) > Math.abs(left.minor)) return undefined;
    return left.minor === 0 || Math.sign(net.minor) === Math.sign(left.minor) ? net : undefined;
  }

  protected issue(): void {
    const chosen = this.rows().filter((r) => r.on);
    const bad = chosen.find((r) => !this.read(r));
    if (!chosen.length) return this.wrong.set('Choose at least one line.');
    if (bad) return this.wrong.set(`Line ${bad.position}: "${bad.typed}" does not go; at most ${formatMoney(bad.left)}, and not nothing.`);
    const whole = chosen.length === this.rows().length && chosen.every((r) => this.read(r)!.minor === r.left.minor);
    this.form.set('lines', whole ? null : chosen.map((r) => ({ position: r.position, net: plainMoney(this.read(r)!) })));
    const body = this.form.check();
    if (!body) return;
    const words = `Issue a credit note of ${this.invoice().number} over ${formatMoney(this.net())} net? It is mailed at once and never changes.`;
    if (!confirm(words)) return;
    this.form.busy(true);
    this.api.call(invoiceRoutes.creditInvoice, { params: { invoiceId: this.invoice().id }, body }).subscribe({
      next: ({ number }) => {
        this.form.saved();
        this.toasts.done(`${number} issued; it is on its way`);
        this.done.emit();
      },
      error: (fault: unknown) => {
        this.form.refused(fault);
        this.toasts.trouble(fault);
      },
    });
  }
}
