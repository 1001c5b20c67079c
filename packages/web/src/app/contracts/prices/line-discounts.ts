import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { contractPriceRoutes, type ContractWire, type LineWire } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DatePipe, UnitPricePipe } from '../../ui/pipes';

/** Discounts on a line, each with its days. */
@Component({
  selector: 'dl-line-discounts',
  imports: [DatePipe, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
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
export class LineDiscounts {
  readonly contract = input.required<ContractWire>();
  readonly line = input.required<LineWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);

  protected takeAway({ id: discountId, ...body }: LineWire['discounts'][number]): void {
    const [contractId, lineId] = [this.contract().id, this.line().id];
    const trouble = (fault: unknown) => this.toasts.trouble(fault);
    const again = () => this.changed.emit();
    this.api.call(contractPriceRoutes.takeDiscountAway, { params: { contractId, discountId } }).subscribe({
      next: () => {
        const back = this.api.call(contractPriceRoutes.addDiscount, { params: { contractId, lineId }, body });
        this.toasts.done('The discount is taken away', () => back.subscribe({ next: again, error: trouble }));
        again();
      },
      error: trouble,
    });
  }
}
