import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { map } from 'rxjs';
import {
  catalogueRoutes,
  grossUnitPrice,
  invoicedGross,
  itemFormSchema,
  netUnitPrice,
  TAX_CATEGORIES,
  type ItemWire,
  type TaxCategory,
} from '@core/goods';
import { formatUnitPrice, isDecimalText, type Currency } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

const LINES: readonly Line[] = [
  { name: 'number', label: 'Number' },
  { name: 'name', label: 'Name' },
  { name: 'category', label: 'Category' },
  { name: 'cost', label: 'Cost', kind: 'money' },
  { name: 'price', label: 'Price', kind: 'money' },
  {
    name: 'basis',
    label: 'That price is',
    kind: 'choice',
    options: [
      { value: 'net', label: 'without tax' },
      { value: 'gross', label: 'with tax' },
    ],
  },
  {
    name: 'taxPercent',
    label: 'Tax',
    kind: 'choice',
    options: [
      { value: 'S 23', label: '23 %' },
      { value: 'S 13.5', label: '13.5 %' },
      { value: 'Z 0', label: 'zero rated' },
      { value: 'E 0', label: 'exempt' },
    ],
    read: (v) => `${String(v['taxCategory'])} ${String(v['taxPercent'])}`,
    write: (tax) => {
      const [taxCategory, taxPercent] = String(tax ?? '').split(' ');
      return { taxCategory: taxCategory || null, taxPercent: taxPercent ?? '' };
    },
  },
];
const FRESH = { basis: 'net', taxCategory: 'S', taxPercent: '23', cost: '0' };

/** Adds or changes a catalogue item; a price typed with tax is shown as it will be invoiced. */
@Component({
  selector: 'dl-catalogue-form',
  imports: [AsyncPipe, RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-record-form [form]="form()" [lines]="lines" (values)="typed.set($event)" (saved)="saved.emit($event)" (closed)="closed.emit()">
      @if (bothWays((currency$ | async) ?? 'EUR'); as words) {
        <p class="wash both" role="status">{{ words }}</p>
      }
    </dl-record-form>
  `,
  styles: `
    .both {
      padding: 6px 12px;
      border-radius: 4px;
      margin-top: 12px;
    }
  `,
})
export class CatalogueForm {
  readonly item = input<ItemWire>();
  readonly saved = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  protected readonly currency$ = inject(Session).me$.pipe(map((me) => me?.currency));
  protected readonly lines = LINES;
  protected readonly typed = signal<Readonly<Record<string, unknown>>>({});
  protected readonly form = computed((): RecordForm<typeof itemFormSchema> => {
    const item = this.item();
    if (!item)
      return {
        schema: itemFormSchema,
        initial: FRESH,
        draft: 'new-item',
        does: 'Add the item',
        save: (body) => this.api.call(catalogueRoutes.createItem, { body }),
      };
    const params = { itemId: item.id };
    return {
      schema: itemFormSchema,
      initial: { ...item },
      draft: `item.${item.id}`,
      does: 'Save',
      version: item.version,
      save: (body, version) => this.api.call(catalogueRoutes.editItem, { params, version: version!, body }),
      stored: () => this.api.call(catalogueRoutes.getItem, { params }),
    };
  });

  /** The price both ways, and a warning where one unit cannot come to the gross price that was typed. */
  protected bothWays(currency: Currency): string {
    const v = this.typed();
    const [price, percent] = [String(v['price'] ?? ''), String(v['taxPercent'] ?? '')];
    const category = TAX_CATEGORIES.find((c) => c === v['taxCategory']) as TaxCategory | undefined;
    if (!isDecimalText(price) || !isDecimalText(percent) || !category) return '';
    const unit = { price, basis: v['basis'] === 'gross' ? 'gross' : 'net' } as const;
    const tax = { category, percent };
    const invoiced = invoicedGross(unit, tax, currency);
    const read = (p: string) => formatUnitPrice(p, currency);
    const words = `${read(netUnitPrice(unit, tax))} without tax, ${read(grossUnitPrice(unit, tax))} with tax.`;
    return invoiced.asTyped
      ? words
      : `${words} An invoice of one will come to ${read(invoiced.gross)}, not to ${read(price)}: tax is computed on the net amount.`;
  }
}
