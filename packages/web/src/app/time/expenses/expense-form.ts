import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { map, switchMap, type Observable } from 'rxjs';
import { expenseFormSchema, expenseRoutes, type ExpenseCategoryWire, type ExpenseForm, type ExpenseWire } from '@core/time';
import { type Currency, CURRENCY_DECIMALS, type Id, majorOf, money, sayWork } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { WorkFinder, workOf, type WorkedOn } from '../../ui/work-finder';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { isoDay } from '../../ui/time-format';

/** Writes an expense down, or changes one, with the picture of its receipt. */
@Component({
  selector: 'dl-expense-form',
  imports: [RecordFormPanel, WorkFinder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form(); as f) {
      <dl-record-form [form]="f" [lines]="lines" (saved)="saved.emit()" (closed)="closed.emit()">
        <div class="more">
          @if (work(); as w) {
            <p>
              <span class="small soft">For</span> <b>{{ say(w) }}</b> <span class="soft small">{{ w.client }}</span>
              <button type="button" class="btn-link small" (click)="work.set(undefined)">something else</button>
            </p>
          } @else {
            <dl-work-finder (chosen)="work.set($event)" />
            <p class="soft small">Without a ticket it is charged to nobody.</p>
          }
          <label class="small"
            >Receipt, a picture or PDF
            <input type="file" accept="image/png,image/jpeg,image/webp,image/heic,application/pdf" (change)="choose($event)"
          /></label>
          @if (expense()?.receipt; as r) {
            <span class="small soft">{{ r.name }} is there; another takes its place.</span>
          }
        </div>
      </dl-record-form>
    }
  `,
  styles: `
    .more {
      display: grid;
      gap: 8px;
      margin: 8px 0;
    }
    p {
      margin: 0;
    }
    input::file-selector-button {
      font: inherit;
      color: var(--brass);
      background: var(--panel);
      border: 1px solid var(--brass);
      border-radius: 4px;
      padding: 4px 12px;
      margin-right: 12px;
    }
    label {
      display: grid;
      gap: 3px;
      justify-items: start;
    }
  `,
})
export class ExpenseFormPanel implements OnInit {
  readonly expense = input<ExpenseWire | undefined>(undefined);
  /** The day and ticket it begins with. */
  readonly day = input<string | undefined>(undefined);
  readonly on = input<WorkedOn | undefined>(undefined);
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  protected readonly work = signal<WorkedOn | undefined>(undefined);
  protected readonly say = sayWork;
  private receipt: File | undefined;
  protected lines: readonly Line[] = [];
  protected readonly form = signal<RecordForm<typeof expenseFormSchema> | undefined>(undefined);

  ngOnInit(): void {
    this.work.set(this.on());
    const day = this.day() ?? isoDay(this.session.now(), this.session.zone);
    this.api.call(expenseRoutes.listExpenses, { query: { from: day, to: day } }).subscribe({
      next: ({ categories, currency }) => {
        this.lines = linesOf(categories, currency);
        this.form.set(this.formOf(day, currency));
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected choose(event: Event): void {
    this.receipt = (event.target as HTMLInputElement).files?.[0];
  }

  private formOf(day: string, currency: Currency): RecordForm<typeof expenseFormSchema> {
    const x = this.expense();
    if (x) this.work.set(workOf(x));
    return {
      schema: expenseFormSchema,
      initial: x
        ? { ...x, paid: majorOf(money(x.paid.minor, x.paid.currency)).toFixed(), currency: x.paid.currency }
        : {
            day,
            workId: null,
            categoryId: '',
            paid: '',
            currency,
            exchange: null,
            taxPercent: '',
            note: null,
            billable: true,
            markupPercent: '0',
            ownMoney: true,
          },
      draft: `expense.${x?.id ?? `${day}.${this.on()?.workId ?? 'new'}`}`,
      does: x ? 'Save' : 'Write it down',
      ...(x ? { version: x.version } : {}),
      save: (body, version) => this.save({ ...body, workId: this.work()?.workId ?? null }, version),
    };
  }

  /** The receipt follows once the expense is stored; where only that fails, the expense stays and says so. */
  private save(body: ExpenseForm, version: number | undefined): Observable<{ id: Id<'expense'> }> {
    const x = this.expense();
    const stored = x
      ? this.api.call(expenseRoutes.editExpense, { params: { expenseId: x.id }, version: version!, body })
      : this.api.call(expenseRoutes.addExpense, { body });
    const file = this.receipt;
    if (!file) return stored;
    return stored.pipe(
      switchMap((done) =>
        this.api
          .upload(expenseRoutes.putReceipt, { params: { expenseId: done.id }, query: { name: file.name, mediaType: file.type } }, file)
          .pipe(map(() => done)),
      ),
    );
  }
}

function linesOf(categories: readonly ExpenseCategoryWire[], house: Currency): readonly Line[] {
  return [
    { name: 'day', label: 'Day', kind: 'date' },
    {
      name: 'categoryId',
      label: 'What for',
      kind: 'choice',
      options: categories.map((k) => ({ value: k.id, label: k.name })),
      // What the category says of tax, billing and markup is put in with it.
      write: (value) => {
        const k = categories.find((one) => one.id === value);
        return { categoryId: value, ...(k ? { taxPercent: k.taxPercent, billable: k.billable, markupPercent: k.markupPercent } : {}) };
      },
    },
    { name: 'paid', label: 'Paid, with tax', kind: 'money' },
    { name: 'currency', label: 'Currency', kind: 'choice', options: Object.keys(CURRENCY_DECIMALS).map((c) => ({ value: c, label: c })) },
    { name: 'exchange', label: `${house} for one of it`, kind: 'number', when: (v) => v['currency'] !== house },
    { name: 'taxPercent', label: 'Tax in it, %', kind: 'number' },
    { name: 'note', label: 'Note', wide: true },
    { name: 'ownMoney', label: 'Paid with my own money', kind: 'yes' },
    { name: 'billable', label: 'Charged to the client', kind: 'yes' },
    { name: 'markupPercent', label: 'Markup, %', kind: 'number', when: (v) => v['billable'] === true },
  ];
}
