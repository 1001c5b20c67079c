import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, debounceTime, map, of, startWith, Subject, switchMap } from 'rxjs';
import { catalogueRoutes, PRICE_SETS, priceRuleFormSchema, priceRuleRoutes, sayPriceSet, type PriceRuleWire } from '@core/goods';
import type { Currency, Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { everyPage } from '../../ui/every-page';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';

const SET_WORDS = { price: 'a price of its own', 'percent off': 'percent off', 'never billed': 'never billed' } as const;
type Choices = readonly { readonly value: string; readonly label: string }[];
const is = (name: string, value: string) => (values: Readonly<Record<string, unknown>>) => values[name] === value;

function linesOf(items: Choices, categories: Choices): readonly Line[] {
  return [
    { name: 'itemId', label: 'Item', kind: 'choice', none: 'any item', options: items },
    { name: 'category', label: 'Or category', kind: 'choice', none: 'any category', options: categories, when: (v) => !v['itemId'] },
    { name: 'sets', label: 'They pay', kind: 'choice', options: PRICE_SETS.map((value) => ({ value, label: SET_WORDS[value] })) },
    { name: 'price', label: 'Price of one', kind: 'money', when: is('sets', 'price') },
    {
      name: 'basis',
      label: 'That is',
      kind: 'choice',
      options: [
        { value: 'net', label: 'without tax' },
        { value: 'gross', label: 'with tax' },
      ],
      when: is('sets', 'price'),
    },
    { name: 'percent', label: 'Percent off', kind: 'number', when: is('sets', 'percent off') },
    { name: 'fromQuantity', label: 'From how many at once', kind: 'number' },
    { name: 'from', label: 'From', kind: 'date' },
    { name: 'lastDay', label: 'Last day', kind: 'date', placeholder: 'for good' },
  ];
}

/** The price rules of a contract, of a client, or of the house; one that is typed says what it would have done before it is saved. */
@Component({
  selector: 'dl-price-rules',
  imports: [AsyncPipe, DatePipe, MoneyPipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './price-rules.html',
  styles: `
    :host {
      display: block;
      margin-top: 20px;
    }
    h2 {
      display: flex;
      justify-content: space-between;
    }
    .line {
      display: flex;
      gap: 8px;
      align-items: baseline;
    }
    .when {
      white-space: nowrap;
    }
    .trial {
      padding: 10px 14px;
    }
  `,
})
export class PriceRules {
  /** With neither, the house's. */
  readonly contractId = input<Id<'contract'> | null>(null);
  readonly clientId = input<Id<'client'> | null>(null);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly form = signal<{ readonly form: RecordForm; readonly lines: readonly Line[] } | undefined>(undefined);
  protected readonly typed = new Subject<Readonly<Record<string, unknown>>>();
  protected readonly rules$ = loading(
    combineLatest([toObservable(this.contractId), toObservable(this.clientId), this.again.pipe(startWith(undefined))]),
    ([contractId, clientId]) =>
      this.api.call(priceRuleRoutes.listPriceRules, { query: contractId ? { contractId } : clientId ? { clientId } : {} }),
  );
  /** What is typed, tried on what was charged lately; nothing while it is no rule yet. */
  protected readonly trial$ = this.typed.pipe(
    debounceTime(300),
    switchMap((values) => {
      if (!priceRuleFormSchema.isValidSync(values)) return of(undefined);
      return this.api.call(priceRuleRoutes.tryPriceRule, { body: priceRuleFormSchema.cast(values) }).pipe(catchError(() => of(undefined)));
    }),
  );

  protected says({ item, category, sets, fromQuantity }: PriceRuleWire, currency: Currency): string {
    const many = Number(fromQuantity) > 1 ? ` from ${fromQuantity} on` : '';
    return `${item ?? category ?? 'everything'}${many}: ${sayPriceSet(sets, currency)}`;
  }

  protected open(): void {
    combineLatest([
      everyPage((page) => this.api.call(catalogueRoutes.listItems, { query: page })).pipe(map(({ rows }) => rows)),
      this.api.call(catalogueRoutes.listItemCategories, {}),
    ]).subscribe({
      next: ([rows, { categories }]) =>
        this.form.set({
          lines: linesOf(
            rows.map((i) => ({ value: i.id, label: `${i.number} ${i.name}` })),
            categories.map((c) => ({ value: c, label: c })),
          ),
          form: this.newRule(),
        }),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private newRule(): RecordForm {
    const home = { contractId: this.contractId(), clientId: this.contractId() ? null : this.clientId() };
    const form: RecordForm<typeof priceRuleFormSchema> = {
      schema: priceRuleFormSchema,
      initial: {
        ...home,
        ...{ itemId: null, category: null, fromQuantity: '1', lastDay: null, sets: 'price', price: null, basis: 'net', percent: null },
        from: isoDay(this.session.now(), this.session.zone),
      },
      draft: `price-rule.${this.contractId() ?? this.clientId() ?? 'house'}`,
      does: 'Let it hold',
      save: (body) => this.api.call(priceRuleRoutes.addPriceRule, { body }),
    };
    return form as unknown as RecordForm;
  }

  protected takeAway({ id }: PriceRuleWire): void {
    const params = { priceRuleId: id };
    this.api.call(priceRuleRoutes.takePriceRuleAway, { params }).subscribe({
      next: () => {
        this.again.next();
        this.toasts.done('Taken away', () =>
          this.api.call(priceRuleRoutes.givePriceRuleBack, { params }).subscribe({
            next: () => this.again.next(),
            error: (fault: unknown) => this.toasts.trouble(fault),
          }),
        );
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected done(): void {
    this.form.set(undefined);
    this.again.next();
  }
}
