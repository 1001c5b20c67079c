import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, type OnInit } from '@angular/core';
import { catalogueRoutes, grossUnitPrice, invoicedGross, itemFormSchema, netUnitPrice, type ItemWire } from '@core/catalogue';
import { isDecimalText } from '@core/money';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';
import { Field, type Option } from '../ui/field';
import { FormState } from '../ui/form-state';

const CHOICES: Readonly<Record<string, readonly Option[]>> = {
  basis: [
    { value: 'net', label: 'without tax' },
    { value: 'gross', label: 'with tax' },
  ],
  tax: [
    { value: 'S 23', label: '23 %' },
    { value: 'S 13.5', label: '13.5 %' },
    { value: 'Z 0', label: 'zero rated' },
    { value: 'E 0', label: 'exempt' },
  ],
};

/** Adds or changes a catalogue item; a price typed with tax is shown as it will be invoiced. */
@Component({
  selector: 'dl-catalogue-form',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state?.view$ | async;
    <form class="panel" (submit)="save($event)" novalidate>
      <div class="form">
        <dl-field
          label="Number"
          [value]="form?.values?.['number']"
          [error]="form?.errors?.['number']"
          (changed)="state!.set('number', $event)"
        />
        <dl-field label="Name" [value]="form?.values?.['name']" [error]="form?.errors?.['name']" (changed)="state!.set('name', $event)" />
        <dl-field
          label="Category"
          [value]="form?.values?.['category']"
          [error]="form?.errors?.['category']"
          (changed)="state!.set('category', $event)"
        />
        <dl-field
          label="Cost"
          kind="money"
          [value]="form?.values?.['cost']"
          [error]="form?.errors?.['cost']"
          (changed)="state!.set('cost', $event)"
        />
        <dl-field
          label="Price"
          kind="money"
          [value]="form?.values?.['price']"
          [error]="form?.errors?.['price']"
          (changed)="state!.set('price', $event)"
        />
        <dl-field
          label="That price is"
          kind="choice"
          [options]="choices['basis']!"
          [value]="form?.values?.['basis']"
          [error]="form?.errors?.['basis']"
          (changed)="state!.set('basis', $event)"
        />
        <dl-field
          label="Tax"
          kind="choice"
          [options]="choices['tax']!"
          [value]="form?.values?.['taxCategory'] + ' ' + form?.values?.['taxPercent']"
          [error]="form?.errors?.['taxPercent']"
          (changed)="tax($event)"
        />
      </div>
      @if (bothWays(form?.values ?? {}); as words) {
        <p class="wash both" role="status">{{ words }}</p>
      }
      <p class="buttons">
        <button class="btn-main" [disabled]="form?.busy">{{ item() ? 'Save' : 'Add the item' }}</button><button
          type="button"
          class="btn-link"
          (click)="closed.emit()"
        >
          Leave it
        </button>
      </p>
    </form>
  `,
  styles: `
    form {
      margin: 12px 16px;
      padding: 16px;
    }
    .buttons {
      display: flex;
      gap: 16px;
      margin-top: 14px;
    }
    .both {
      padding: 6px 12px;
      border-radius: 4px;
      margin-top: 12px;
    }
  `,
})
export class CatalogueForm implements OnInit {
  readonly item = input<ItemWire>();
  readonly saved = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly choices = CHOICES;
  protected state: FormState<typeof itemFormSchema> | undefined;

  ngOnInit(): void {
    const i = this.item();
    this.state = new FormState(
      itemFormSchema,
      i
        ? {
            number: i.number,
            name: i.name,
            category: i.category,
            price: i.price,
            basis: i.basis,
            cost: i.cost,
            taxCategory: i.taxCategory,
            taxPercent: i.taxPercent,
          }
        : { basis: 'net', taxCategory: 'S', taxPercent: '23', cost: '0' },
      i ? `item.${i.id}` : 'new-item',
    );
  }

  protected tax(value: unknown): void {
    const [category, percent] = String(value ?? 'S 23').split(' ');
    this.state!.set('taxCategory', category);
    this.state!.set('taxPercent', percent);
  }

  /** The price both ways, and a warning where one unit cannot come to the gross price that was typed. */
  protected bothWays(v: Readonly<Record<string, unknown>>): string {
    const [price, percent] = [String(v['price'] ?? ''), String(v['taxPercent'] ?? '')];
    if (!isDecimalText(price) || !isDecimalText(percent)) return '';
    const unit = { price, basis: v['basis'] === 'gross' ? 'gross' : 'net' } as const;
    const tax = { category: v['taxCategory'] as 'S', percent };
    const invoiced = invoicedGross(unit, tax);
    const words = `${netUnitPrice(unit, tax)} without tax, ${grossUnitPrice(unit, tax)} with tax.`;
    return invoiced.asTyped
      ? words
      : `${words} An invoice of one will come to ${invoiced.gross}, not to ${price}: tax is computed on the net amount.`;
  }

  protected save(event: Event): void {
    event.preventDefault();
    const body = this.state!.check();
    if (!body) return;
    this.state!.busy(true);
    const item = this.item();
    (item
      ? this.api.call(catalogueRoutes.editItem, { params: { itemId: item.id }, version: item.version, body })
      : this.api.call(catalogueRoutes.createItem, { body })
    ).subscribe({
      next: (done) => (this.state!.saved(), this.toasts.done('Saved'), this.saved.emit(done.id)),
      error: (fault: unknown) => (this.state!.refused(fault), this.toasts.trouble(fault)),
    });
  }
}
