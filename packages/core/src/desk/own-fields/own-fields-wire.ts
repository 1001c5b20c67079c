import { array, mixed, string } from 'yup';
import {
  count,
  defineRoutes,
  done,
  type FactValue,
  id,
  list,
  listOf,
  oneOf,
  optionalText,
  record,
  type Rule,
  text,
  type Wire,
  yes,
} from '../../ground';
import { FIELD_MOMENTS, FIELD_RECORDS } from './field-record';
import { FIELD_KINDS } from './own-field';

/** A rule as it travels; the server checks it before it is kept. */
export const ruleSchema = () =>
  mixed<Rule>((v): v is Rule => typeof v === 'boolean' || (typeof v === 'object' && v !== null))
    .typeError('a condition, or JSON Logic such as {"==": [{"var": "ticket.kind"}, "alert"]}')
    .defined();
export const fieldValueSchema = () =>
  mixed<Exclude<FactValue, null>>((v): v is Exclude<FactValue, null> => ['string', 'number', 'boolean'].includes(typeof v))
    .nullable()
    .defined();

const written = {
  name: text(60),
  on: oneOf(FIELD_RECORDS),
  kind: oneOf(FIELD_KINDS),
  choices: array(text(60)).defined().max(50, 'at most 50'),
  shown: ruleSchema(),
  required: ruleSchema(),
  asked: listOf(oneOf(FIELD_MOMENTS), 20),
};
export const ownFieldFormSchema = record(written);
export type OwnFieldForm = Wire<typeof ownFieldFormSchema>;
export const ownFieldSchema = record({ id: id('own_field'), version: count(), ...written });
export type OwnFieldWire = Wire<typeof ownFieldSchema>;

/** Values of own fields by the field's id. */
export const fieldValuesSchema = () =>
  array(record({ fieldId: id('own_field'), value: fieldValueSchema() }))
    .defined()
    .max(100, 'at most 100');
export type FieldValues = Wire<ReturnType<typeof fieldValuesSchema>>;
/** Values by field as a form holds them. */
export const valuesById = (values: FieldValues): Readonly<Record<string, FactValue>> =>
  Object.fromEntries(values.map(({ fieldId, value }) => [fieldId, value]));

/** An own field of a record with its value, as it is shown. */
export const shownFieldSchema = record({
  id: id('own_field'),
  name: text(),
  kind: oneOf(FIELD_KINDS),
  choices: list(text()),
  value: fieldValueSchema(),
  /** The value as people read it: a person or asset by name. */
  words: optionalText(1000),
  required: yes(),
});
export type ShownFieldWire = Wire<typeof shownFieldSchema>;

export const ownFieldRoutes = defineRoutes({
  listOwnFields: {
    method: 'GET',
    path: '/own-fields',
    summary: "The house's own fields, of one kind of record or of all",
    permission: 'signed in',
    query: record({ on: string().oneOf(FIELD_RECORDS) }),
    answer: record({ fields: list(ownFieldSchema) }),
  },
  addOwnField: {
    method: 'POST',
    path: '/own-fields',
    summary: 'Add an own field',
    permission: 'setup.edit',
    body: ownFieldFormSchema,
    answer: done(),
  },
  editOwnField: {
    method: 'PUT',
    path: '/own-fields/:fieldId',
    summary: 'Change an own field; values that are there stay',
    permission: 'setup.edit',
    versioned: true,
    body: ownFieldFormSchema,
    answer: done(),
  },
  archiveOwnField: {
    method: 'POST',
    path: '/own-fields/:fieldId/archive',
    summary: 'Put an own field away; values that are there stay',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
