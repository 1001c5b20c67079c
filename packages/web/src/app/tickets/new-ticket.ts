import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of, switchMap } from 'rxjs';
import { clientRoutes } from '@core/clients';
import { flatFeeRoutes } from '@core/flat-fees';
import { MOST_ROWS } from '@core/routes';
import { newTicketSchema, ticketRoutes } from '@core/tickets';
import { Api } from '../shell/api';
import { RecordFormPanel, type Line, type RecordForm } from '../ui/record-form';

/** Opens a ticket by hand, for somebody on the phone. */
@Component({
  selector: 'dl-new-ticket',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-record-form
    [form]="form"
    [lines]="lines()"
    (values)="clientId.set($any($event)['clientId'] ?? '')"
    (saved)="opened.emit($event)"
    (closed)="closed.emit()"
  />`,
})
export class NewTicket {
  readonly opened = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  protected readonly clientId = signal('');
  private readonly clients = toSignal(
    this.api.call(clientRoutes.listClients, { query: { most: MOST_ROWS } }).pipe(
      map((a) => a.rows),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  private readonly contacts = toSignal(
    toObservable(this.clientId).pipe(
      switchMap((clientId) =>
        clientId
          ? this.api.call(clientRoutes.getClient, { params: { clientId } }).pipe(
              map((c) => c.contacts),
              catchError(() => of([])),
            )
          : of([]),
      ),
    ),
    { initialValue: [] },
  );
  private readonly fees = toSignal(
    this.api.call(flatFeeRoutes.listFees, {}).pipe(
      map((a) => a.fees),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  protected readonly lines = computed((): readonly Line[] => [
    {
      name: 'clientId',
      label: 'Client',
      kind: 'choice',
      options: this.clients().map((c) => ({ value: c.id, label: c.name })),
      write: (clientId) => ({ clientId, contactId: '' }),
    },
    {
      name: 'contactId',
      label: 'Contact',
      kind: 'choice',
      options: this.contacts().map((k) => ({ value: k.id, label: k.title ? `${k.name}, ${k.title}` : k.name })),
    },
    { name: 'subject', label: 'Subject', wide: true },
    { name: 'text', label: 'What they said', kind: 'lines', wide: true },
    {
      name: 'feeId',
      label: 'Flat fee',
      kind: 'choice',
      none: 'none: by the hour',
      options: this.fees().map((f) => ({ value: f.id, label: f.name })),
    },
    { name: 'feeQuantity', label: 'How many', kind: 'number' },
    { name: 'byCall', label: 'They are on the phone: this counts as the first reply', kind: 'yes' },
  ]);
  protected readonly form: RecordForm<typeof newTicketSchema> = {
    schema: newTicketSchema,
    initial: { feeId: null, feeQuantity: 1, byCall: true, subject: '', text: '', clientId: '', contactId: '' },
    draft: 'new-ticket',
    does: 'Open it',
    save: (body) => this.api.call(ticketRoutes.createTicket, { body }),
  };
}
