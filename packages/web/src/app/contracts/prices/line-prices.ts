import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import type { Observable } from 'rxjs';
import { contractPriceRoutes, contractRoutes, type ContractWire, type LineWire } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DatePipe, UnitPricePipe } from '../../ui/pipes';

/** Later prices of a line and discounts on it, each with its days. */
@Component({
  selector: 'dl-line-prices',
  imports: [DatePipe, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (p of line().prices; track p.from) {
      <p class="small">
        {{ p.price | unitPrice: contract().currency }}
        @for (t of p.tiers; track t.above) {
          , above {{ t.above }} {{ t.price | unitPrice: contract().currency }}
        }
        from {{ p.from | date }}
        @if (session.may('contracts.edit')) {
          <button type="button" class="btn-link small" (click)="takePriceAway(p)">
            take away<span class="visually-hidden"> this price of {{ line().name }}</span>
          </button>
        }
      </p>
    }
    @for (d of line().discounts; track d.id) {
      <p class="small">
        {{ d.percent === null ? (d.money! | unitPrice: contract().currency) : d.percent + ' %' }} off from {{ d.from | date
        }}{{ d.lastDay ? ' to ' : '' }}{{ d.lastDay ? (d.lastDay | date) : '' }}
        @if (session.may('contracts.edit')) {
          <button type="button" class="btn-link small" (click)="takeAway(d)">
            take away<span class="visually-hidden"> this discount on {{ line().name }}</span>
          </button>
        }
      </p>
    }
  `,
})
export class LinePrices {
  readonly contract = input.required<ContractWire>();
  readonly line = input.required<LineWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);

  protected takePriceAway(price: LineWire['prices'][number]): void {
    const params = { contractId: this.contract().id, lineId: this.line().id };
    this.store('The price is taken away', {
      done: () => this.api.call(contractPriceRoutes.takePriceAway, { params, body: { from: price.from } }),
      back: () => this.api.call(contractRoutes.setLinePrice, { params, body: price }),
    });
  }

  protected takeAway({ id: discountId, ...body }: LineWire['discounts'][number]): void {
    const [contractId, lineId] = [this.contract().id, this.line().id];
    this.store('The discount is taken away', {
      done: () => this.api.call(contractPriceRoutes.takeDiscountAway, { params: { contractId, discountId } }),
      back: () => this.api.call(contractPriceRoutes.addDiscount, { params: { contractId, lineId }, body }),
    });
  }

  private store(
    says: string,
    { done, back }: { readonly done: () => Observable<unknown>; readonly back: () => Observable<unknown> },
  ): void {
    const trouble = (fault: unknown) => this.toasts.trouble(fault);
    const again = () => this.changed.emit();
    done().subscribe({
      next: () => {
        this.toasts.done(says, () => back().subscribe({ next: again, error: trouble }));
        again();
      },
      error: trouble,
    });
  }
}
