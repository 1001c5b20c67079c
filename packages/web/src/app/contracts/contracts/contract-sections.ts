import { ChangeDetectionStrategy, Component, computed, inject, InjectionToken, input, inputBinding, type InputSignal } from '@angular/core';
import type { ContractWire } from '@core/contracts';
import { Part, type PartLoader } from '../../ui/part';

/** What another domain shows on a contract's page. */
export interface ContractSectionPart {
  readonly contract: InputSignal<ContractWire>;
}
export type ContractPlace = 'what was drawn' | 'next invoice';

/** Given by the frame, in shell/parts.ts: a contract's page does not know who records time and who bills. */
export const CONTRACT_SECTIONS = new InjectionToken<Readonly<Record<ContractPlace, PartLoader<ContractSectionPart>>>>(
  "sections of a contract's page",
);

/** The section that stands at a place of a contract's page. */
@Component({
  selector: 'dl-contract-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Part],
  template: '<dl-part [load]="load()" [bindings]="bindings" />',
})
export class ContractSection {
  readonly at = input.required<ContractPlace>();
  readonly contract = input.required<ContractWire>();
  private readonly sections = inject(CONTRACT_SECTIONS);
  protected readonly load = computed(() => this.sections[this.at()]);
  protected readonly bindings = [inputBinding('contract', this.contract)];
}
