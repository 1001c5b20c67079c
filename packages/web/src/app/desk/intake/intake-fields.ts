import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { ConditionFacts, FactValue, Id } from '@core/ground';
import { type TicketWire, isRequired, isShown } from '@core/desk';
import { FieldInputs } from '../own-fields/field-inputs';
import { fieldsOn } from '../own-fields/fields-on';

/** What is chosen for a ticket that is not routed yet. */
export interface Sorting {
  readonly kind: string;
  readonly ownKindId: Id<'own_kind'> | null;
  readonly impact?: string;
  readonly urgency?: string;
  readonly categoryId: Id<'category'> | null;
  readonly clientId: Id<'client'> | null;
  readonly assetId: Id<'asset'> | null;
  readonly fields: Readonly<Record<string, FactValue>>;
}

/** The own fields that a ticket will have as it is being sorted, filled before it is routed. */
@Component({
  selector: 'dl-intake-fields',
  imports: [FieldInputs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-field-inputs [fields]="shown()" [clientId]="choice().clientId" (changed)="typed($event)" />`,
})
export class IntakeFields {
  readonly ticket = input.required<TicketWire>();
  readonly choice = input.required<Sorting>();
  readonly changed = output<Readonly<Record<string, FactValue>>>();
  private readonly all = fieldsOn('ticket');
  private readonly facts = computed((): ConditionFacts => {
    const [c, t] = [this.choice(), this.ticket()];
    return {
      ticket: {
        kind: c.kind,
        ownKind: c.ownKindId,
        status: t.status,
        impact: c.impact ?? null,
        urgency: c.urgency ?? null,
        category: c.categoryId,
        client: c.clientId,
        subject: t.subject,
        asset: c.assetId !== null,
        umbrella: t.isUmbrella,
        minutes: t.minutes,
      },
      field: { ...Object.fromEntries(t.fields.map((f) => [f.id, f.value])), ...c.fields },
    };
  });
  protected readonly shown = computed(() =>
    this.all()
      .filter((f) => isShown(f, this.facts()))
      .map((f) => ({
        ...f,
        value: this.facts().field[f.id] ?? null,
        required: f.asked.includes('opening') && isRequired(f, this.facts()),
      }))
      // Intake asks only for what it must; the rest is filled on the ticket.
      .filter((f) => f.required || f.value !== null || f.id in this.choice().fields),
  );

  protected typed({ fieldId, value }: { readonly fieldId: string; readonly value: FactValue }): void {
    this.changed.emit({ ...this.choice().fields, [fieldId]: value });
  }
}
