import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { map, shareReplay } from 'rxjs';
import { catalogueRoutes } from '@core/catalogue';
import { chargeRoutes, newChargeSchema } from '@core/charges';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';
import { Field, type Option } from '../ui/field';
import { FormState } from '../ui/form-state';

/** Charges a catalogue item on a ticket. */
@Component({
  selector: 'dl-add-charge',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state.view$ | async;
    <form class="wash" (submit)="save($event)" novalidate>
      <dl-field
        label="Item"
        kind="choice"
        [options]="(items$ | async) ?? []"
        [value]="form?.values?.['itemId']"
        [error]="form?.errors?.['itemId']"
        (changed)="state.set('itemId', $event)"
      />
      <dl-field
        label="How many"
        kind="number"
        [value]="form?.values?.['quantity']"
        [error]="form?.errors?.['quantity']"
        (changed)="state.set('quantity', $event)"
      />
      <button class="btn-main" [disabled]="form?.busy">Charge it</button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
      padding: 12px;
      border-radius: 4px;
      margin: 8px 0;
      justify-items: start;
    }
    dl-field {
      width: 100%;
    }
  `,
})
export class AddCharge {
  readonly ticketId = input.required<string>();
  readonly saved = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly state = new FormState(newChargeSchema, { itemId: '', quantity: '1' });
  protected readonly items$ = this.api.call(catalogueRoutes.listItems, {}).pipe(
    map((a): Option[] => a.items.map((i) => ({ value: i.id, label: `${i.name}, ${i.netPrice}` }))),
    shareReplay(1),
  );

  protected save(event: Event): void {
    event.preventDefault();
    this.state.set('ticketId', this.ticketId());
    const body = this.state.check();
    if (!body) return;
    this.state.busy(true);
    this.api.call(chargeRoutes.addCharge, { body }).subscribe({
      next: () => (this.state.saved(), this.toasts.done('Charged, to be reviewed'), this.saved.emit()),
      error: (fault: unknown) => (this.state.refused(fault), this.toasts.trouble(fault)),
    });
  }
}
