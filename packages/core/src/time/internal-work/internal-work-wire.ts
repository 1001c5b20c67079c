import { count, defineRoutes, done, id, list, record, text, type Wire } from '../../ground';

/** Work of the provider's own that time is recorded on: meetings, training, the vans. */
export const internalWorkFormSchema = record({ name: text(60) });
export type InternalWorkForm = Wire<typeof internalWorkFormSchema>;
export const internalWorkSchema = record({ id: id('internal_work'), version: count(), name: text(60) });
export type InternalWorkWire = Wire<typeof internalWorkSchema>;

export const internalWorkRoutes = defineRoutes({
  listInternalWork: {
    method: 'GET',
    path: '/internal-work',
    summary: "Work of the provider's own that time is recorded on",
    permission: 'signed in',
    answer: record({ work: list(internalWorkSchema) }),
  },
  addInternalWork: {
    method: 'POST',
    path: '/internal-work',
    summary: 'Add internal work',
    permission: 'setup.edit',
    body: internalWorkFormSchema,
    answer: done(),
  },
  editInternalWork: {
    method: 'PUT',
    path: '/internal-work/:internalWorkId',
    summary: 'Change the name of internal work',
    permission: 'setup.edit',
    versioned: true,
    body: internalWorkFormSchema,
    answer: done(),
  },
  archiveInternalWork: {
    method: 'POST',
    path: '/internal-work/:internalWorkId/archive',
    summary: 'Put internal work away; time on it stays',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
