import type { ConditionFacts, FactValue } from '@core/ground';
import { type FieldRecord, type FieldValues, isRequired, isShown, type OwnField, type ShownFieldWire, valuesById } from '@core/desk';
import type { Option } from '../../ui/field';
import type { Line } from '../../ui/record-form';
import { FIELD_INPUTS, YES_NO } from './field-kinds';

export interface FieldChoices {
  readonly people: readonly Option[];
  readonly assets: readonly Option[];
}
type Values = Readonly<Record<string, unknown>>;
type Facts = Readonly<Record<string, FactValue>>;

/**
 * The own fields that must be filled before a ticket opens, as lines of a form whose `fields` holds their values.
 * A line is named by its field's id, as the server names it where it refuses.
 */
export function openingLines(all: readonly OwnField[], facts: ConditionFacts, choices: FieldChoices): readonly Line[] {
  return all.filter((f) => f.asked.includes('opening') && isRequired(f, facts)).map((f) => lineOf(f, choices));
}

/** Own fields of a record of one kind, as lines of the form that adds or changes it; each is there while its rule shows it. */
export function recordLines(
  all: readonly OwnField[],
  { on, factsOf, choices }: { readonly on: FieldRecord; readonly factsOf: (values: Values) => Facts; readonly choices: FieldChoices },
): readonly Line[] {
  return all.map((f) => ({
    ...lineOf(f, choices),
    label: f.required === true && f.asked.length ? `${f.name} (must be filled)` : f.name,
    when: (values) => {
      const field = filledIn(values);
      return isShown(f, { [on]: factsOf(values), field }) || (field[f.id] ?? null) !== null;
    },
  }));
}

/** A record as its form holds it: own fields by their values alone. */
export function withFieldValues<R extends { readonly fields: readonly ShownFieldWire[] }>(
  record: R,
): Omit<R, 'fields'> & { readonly fields: FieldValues } {
  return { ...record, fields: record.fields.map((f) => ({ fieldId: f.id, value: f.value })) };
}

function lineOf(f: OwnField, choices: FieldChoices): Line {
  return {
    name: f.id,
    label: f.name,
    kind: FIELD_INPUTS[f.kind],
    none: 'not filled',
    options: optionsOf(f, choices),
    read: (values) => said(filledIn(values)[f.id] ?? null),
    write: (typed, values) => ({
      fields: [...(values['fields'] as FieldValues).filter((v) => v.fieldId !== f.id), { fieldId: f.id, value: valueOf(f, typed) }],
    }),
  };
}

const filledIn = (values: Values): Facts => valuesById((values['fields'] ?? []) as FieldValues);

function optionsOf(f: OwnField, { people, assets }: FieldChoices): readonly Option[] {
  if (f.kind === 'choice') return f.choices.map((c) => ({ value: c, label: c }));
  return { 'yes/no': YES_NO, person: people, asset: assets }[f.kind as 'person'] ?? [];
}

const said = (value: FactValue): FactValue => (typeof value === 'boolean' ? (value ? 'yes' : 'no') : value);
const valueOf = (f: OwnField, typed: unknown): FactValue =>
  typed === '' || typed === null || typed === undefined ? null : f.kind === 'yes/no' ? typed === 'yes' : (typed as FactValue);
