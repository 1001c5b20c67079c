import type { ConditionFacts, FactValue } from '@core/ground';
import { isRequired, type FieldValues, type OwnField } from '@core/desk';
import type { Option } from '../../ui/field';
import type { Line } from '../../ui/record-form';
import { FIELD_INPUTS, YES_NO } from './field-kinds';

export interface FieldChoices {
  readonly people: readonly Option[];
  readonly assets: readonly Option[];
}

/** Values of own fields by id, as a form holds them. */
export const valuesById = (values: FieldValues): Readonly<Record<string, FactValue>> =>
  Object.fromEntries(values.map(({ fieldId, value }) => [fieldId, value]));

/**
 * The own fields that must be filled before a ticket opens, as lines of a form whose `fields` holds their values.
 * A line is named by its field's id, as the server names it where it refuses.
 */
export function fieldLines(all: readonly OwnField[], facts: ConditionFacts, filled: FieldValues, choices: FieldChoices): readonly Line[] {
  return all
    .filter((f) => f.asked.includes('opening') && isRequired(f, facts))
    .map((f): Line => ({
      name: f.id,
      label: f.name,
      kind: FIELD_INPUTS[f.kind],
      none: 'not filled',
      options: optionsOf(f, choices),
      read: (values) => said(valuesById(values['fields'] as FieldValues)[f.id] ?? null),
      write: (typed) => ({ fields: [...filled.filter((v) => v.fieldId !== f.id), { fieldId: f.id, value: valueOf(f, typed) }] }),
    }));
}

function optionsOf(f: OwnField, { people, assets }: FieldChoices): readonly Option[] {
  if (f.kind === 'choice') return f.choices.map((c) => ({ value: c, label: c }));
  return { 'yes/no': YES_NO, person: people, asset: assets }[f.kind as 'person'] ?? [];
}

const said = (value: FactValue): FactValue => (typeof value === 'boolean' ? (value ? 'yes' : 'no') : value);
const valueOf = (f: OwnField, typed: unknown): FactValue =>
  typed === '' || typed === null || typed === undefined ? null : f.kind === 'yes/no' ? typed === 'yes' : (typed as FactValue);
