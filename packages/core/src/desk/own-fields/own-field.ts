import { type ConditionFacts, type FactValue, type Outcome, refuse, type Rule, ruleHolds } from '../../ground';
import type { FieldMoment, FieldRecord } from './field-record';

export const FIELD_KINDS = ['text', 'number', 'choice', 'date', 'yes/no', 'person', 'asset'] as const;
export type FieldKind = (typeof FIELD_KINDS)[number];

/** A field of the house's own on the records of one kind. */
export interface OwnField {
  readonly id: string;
  readonly on: FieldRecord;
  readonly name: string;
  readonly kind: FieldKind;
  /** Of a choice: what can be chosen. */
  readonly choices: readonly string[];
  readonly shown: Rule;
  readonly required: Rule;
  readonly asked: readonly FieldMoment[];
}

const MOST_LETTERS = 1000;
const DATE = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;
const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

const READ: Readonly<Record<FieldKind, (given: unknown, field: OwnField) => FactValue | undefined>> = {
  text: (v) => (typeof v === 'string' && v.length <= MOST_LETTERS ? v.trim() : undefined),
  number: (v) => ((typeof v === 'number' || typeof v === 'string') && v !== '' && Number.isFinite(Number(v)) ? Number(v) : undefined),
  choice: (v, f) => (typeof v === 'string' && f.choices.includes(v) ? v : undefined),
  date: (v) => (typeof v === 'string' && DATE.test(v) && !Number.isNaN(Date.parse(v)) ? v : undefined),
  'yes/no': (v) => (typeof v === 'boolean' ? v : undefined),
  person: (v) => (typeof v === 'string' && ID.test(v) ? v : undefined),
  asset: (v) => (typeof v === 'string' && ID.test(v) ? v : undefined),
};
const ALLOWED: Readonly<Record<FieldKind, (field: OwnField) => string>> = {
  text: () => `up to ${MOST_LETTERS} characters`,
  number: () => 'a number such as 12 or 2.5',
  choice: (f) => `one of ${f.choices.join(', ')}`,
  date: () => 'a date such as 2026-11-24',
  'yes/no': () => 'yes or no',
  person: () => 'one of the people',
  asset: () => "one of the client's assets",
};

/** Reads what was given for a field; nothing, and empty text, empty it. The refusal names the field. */
export function readFieldValue(field: OwnField, given: unknown): Outcome<FactValue> {
  if (given === null || given === undefined || given === '') return null;
  const value = READ[field.kind](given, field);
  if (value === undefined)
    return refuse('invalid', `${field.name}: ${JSON.stringify(given)} was given, ${ALLOWED[field.kind](field)} is allowed.`, {
      [field.id]: ALLOWED[field.kind](field),
    });
  return value === '' ? null : value;
}

export const isShown = (field: OwnField, facts: ConditionFacts): boolean => ruleHolds(field.shown, facts);

/** Whether a field that is shown must be filled at one of its moments. */
export const isRequired = (field: OwnField, facts: ConditionFacts): boolean =>
  isShown(field, facts) && field.asked.length > 0 && ruleHolds(field.required, facts);

/** The fields that must be filled at this moment and are not; "no" fills a yes/no. */
export function missingFields(fields: readonly OwnField[], facts: ConditionFacts, moment: FieldMoment): readonly OwnField[] {
  return fields.filter((f) => f.asked.includes(moment) && isRequired(f, facts) && (facts.field[f.id] ?? null) === null);
}
