import { count, defineRoutes, done, id, list, oneOf, record, text, type Wire } from '../../ground';
import { SORTED_KINDS } from '../tickets';

/** A kind under the house's own name: "loan device" is a service request. It does all that the kind does that it stands for. */
export const ownKindFormSchema = record({ name: text(40), standsFor: oneOf(SORTED_KINDS) });
export type OwnKindForm = Wire<typeof ownKindFormSchema>;
export const ownKindSchema = record({ id: id('own_kind'), version: count(), name: text(40), standsFor: oneOf(SORTED_KINDS) });
export type OwnKindWire = Wire<typeof ownKindSchema>;

export const kindRoutes = defineRoutes({
  listOwnKinds: {
    method: 'GET',
    path: '/own-kinds',
    summary: "Kinds under the house's own names",
    permission: 'signed in',
    answer: record({ kinds: list(ownKindSchema) }),
  },
  addOwnKind: {
    method: 'POST',
    path: '/own-kinds',
    summary: 'Add a kind under a name of your own',
    permission: 'setup.edit',
    body: ownKindFormSchema,
    answer: done(),
  },
  editOwnKind: {
    method: 'PUT',
    path: '/own-kinds/:ownKindId',
    summary: 'Change the name of such a kind',
    permission: 'setup.edit',
    versioned: true,
    body: ownKindFormSchema,
    answer: done(),
  },
  archiveOwnKind: {
    method: 'POST',
    path: '/own-kinds/:ownKindId/archive',
    summary: 'Put such a kind away; tickets that have it keep it',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
