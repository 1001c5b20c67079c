import { defineRoutes, id, list, record, text, yes, type Wire } from '../../ground';

/** Somebody who has not been heard of for so long is not there any more. */
export const PRESENCE_SECONDS = 45;
export const presentSchema = record({ id: id('person'), name: text(), writing: yes() });
export type PresentWire = Wire<typeof presentSchema>;

export const presenceRoutes = defineRoutes({
  beThere: {
    method: 'POST',
    path: '/tickets/:ticketId/presence',
    summary: 'Say that you look at a ticket, or write, or have left; tells who else is there',
    permission: 'tickets.read',
    // Nothing that is worth a key is stored: it is forgotten within a minute.
    reads: true,
    body: record({ here: yes(), writing: yes() }),
    answer: record({ others: list(presentSchema) }),
  },
});
