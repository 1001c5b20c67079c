import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import type { TicketWire } from '@core/desk';
import { type ContractChoice, type EntryWire, type TicketContractWire, timeContractRoutes, timeRoutes } from '@core/time';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { Why } from '../../ui/why';
import { ContractChoiceBox } from '../contract-time/contract-choice';
import { ShareEntry } from './share-entry';

/** Time recorded on a ticket, each entry with what it does; on an umbrella over several clients it can be shared out. */
@Component({
  selector: 'dl-ticket-entries',
  imports: [AsyncPipe, AtPipe, ContractChoiceBox, MinutesPipe, ShareEntry, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = entries$ | async;
    @if (now && now.is === 'failed') {
      <p class="small late" role="alert">
        Its time could not be read. <button type="button" class="btn-link" (click)="changed.emit()">Try again</button>
      </p>
    }
    @for (line of now && now.is === 'there' ? now.value.entries : []; track line.entry.id) {
      <p class="entry small">
        <span class="mono">{{ line.entry.startsAt | at }}</span> {{ line.person }}, {{ line.entry.minutes | minutes }}
        {{ line.entry.activity }} <span class="soft">{{ line.entry.effect.sentence }}</span>
        <dl-why [explanation]="line.entry.effect.why" of="what this time comes to" />
        @if (ticket().clientId && !line.entry.frozen && session.may('contracts.choose')) {
          <button type="button" class="btn-link small" (click)="openChoice(line.entry.id)">
            another contract<span class="visually-hidden"> for {{ line.entry.startsAt | at }}</span>
          </button>
        }
        @if (ticket().isUmbrella && !ticket().clientId && session.may('charges.decide')) {
          <button type="button" class="btn-link small" (click)="sharing.set(line.entry.id)">share it out</button>
        }
      </p>
      @if (choosing() === line.entry.id) {
        <dl-contract-choice label="Contract of this time" [offered]="offered()" (chosen)="choose(line.entry, $event)" />
      }
      @if (sharing() === line.entry.id) {
        <dl-share-entry
          [entryId]="line.entry.id"
          [minutes]="line.entry.minutes"
          [umbrellaId]="ticket().id"
          (shared)="sharing.set(undefined); changed.emit()"
          (closed)="sharing.set(undefined)"
        />
      }
    }
  `,
  styles: `
    .entry {
      padding: 5px 0;
      border-bottom: 1px solid var(--rule);
    }
  `,
})
export class TicketEntries {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  /** Read with the ticket: what is recorded on it changes it too. */
  protected readonly entries$ = loading(toObservable(this.ticket), ({ id: ticketId }) =>
    this.api.call(timeRoutes.listTicketEntries, { params: { ticketId } }),
  );
  /** The entry of an umbrella that is being shared out. */
  protected readonly sharing = signal<string | undefined>(undefined);
  /** The entry whose contract is being chosen, and among which. */
  protected readonly choosing = signal<string | undefined>(undefined);
  protected readonly offered = signal<TicketContractWire['offered']>([]);

  protected openChoice(entryId: string): void {
    if (this.choosing() === entryId) return this.choosing.set(undefined);
    this.api.call(timeContractRoutes.getTicketContract, { params: { ticketId: this.ticket().id } }).subscribe({
      next: ({ offered }) => {
        this.offered.set(offered);
        this.choosing.set(entryId);
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected choose({ id: entryId, version }: Pick<EntryWire, 'id' | 'version'>, body: ContractChoice): void {
    this.api.call(timeContractRoutes.setEntryContract, { params: { entryId }, version, body }).subscribe({
      next: (done) => {
        this.choosing.set(undefined);
        this.toasts.done('Its contract is changed', () => this.choose(done, done.undo));
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
