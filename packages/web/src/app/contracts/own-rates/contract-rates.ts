import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Observable } from 'rxjs';
import { type ContractWire, type OwnRateForm, ownRatesRoutes, type OwnRoundingForm } from '@core/contracts';
import { formatUnitPrice } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { type RuleRow, RuleRows } from '../../ui/rule-rows';
import { plainDate } from '../../ui/time-format';
import { ownRatesForms, ratesOf, roundingsOf } from './own-rates-forms';

type Changed = Observable<{ readonly version: number }>;

/** The rates and the rounding that a contract has of its own, over those of its client and of the house. */
@Component({
  selector: 'dl-contract-rates',
  imports: [RuleRows],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let may = session.may('contracts.edit');
    <dl-rule-rows
      heading="Rates"
      add="add a rate"
      none="As for its client."
      [rows]="rateRows()"
      [editable]="may"
      [formOf]="rateForm"
      (takenAway)="setRates(without(rates(contract()), $event))"
      (changed)="changed.emit()"
    />
    <dl-rule-rows
      heading="Rounding"
      add="add a rule"
      none="As each activity is rounded."
      [rows]="contract().roundings"
      [editable]="may"
      [formOf]="roundingForm"
      (takenAway)="setRoundings(without(roundings(contract()), $event))"
      (changed)="changed.emit()"
    />
  `,
})
export class ContractRates {
  readonly contract = input.required<ContractWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  private readonly forms = ownRatesForms();
  protected readonly rates = ratesOf;
  protected readonly roundings = roundingsOf;
  protected readonly rateForm = (n: number) => ({ form: this.forms.rate(this.contract(), n), lines: this.forms.rateLines() });
  protected readonly roundingForm = (n: number) => ({ form: this.forms.rounding(this.contract(), n), lines: this.forms.roundingLines() });
  protected readonly rateRows = computed(() =>
    this.contract().rates.map(({ says, rate, from, lastDay }): RuleRow => {
      const until = lastDay ? ` to ${plainDate(lastDay)}` : '';
      return { says, figure: formatUnitPrice(rate, this.contract().currency), more: `an hour, from ${plainDate(from)}${until}` };
    }),
  );

  protected without<T>(all: readonly T[], n: number): T[] {
    return all.toSpliced(n, 1);
  }

  protected setRates(rates: OwnRateForm[]): void {
    const c = this.contract();
    const set = (version: number, to: OwnRateForm[]) =>
      this.api.call(ownRatesRoutes.setRates, { params: { contractId: c.id }, version, body: { rates: to } });
    this.store(set(c.version, rates), (version) => set(version, ratesOf(c)));
  }

  protected setRoundings(roundings: OwnRoundingForm[]): void {
    const c = this.contract();
    const set = (version: number, to: OwnRoundingForm[]) =>
      this.api.call(ownRatesRoutes.setRoundings, { params: { contractId: c.id }, version, body: { roundings: to } });
    this.store(set(c.version, roundings), (version) => set(version, roundingsOf(c)));
  }

  private store(stored: Changed, undo: (version: number) => Changed): void {
    const trouble = (fault: unknown) => this.toasts.trouble(fault);
    stored.subscribe({
      next: ({ version }) => {
        this.toasts.done('Its rates are changed', () => undo(version).subscribe({ next: () => this.changed.emit(), error: trouble }));
        this.changed.emit();
      },
      error: trouble,
    });
  }
}
