import { count, defineRoutes, done, id, list, oneOf, optionalOneOf, record, text, type Wire } from '../../ground';
import { NAMED_STATUSES, WAITS_FOR } from './own-status';

const written = { name: text(40), standsFor: oneOf(NAMED_STATUSES), waitsFor: optionalOneOf(WAITS_FOR) };
export const ownStatusFormSchema = record(written).test(
  'waits',
  'say what it waits for where it stands for on hold, and only there',
  (v) => (v.standsFor === 'on hold') === Boolean(v.waitsFor),
);
export type OwnStatusForm = Wire<typeof ownStatusFormSchema>;
export const ownStatusSchema = record({ id: id('own_status'), version: count(), ...written });
export type OwnStatusWire = Wire<typeof ownStatusSchema>;

export const statusRoutes = defineRoutes({
  listOwnStatuses: {
    method: 'GET',
    path: '/own-statuses',
    summary: "Statuses and hold reasons under the house's own names",
    permission: 'signed in',
    answer: record({ statuses: list(ownStatusSchema) }),
  },
  addOwnStatus: {
    method: 'POST',
    path: '/own-statuses',
    summary: 'Add a status or hold reason under a name of your own',
    permission: 'setup.edit',
    body: ownStatusFormSchema,
    answer: done(),
  },
  editOwnStatus: {
    method: 'PUT',
    path: '/own-statuses/:statusId',
    summary: 'Change the name of such a status',
    permission: 'setup.edit',
    versioned: true,
    body: ownStatusFormSchema,
    answer: done(),
  },
  archiveOwnStatus: {
    method: 'POST',
    path: '/own-statuses/:statusId/archive',
    summary: 'Put such a status away; tickets that have it keep it',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
