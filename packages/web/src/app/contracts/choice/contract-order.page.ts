import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { startWith, Subject } from 'rxjs';
import { contractChoiceRoutes, type ContractOrderWire, type Reach, REACHES } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { SetupPart } from '../../ui/setup-part';
import { StateNote } from '../../ui/state-note';
import { REACH_LABELS } from './meant-for-form';

/** In which order work finds its contract. */
@Component({
  selector: 'dl-contract-order-page',
  imports: [AsyncPipe, SetupPart, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-setup-part heading="Contracts">
      <h2>How work finds its contract</h2>
      <p>
        What somebody chose for the ticket or the time comes first. Then the contracts of the client that are meant for one of these, in
        this order; then the client's preferred one of those meant for all, or the only one. Else work goes by the hour.
      </p>
      @let now = order$ | async;
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @let o = now.value;
        @for (reach of o.order; track reach; let n = $index) {
          <p class="row">
            <span class="mono soft">{{ n + 1 }}</span> {{ labels[reach] }}
            @if (session.may('setup.edit')) {
              <span class="acts">
                @if (n > 0) {
                  <button type="button" class="btn-link small" (click)="set(o, moved(o.order, n))">
                    up<span class="visually-hidden">, {{ labels[reach] }}</span>
                  </button>
                }
                <button type="button" class="btn-link small" (click)="set(o, without(o.order, reach))">
                  leave out<span class="visually-hidden"> {{ labels[reach] }}</span>
                </button>
              </span>
            }
          </p>
        }
        @for (reach of leftOut(o.order); track reach) {
          <p class="row soft">
            {{ labels[reach] }}: not looked at
            @if (session.may('setup.edit')) {
              <span class="acts">
                <button type="button" class="btn-link small" (click)="set(o, [...o.order, reach])">
                  look at them<span class="visually-hidden">: {{ labels[reach] }}</span>
                </button>
              </span>
            }
          </p>
        }
        <h2>When an allowance is nearly used up</h2>
        <p class="row">
          <label for="levels">Account managers are told once a period at, percent</label>
          <input
            #levelBox
            id="levels"
            class="in levels"
            [value]="o.warnLevels.join(', ')"
            [disabled]="!session.may('setup.edit')"
            (change)="warn(o, levelBox.value)"
          />
        </p>
      }
    </dl-setup-part>
  `,
  styles: `
    h2 {
      margin: 22px 0 6px;
    }
    h2:first-child {
      margin-top: 0;
    }
    .row {
      display: flex;
      gap: 8px;
      align-items: baseline;
      max-width: 520px;
      padding: 5px 0;
      border-bottom: 1px solid var(--rule);
    }
    .levels {
      width: 120px;
      margin-left: auto;
    }
    .acts {
      margin-left: auto;
    }
  `,
})
export class ContractOrderPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly labels = REACH_LABELS;
  protected readonly again = new Subject<void>();
  protected readonly order$ = loading(this.again.pipe(startWith(undefined)), () =>
    this.api.call(contractChoiceRoutes.getContractOrder, {}),
  );

  protected leftOut(order: readonly Reach[]): Reach[] {
    return REACHES.filter((r) => !order.includes(r));
  }

  protected without(order: readonly Reach[], reach: Reach): Reach[] {
    return order.filter((r) => r !== reach);
  }

  /** The order with one of them a place earlier. */
  protected moved(order: readonly Reach[], n: number): Reach[] {
    return order.with(n - 1, order[n]!).with(n, order[n - 1]!);
  }

  protected set({ version, order: before, warnLevels }: ContractOrderWire, order: Reach[]): void {
    this.store({ version, order, warnLevels }, (now) => this.store({ version: now, order: before, warnLevels }));
  }

  /** "80, 100", as it was typed; what is no percent is named and nothing is stored. */
  protected warn(now: ContractOrderWire, typed: string): void {
    const parts = typed.split(/[\s,;]+/).filter(Boolean);
    const wrong = parts.find((p) => !/^\d{1,3}$/.test(p) || Number(p) < 1 || Number(p) > 100);
    if (wrong) return this.toasts.trouble(`${wrong} is no percentage between 1 and 100`);
    const before = now.warnLevels;
    this.store({ ...now, warnLevels: parts.map(Number) }, (version) => this.store({ ...now, version, warnLevels: before }));
  }

  private store({ version, order, warnLevels }: ContractOrderWire, undo?: (version: number) => void): void {
    this.api.call(contractChoiceRoutes.setContractOrder, { version, body: { order, warnLevels } }).subscribe({
      next: (done) => {
        this.again.next();
        this.toasts.done('Saved', undo && (() => undo(done.version)));
      },
      error: (fault: unknown) => {
        this.toasts.trouble(fault);
        this.again.next();
      },
    });
  }
}
