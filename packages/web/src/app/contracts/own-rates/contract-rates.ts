import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { type ContractWire, type OwnRateForm, ownRatesRoutes, type OwnRoundingForm } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { type OpenedForm, OpenedFormPanel } from '../../ui/opened-form';
import { DatePipe, UnitPricePipe } from '../../ui/pipes';
import { ownRatesForms, ratesOf, roundingsOf } from './own-rates-forms';

type Changed = Observable<{ readonly version: number }>;

/** The rates and the rounding that a contract has of its own, over those of its client and of the house. */
@Component({
  selector: 'dl-contract-rates',
  imports: [DatePipe, OpenedFormPanel, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = contract();
    @let may = session.may('contracts.edit');
    <h2>
      Rates
      @if (may) {
        <button
          type="button"
          class="btn-link small"
          (click)="form.set({ at: 'rates', form: forms.rate(c, c.rates.length), lines: forms.rateLines() })"
        >
          add a rate
        </button>
      }
    </h2>
    @for (r of c.rates; track $index; let n = $index) {
      <p class="line">
        <span
          ><b>{{ r.says }}</b> <span class="mono">{{ r.rate | unitPrice: c.currency }}</span> an hour
          <span class="soft small"
            >from {{ r.from | date }}{{ r.lastDay ? ' to ' : '' }}{{ r.lastDay ? (r.lastDay | date) : '' }}</span
          ></span
        >
        @if (may) {
          <span class="acts">
            <button
              type="button"
              class="btn-link small"
              (click)="form.set({ at: 'rate' + n, form: forms.rate(c, n), lines: forms.rateLines() })"
            >
              change<span class="visually-hidden"> the rate of {{ r.says }}</span>
            </button>
            <button type="button" class="btn-link small" (click)="setRates(without(rates(c), n))">
              take away<span class="visually-hidden"> the rate of {{ r.says }}</span>
            </button>
          </span>
        }
      </p>
      <dl-opened-form [opened]="form()" [at]="'rate' + n" (done)="done()" />
    } @empty {
      <p class="soft small">As for its client.</p>
    }
    <dl-opened-form [opened]="form()" at="rates" (done)="done()" />
    <h2>
      Rounding
      @if (may) {
        <button
          type="button"
          class="btn-link small"
          (click)="form.set({ at: 'roundings', form: forms.rounding(c, c.roundings.length), lines: forms.roundingLines() })"
        >
          add a rule
        </button>
      }
    </h2>
    @for (r of c.roundings; track $index; let n = $index) {
      <p class="line">
        <span>{{ r.says }}</span>
        @if (may) {
          <span class="acts">
            <button
              type="button"
              class="btn-link small"
              (click)="form.set({ at: 'rounding' + n, form: forms.rounding(c, n), lines: forms.roundingLines() })"
            >
              change<span class="visually-hidden"> the rounding of {{ r.says }}</span>
            </button>
            <button type="button" class="btn-link small" (click)="setRoundings(without(roundings(c), n))">
              take away<span class="visually-hidden"> the rounding of {{ r.says }}</span>
            </button>
          </span>
        }
      </p>
      <dl-opened-form [opened]="form()" [at]="'rounding' + n" (done)="done()" />
    } @empty {
      <p class="soft small">As each activity is rounded.</p>
    }
    <dl-opened-form [opened]="form()" at="roundings" (done)="done()" />
  `,
  styleUrl: '../contracts/contract.css',
})
export class ContractRates {
  readonly contract = input.required<ContractWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly forms = ownRatesForms();
  protected readonly form = signal<OpenedForm | undefined>(undefined);
  protected readonly rates = ratesOf;
  protected readonly roundings = roundingsOf;

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

  protected done(): void {
    this.form.set(undefined);
    this.changed.emit();
  }
}
