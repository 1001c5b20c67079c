import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { BehaviorSubject, catchError, map, of, shareReplay, switchMap } from 'rxjs';
import { clientRoutes, type ContactWire } from '@core/clients';
import { newTicketSchema, ticketRoutes } from '@core/tickets';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';
import { Field, type Option } from '../ui/field';
import { FormState } from '../ui/form-state';

/** Opens a ticket by hand, for somebody on the phone. */
@Component({
  selector: 'dl-new-ticket',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state.view$ | async;
    <form class="panel" (submit)="save($event)" novalidate>
      <div class="form">
        <dl-field
          label="Client"
          kind="choice"
          [options]="(clients$ | async) ?? []"
          [value]="form?.values?.['clientId']"
          [error]="form?.errors?.['clientId']"
          (changed)="choose($event)"
        />
        <dl-field
          label="Contact"
          kind="choice"
          [options]="(contacts$ | async) ?? []"
          [value]="form?.values?.['contactId']"
          [error]="form?.errors?.['contactId']"
          (changed)="state.set('contactId', $event)"
        />
        <dl-field
          class="wide"
          label="Subject"
          [value]="form?.values?.['subject']"
          [error]="form?.errors?.['subject']"
          (changed)="state.set('subject', $event)"
        />
        <dl-field
          class="wide"
          label="What they said"
          kind="lines"
          [value]="form?.values?.['text']"
          [error]="form?.errors?.['text']"
          (changed)="state.set('text', $event)"
        />
        <dl-field
          kind="yes"
          label="They are on the phone: this counts as the first reply"
          [value]="form?.values?.['byCall']"
          (changed)="state.set('byCall', $event)"
        />
      </div>
      <p class="buttons">
        <button class="btn-main" [disabled]="form?.busy">Open it</button
        ><button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
      </p>
    </form>
  `,
  styles: `
    form {
      margin: 12px 16px;
      padding: 16px;
    }
    .buttons {
      display: flex;
      gap: 16px;
      margin-top: 12px;
    }
  `,
})
export class NewTicket {
  readonly opened = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly state = new FormState(
    newTicketSchema,
    { byCall: true, subject: '', text: '', clientId: '', contactId: '' },
    'new-ticket',
  );
  private readonly client = new BehaviorSubject(String(this.state.values['clientId'] ?? ''));
  protected readonly clients$ = this.api.call(clientRoutes.listClients, {}).pipe(
    map((a): Option[] => a.clients.map((c) => ({ value: c.id, label: c.name }))),
    shareReplay(1),
  );
  protected readonly contacts$ = this.client.pipe(
    switchMap((clientId) =>
      clientId
        ? this.api.call(clientRoutes.getClient, { params: { clientId } }).pipe(
            map((c) => c.contacts),
            catchError(() => of([] as ContactWire[])),
          )
        : of([] as ContactWire[]),
    ),
    map((contacts): Option[] => contacts.map((c) => ({ value: c.id, label: c.title ? `${c.name}, ${c.title}` : c.name }))),
  );

  protected choose(value: unknown): void {
    this.state.set('clientId', value);
    this.state.set('contactId', '');
    this.client.next(String(value ?? ''));
  }

  protected save(event: Event): void {
    event.preventDefault();
    const body = this.state.check();
    if (!body) return;
    this.state.busy(true);
    this.api.call(ticketRoutes.createTicket, { body }).subscribe({
      next: (done) => {
        this.state.saved();
        this.opened.emit(done.id);
      },
      error: (fault: unknown) => {
        this.state.refused(fault);
        this.toasts.trouble(fault);
      },
    });
  }
}
