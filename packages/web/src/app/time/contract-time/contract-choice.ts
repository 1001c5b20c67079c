import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { ContractChoice, TicketContractWire } from '@core/time';

const ITSELF = 'itself';
const BY_THE_HOUR = 'by the hour';

/** Chooses the contract of work, no contract, or that it finds its own. */
@Component({
  selector: 'dl-contract-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <select #box class="in" [attr.aria-label]="label()" (change)="choose(box.value)">
      <option value="" selected>choose …</option>
      <option [value]="itself">the one it finds by itself</option>
      <option [value]="byTheHour">none: by the hour</option>
      @for (c of offered(); track c.id) {
        <option [value]="c.id">{{ c.number }} {{ c.name }}</option>
      }
    </select>
  `,
})
export class ContractChoiceBox {
  readonly label = input.required<string>();
  readonly offered = input.required<TicketContractWire['offered']>();
  readonly chosen = output<ContractChoice>();
  protected readonly itself = ITSELF;
  protected readonly byTheHour = BY_THE_HOUR;

  protected choose(value: string): void {
    if (value === '') return;
    const found = this.offered().find((c) => c.id === value);
    this.chosen.emit({ by: value === ITSELF ? 'itself' : 'hand', contractId: found?.id ?? null });
  }
}
