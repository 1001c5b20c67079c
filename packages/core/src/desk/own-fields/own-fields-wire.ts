import { array, mixed } from 'yup';
import { count, defineRoutes, done, type FactValue, id, list, listOf, oneOf, record, type Rule, text, type Wire } from '../../ground';
import { FIELD_KINDS, FIELD_MOMENTS } from './own-field';

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
  kind: oneOf(FIELD_KINDS),
  choices: array(text(60)).defined().max(50, 'at most 50'),
  shown: ruleSchema(),
  required: ruleSchema(),
  asked: listOf(oneOf(FIELD_MOMENTS), 20),
};
export const ownFieldFormSchema = record(written);
export type OwnFieldForm = Wire<typeof ownFieldFormSchema>;
export const ownFieldSchema = record({ id: id(), version: count(), ...written });
export type OwnFieldWire = Wire<typeof ownFieldSchema>;

/** Values of own fields by the field's id. */
export const fieldValuesSchema = () =>
  array(record({ fieldId: id(), value: fieldValueSchema() }))
    .defined()
    .max(100, 'at most 100');
export type FieldValues = Wire<ReturnType<typeof fieldValuesSchema>>;

export const ownFieldRoutes = defineRoutes({
  listOwnFields: {
    method: 'GET',
    path: '/own-fields',
    summary: "The house's own fields on tickets",
    permission: 'signed in',
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
    summary: 'Change an own field; values of tickets stay',
    permission: 'setup.edit',
    versioned: true,
    body: ownFieldFormSchema,
    answer: done(),
  },
  archiveOwnField: {
    method: 'POST',
    path: '/own-fields/:fieldId/archive',
    summary: 'Put an own field away; values of tickets stay',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  setTicketFields: {
    method: 'POST',
    path: '/tickets/:ticketId/own-fields',
    summary: 'Fill own fields of a ticket; those not named stay',
    permission: 'tickets.work',
    versioned: true,
    body: record({ values: fieldValuesSchema() }),
    answer: done(),
  },
});
