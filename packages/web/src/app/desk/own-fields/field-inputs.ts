import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { FieldKind } from '@core/desk';
import { type FactValue, type Id } from '@core/ground';
import { Field, type Option } from '../../ui/field';
import { FIELD_INPUTS, YES_NO } from './field-kinds';
import { fieldChoices } from './fields-on';

/** One own field as it is shown for input. */
export interface FieldInput {
  readonly id: string;
  readonly name: string;
  readonly kind: FieldKind;
  readonly choices: readonly string[];
  readonly value: FactValue;
  readonly required: boolean;
}

/** Inputs for own fields; each change is told with the value as it is kept. */
@Component({
  selector: 'dl-field-inputs',
  imports: [Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (f of fields(); track f.id) {
      <dl-field
        [label]="f.name + (f.required ? ' (must be filled)' : '')"
        [kind]="inputs[f.kind]"
        none="not filled"
        [options]="options(f)"
        [value]="f.kind === 'yes/no' ? (f.value === null ? '' : f.value ? 'yes' : 'no') : f.value"
        [error]="errors()[f.id]"
        (changed)="tell(f, $event)"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
  `,
})
export class FieldInputs {
  readonly fields = input.required<readonly FieldInput[]>();
  readonly clientId = input<Id<'client'> | null>(null);
  readonly errors = input<Readonly<Record<string, string>>>({});
  readonly changed = output<{ readonly fieldId: Id<'own_field'>; readonly value: FactValue }>();
  protected readonly inputs = FIELD_INPUTS;
  private readonly known = fieldChoices(this.fields, this.clientId);

  protected options(f: FieldInput): readonly Option[] {
    const by: Partial<Record<FieldKind, readonly Option[]>> = {
      choice: f.choices.map((c) => ({ value: c, label: c })),
      'yes/no': YES_NO,
      person: this.known().people,
      asset: this.known().assets,
    };
    return by[f.kind] ?? [];
  }

  protected tell(f: FieldInput, typed: unknown): void {
    const value = typed === '' || typed === null ? null : f.kind === 'yes/no' ? typed === 'yes' : (typed as FactValue);
    this.changed.emit({ fieldId: f.id, value });
  }
}
