import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { flatFeeRoutes, isSorted, newTicketSchema, templateRoutes, intakeRoutes, type FieldValues, valuesById } from '@core/desk';
import { CONTACT_LINE } from '../../ui/contact-line';
import { openingLines } from '../own-fields/field-lines';
import { fieldChoices, fieldsOn } from '../own-fields/fields-on';
import { Api } from '../../shell/api';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

/** Opens a ticket by hand, for somebody on the phone. */
@Component({
  selector: 'dl-new-ticket',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-record-form
    [form]="form"
    [lines]="lines()"
    (values)="values.set($event)"
    (saved)="opened.emit($event)"
    (closed)="closed.emit()"
  />`,
})
export class NewTicket {
  readonly opened = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly templates = toSignal(
    this.api.call(templateRoutes.listTemplates, {}).pipe(
      map((a) => a.templates),
      catchError(() => of([])),
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
  private readonly ownFields = fieldsOn('ticket');
  protected readonly values = signal<Readonly<Record<string, unknown>>>({});
  private readonly clientId = computed(() => String(this.values()['clientId'] ?? '') || null);
  private readonly choices = fieldChoices(this.ownFields, this.clientId);

  /** A template that routes asks for what routing asks for; other tickets are asked in intake. */
  private readonly asked = computed((): readonly Line[] => {
    const t = this.templates().find((one) => one.id === this.values()['templateId']);
    if (!t || !isSorted(t)) return [];
    const filled = (this.values()['fields'] ?? []) as FieldValues;
    const ticket = {
      kind: t.kind,
      status: 'new',
      impact: t.impact,
      urgency: t.urgency,
      category: t.categoryId,
      desk: t.deskId,
      line: t.line,
      client: this.clientId(),
      subject: String(this.values()['subject'] ?? ''),
      asset: false,
      umbrella: false,
      minutes: 0,
    };
    return openingLines(this.ownFields(), { ticket, field: valuesById(filled) }, this.choices());
  });
  protected readonly lines = computed((): readonly Line[] => [
    CONTACT_LINE,
    {
      name: 'templateId',
      label: 'Template',
      kind: 'choice',
      none: 'none',
      options: this.templates().map((t) => ({ value: t.id, label: t.name })),
      write: (templateId) => {
        const t = this.templates().find((one) => one.id === templateId);
        return { templateId, ...(t ? { subject: t.subject, text: t.text } : {}) };
      },
    },
    ...this.asked(),
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
    initial: {
      feeId: null,
      feeQuantity: 1,
      byCall: true,
      subject: '',
      text: '',
      clientId: '',
      contactId: '',
      contactWords: '',
      templateId: null,
      fields: [],
    },
    draft: 'new-ticket',
    does: 'Open it',
    save: (body) => this.api.call(intakeRoutes.createTicket, { body }),
  };
}
