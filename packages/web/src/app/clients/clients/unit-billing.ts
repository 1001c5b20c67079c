import { ChangeDetectionStrategy, Component, computed, inject, InjectionToken, input, inputBinding, type InputSignal } from '@angular/core';
import type { Id } from '@core/ground';
import { Part, type PartLoader } from '../../ui/part';

/** What another domain says a contact or an asset is billed for. */
export interface UnitBillingPart {
  readonly unitId: InputSignal<Id<'contact'> | Id<'asset'>>;
}

/** Given by the frame, in shell/parts.ts: contacts and assets do not know of contracts. */
export const UNIT_BILLING = new InjectionToken<PartLoader<UnitBillingPart>>('what a contact or an asset is billed for');

@Component({
  selector: 'dl-unit-billing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Part],
  template: '<dl-part [load]="load()" [bindings]="bindings" />',
})
export class UnitBilling {
  readonly unitId = input.required<Id<'contact'> | Id<'asset'>>();
  private readonly part = inject(UNIT_BILLING);
  protected readonly load = computed(() => this.part);
  protected readonly bindings = [inputBinding('unitId', this.unitId)];
}
