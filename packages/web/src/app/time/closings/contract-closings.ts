import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, startWith, Subject } from 'rxjs';
import type { ContractWire } from '@core/contracts';
import { parseLocalDate, plusDays } from '@core/ground';
import { closingRoutes, type ClosingsWire } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';

/** Up to when a contract is closed, and closes what is over, after saying what that means. */
@Component({
  selector: 'dl-contract-closings',
  imports: [AsyncPipe, DatePipe, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = closings$ | async;
    @if (now && now.is === 'there') {
      @let c = now.value;
      <p class="small">
        @if (c.closedTo) {
          <span class="soft">Closed until {{ before(c.closedTo) | date }}.</span>
        }
        @if (c.next.length && session.may('charges.decide')) {
          <button type="button" class="btn-link small" [attr.aria-expanded]="!!to()" (click)="to.set(to() ? undefined : latest(c).to)">
            close until {{ before(latest(c).to) | date }}
          </button>
        }
      </p>
      @if (meant(c); as m) {
        <div class="wash ask" role="group" aria-label="Close periods">
          @if (c.next.length > 1) {
            <label class="small soft"
              >Until
              <select #toBox class="in" (change)="to.set(toBox.value)">
                @for (n of c.next; track n.to) {
                  <option [value]="n.to" [selected]="n.to === m.to">{{ before(n.to) | date }}</option>
                }
              </select></label
            >
          }
          <p>
            {{ m.entries === 1 ? 'One entry is' : m.entries + ' entries are' }} closed for good: what they drew never changes, and late work
            draws on what is left.
            @if (m.pays.minor) {
              {{ m.pays | money }} of it is to be paid.
            }
            @if (m.undecided) {
              <span class="late"
                >{{ m.undecided === 1 ? 'One charge' : m.undecided + ' charges' }} of it {{ m.undecided === 1 ? 'waits' : 'wait' }} for a
                decision.</span
              >
            }
          </p>
          <p class="acts">
            <button type="button" class="btn-main" [disabled]="busy()" (click)="close(m.to)">Close for good</button>
            <button type="button" class="btn-link" (click)="to.set(undefined)">Leave it</button>
          </p>
        </div>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      margin-bottom: 14px;
    }
    .ask {
      padding: 8px 12px;
      border-radius: 4px;
      margin: 4px 0 10px;
    }
    .in {
      width: auto;
    }
    .acts {
      display: flex;
      gap: 12px;
      padding-top: 6px;
    }
  `,
})
export class ContractClosings {
  readonly contract = input.required<ContractWire>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  /** The first open day that somebody means; what it closes follows what is recorded meanwhile. */
  protected readonly to = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  private readonly again = new Subject<void>();
  protected readonly closings$ = loading(
    combineLatest([
      toObservable(this.contract),
      this.again.pipe(startWith(undefined)),
      inject(Live)
        .of(['contract', 'entry', 'charge'], () => ({ contractId: this.contract().id }))
        .pipe(startWith(undefined)),
    ]),
    ([{ id }]) => this.api.call(closingRoutes.getClosings, { params: { contractId: id } }),
  );

  protected before(day: string): string {
    return plusDays(parseLocalDate(day), -1);
  }

  /** What is over and open is closed at once as a rule. */
  protected latest({ next }: ClosingsWire) {
    return next.at(-1)!;
  }

  protected meant({ next }: ClosingsWire) {
    return next.find((n) => n.to === this.to());
  }

  protected close(to: string): void {
    this.busy.set(true);
    this.api.call(closingRoutes.closePeriods, { params: { contractId: this.contract().id }, body: { to } }).subscribe({
      next: () => {
        this.busy.set(false);
        this.to.set(undefined);
        this.toasts.done(`Closed until ${this.before(to)}`);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }
}
