import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

/** A price for units above so many, as it is typed. */
export interface TypedTier {
  readonly above: number | string;
  readonly price: string;
}

/** Prices above so many units, a row each. */
@Component({
  selector: 'dl-tiers',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (tier of tiers(); track $index; let n = $index) {
      <p class="tier">
        above
        <input
          #aboveBox
          class="in mono"
          inputmode="numeric"
          [attr.aria-label]="'Above how many, tier ' + (n + 1)"
          [value]="tier.above"
          (input)="set(n, { above: aboveBox.value, price: tier.price })"
          autocomplete="off"
        />
        each
        <input
          #priceBox
          class="in mono"
          inputmode="decimal"
          placeholder="0.00"
          [attr.aria-label]="'Price of each, tier ' + (n + 1)"
          [value]="tier.price"
          (input)="set(n, { above: tier.above, price: priceBox.value })"
          autocomplete="off"
        />
        <button type="button" class="btn-link small" (click)="changed.emit(without(n))">
          take away<span class="visually-hidden"> tier {{ n + 1 }}</span>
        </button>
      </p>
    }
    <button type="button" class="btn-link small" (click)="changed.emit([...tiers(), { above: '', price: '' }])">add a tier</button>
  `,
  styles: `
    .tier {
      display: flex;
      gap: 8px;
      align-items: center;
      padding-bottom: 4px;
    }
    .in {
      width: 90px;
    }
  `,
})
export class TiersInput {
  readonly value = input<unknown>();
  readonly changed = output<readonly TypedTier[]>();
  protected readonly tiers = computed((): readonly TypedTier[] => (Array.isArray(this.value()) ? (this.value() as TypedTier[]) : []));

  protected set(n: number, tier: TypedTier): void {
    this.changed.emit(this.tiers().map((t, at) => (at === n ? tier : t)));
  }

  protected without(n: number): readonly TypedTier[] {
    return this.tiers().filter((_, at) => at !== n);
  }
}
