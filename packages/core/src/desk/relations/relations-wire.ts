import { count, defineRoutes, id, record, whole } from '../../ground';

export const relationRoutes = defineRoutes({
  relateTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/relations',
    summary: 'Say that a ticket is related to another',
    permission: 'tickets.work',
    body: record({ number: whole(1, 1_000_000_000) }),
    answer: record({ id: id() }),
  },
  unrelateTicket: {
    method: 'DELETE',
    path: '/tickets/:ticketId/relations/:relatedId',
    summary: 'Say that two tickets are not related after all',
    permission: 'tickets.work',
    answer: record({ removed: count() }),
  },
});
