import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { clientRoutes } from '@core/clients';
import { intakeRoutes, type TicketWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { everyPage } from '../../ui/every-page';
import { Field, type Option } from '../../ui/field';

/** Moves a ticket to another client; first it says what that would show to whom. */
@Component({
  selector: 'dl-move-client',
  imports: [Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel" (submit)="$event.preventDefault(); move()">
      <div class="pair">
        <dl-field label="Whose is it" kind="choice" [options]="clients()" [value]="clientId()" (said)="choose($event)" />
        <dl-field
          label="Contact"
          kind="choice"
          none="nobody named"
          [options]="contacts()"
          [value]="contactId()"
          (said)="contactId.set($event || null)"
        />
      </div>
      @if (trouble()) {
        <p class="late" role="alert">{{ trouble() }}</p>
      }
      @if (effects().length) {
        <p><b>What the move does</b></p>
        <ul>
          @for (effect of effects(); track effect) {
            <li>{{ effect }}</li>
          }
        </ul>
      }
      <p class="buttons">
        <button class="btn-main" [disabled]="!effects().length || busy()">I have seen it, move it</button>
        <button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
      </p>
    </form>
  `,
  styles: `
    form {
      padding: 12px 16px;
      display: grid;
      gap: 8px;
    }
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
    }
    ul {
      margin: 0;
    }
    .buttons {
      display: flex;
      gap: 16px;
    }
  `,
})
export class MoveClient {
  readonly ticket = input.required<TicketWire>();
  readonly moved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly clientId = signal('');
  protected readonly contactId = signal<Id<'contact'> | null>(null);
  protected readonly effects = signal<readonly string[]>([]);
  protected readonly contacts = signal<readonly Option[]>([]);
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  protected readonly clients = toSignal(
    everyPage((page) => this.api.call(clientRoutes.listClients, { query: page })).pipe(
      map((a): Option[] => a.rows.map((c) => ({ value: c.id, label: c.name }))),
      catchError(() => of<Option[]>([])),
    ),
    { initialValue: [] },
  );

  protected choose(clientId: Id<'client'> | null): void {
    this.clientId.set(clientId ?? '');
    this.contactId.set(null);
    this.effects.set([]);
    this.contacts.set([]);
    this.trouble.set('');
    if (!clientId) return;
    this.api.call(intakeRoutes.checkMove, { params: { ticketId: this.ticket().id }, body: { clientId } }).subscribe({
      next: ({ effects }) => this.effects.set(effects),
      error: (fault: unknown) => this.trouble.set(problemOf(fault).detail),
    });
    this.api.call(clientRoutes.getClient, { params: { clientId } }).subscribe({
      next: (client) => this.contacts.set(client.contacts.map((k) => ({ value: k.id, label: k.name }))),
      error: (fault: unknown) => this.trouble.set(problemOf(fault).detail),
    });
  }

  protected move(): void {
    this.busy.set(true);
    const body = { clientId: this.clientId(), contactId: this.contactId(), seen: true };
    this.api.call(intakeRoutes.moveToClient, { params: { ticketId: this.ticket().id }, version: this.ticket().version, body }).subscribe({
      next: () => {
        this.toasts.done(`#${this.ticket().number} is another client's now`);
        this.moved.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.trouble.set(problemOf(fault).detail);
      },
    });
  }
}
