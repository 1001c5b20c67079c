import { array, string } from 'yup';
import { count, defineRoutes, done, email, id, list, optionalId, optionalOneOf, record, text, type Wire } from '../../ground';
import { SORTED_KINDS } from '../tickets';

const written = {
  name: text(80),
  path: string()
    .trim()
    .lowercase()
    .defined()
    .required('write something')
    .max(40, 'at most 40 characters')
    .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'small letters, figures and hyphens, such as somebody-new'),
  intro: text(1000),
  kind: optionalOneOf(SORTED_KINDS),
  categoryId: optionalId('category'),
  /** The own fields that it asks for, in this order. */
  fields: array(id()).defined().max(20, 'at most 20'),
};
export const requestFormFormSchema = record(written);
export type RequestFormForm = Wire<typeof requestFormFormSchema>;
export const requestFormSchema = record({ id: id('request_form'), version: count(), ...written, address: text(300) });
export type RequestFormWire = Wire<typeof requestFormSchema>;

/** What somebody outside writes into a request form, besides its own fields. */
export const requestSchema = record({ name: text(100), email: email(), subject: text(150), text: text(20_000) });
export type Request = Wire<typeof requestSchema>;

export const requestFormRoutes = defineRoutes({
  listRequestForms: {
    method: 'GET',
    path: '/request-forms',
    summary: 'Forms that clients fill outside Drumline',
    permission: 'setup.read',
    answer: record({ forms: list(requestFormSchema) }),
  },
  addRequestForm: {
    method: 'POST',
    path: '/request-forms',
    summary: 'Add a request form',
    permission: 'setup.edit',
    body: requestFormFormSchema,
    answer: done(),
  },
  editRequestForm: {
    method: 'PUT',
    path: '/request-forms/:formId',
    summary: 'Change a request form',
    permission: 'setup.edit',
    versioned: true,
    body: requestFormFormSchema,
    answer: done(),
  },
  archiveRequestForm: {
    method: 'POST',
    path: '/request-forms/:formId/archive',
    summary: 'Put a request form away: its address answers no more',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
