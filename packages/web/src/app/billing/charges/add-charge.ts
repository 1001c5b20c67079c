import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { catalogueRoutes } from '@core/goods';
import { chargeRoutes, newChargeSchema } from '@core/billing';
import { formatUnitPrice, type Id } from '@core/ground';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

/** Charges a catalogue item on a ticket. */
@Component({
  selector: 'dl-add-charge',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-record-form [form]="form()" [lines]="lines()" (saved)="saved.emit()" (closed)="closed.emit()" />`,
})
export class AddCharge {
  readonly ticketId = input.required<Id<'ticket'>>();
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly items = toSignal(
    everyPage((page) => this.api.call(catalogueRoutes.listItems, { query: page })).pipe(
      map((a) => a.rows.map((i) => ({ value: i.id, label: `${i.name}, ${formatUnitPrice(i.netPrice, i.currency)}` }))),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  protected readonly lines = computed((): readonly Line[] => [
    { name: 'itemId', label: 'Item', kind: 'choice', options: this.items(), wide: true },
    { name: 'quantity', label: 'How many', kind: 'number' },
  ]);
  protected readonly form = computed((): RecordForm<typeof newChargeSchema> => ({
    schema: newChargeSchema,
    initial: { ticketId: this.ticketId(), itemId: '', quantity: '1' },
    draft: `new-charge.${this.ticketId()}`,
    does: 'Charge it',
    save: (body) => this.api.call(chargeRoutes.addCharge, { body }),
  }));
}
