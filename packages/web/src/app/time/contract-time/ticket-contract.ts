import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, startWith } from 'rxjs';
import { type Measure, sayUnits } from '@core/contracts';
import type { TicketWire } from '@core/desk';
import { type ContractChoice, type TicketContractWire, timeContractRoutes, WARN_PERCENT } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { DatePipe } from '../../ui/pipes';
import { Why } from '../../ui/why';
import { ContractChoiceBox } from './contract-choice';

/** The contract of a ticket's work, why it is that one, and what is left of it. */
@Component({
  selector: 'dl-ticket-contract',
  imports: [AsyncPipe, ContractChoiceBox, DatePipe, RouterLink, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = contract$ | async;
    @if (now && now.is === 'failed' && ticket().clientId) {
      <p class="small late" role="alert">
        Its contract could not be read. <button type="button" class="btn-link" (click)="changed.emit()">Try again</button>
      </p>
    } @else if (now && now.is === 'there' && ticket().clientId) {
      @let t = now.value;
      <dl class="facts">
        <dt>Contract</dt>
        <dd>
          @if (t.contract; as c) {
            <a class="ink-link" [routerLink]="['/contracts', c.number]">{{ c.number }} {{ c.name }}</a>
          } @else {
            none: by the hour
          }
          <dl-why [explanation]="t.why" of="which contract its work is for" />
          @if (t.offered.length && session.may('contracts.choose')) {
            <button type="button" class="btn-link small" (click)="choosing.set(!choosing())">
              change<span class="visually-hidden"> its contract</span>
            </button>
          }
          @for (a of t.left; track a.name) {
            <div class="small" [class.late]="a.usedPercent >= warns">
              @if (a.measure === 'unlimited') {
                {{ a.name }} without limit
              } @else {
                <b>{{ say(t, a.measure, a.left) }} left</b> of {{ say(t, a.measure, a.granted) }}
                @if (a.expires; as e) {
                  <span class="soft">{{ e.units < a.left ? say(t, a.measure, e.units) + ' of it ' : '' }}until {{ e.lastDay | date }}</span>
                }
              }
            </div>
          }
          @if (choosing()) {
            <dl-contract-choice label="Its contract" [offered]="t.offered" (chosen)="choose(t, $event)" />
          }
        </dd>
      </dl>
    }
  `,
  styles: `
    .facts {
      grid-template-columns: 68px minmax(0, 1fr);
      margin: 0;
    }
  `,
})
export class TicketContract {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly warns = WARN_PERCENT;
  protected readonly choosing = signal(false);
  protected readonly contract$ = loading(
    combineLatest([
      toObservable(this.ticket),
      inject(Live)
        .touching(() => ({ topics: ['contract', 'entry'], records: new Set<string>(), clientId: this.ticket().clientId }))
        .pipe(startWith(undefined)),
    ]),
    ([{ id: ticketId }]) => this.api.call(timeContractRoutes.getTicketContract, { params: { ticketId } }),
  );

  protected say({ currency }: TicketContractWire, measure: Measure, units: number): string {
    return sayUnits(measure, units, currency);
  }

  protected choose({ by, contract }: TicketContractWire, choice: ContractChoice): void {
    const before: ContractChoice = by === 'hand' ? { by, contractId: contract?.id ?? null } : { by, contractId: null };
    this.store(choice, () => this.store(before));
  }

  private store(body: ContractChoice, undo?: () => void): void {
    this.api.call(timeContractRoutes.setTicketContract, { params: { ticketId: this.ticket().id }, body }).subscribe({
      next: () => {
        this.choosing.set(false);
        this.toasts.done('Its contract is changed; its open time is rated anew', undo);
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
