import { defineRoutes, id, list, record, text, yes, type Wire } from '../../ground';

export const followerSchema = record({ id: id('person'), name: text() });
export type FollowerWire = Wire<typeof followerSchema>;

export const followerRoutes = defineRoutes({
  follow: {
    method: 'POST',
    path: '/tickets/:ticketId/following',
    summary: 'Follow a ticket, or no more: who follows is told what the client writes and where it moves',
    permission: 'tickets.read',
    body: record({ follows: yes() }),
    answer: record({ followers: list(followerSchema) }),
  },
});
