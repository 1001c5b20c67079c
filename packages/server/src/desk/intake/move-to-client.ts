import { formatMinutes, type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { MoveClient } from '@core/desk';
import { changeRow } from '../../app/change-row';
import { type Db, sumOf } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { followOwner } from '../clocks/take-promise';
import { withoutAssets } from '../own-fields/record-fields';
import { storeClocks } from '../clocks/ticket-clock-store';
import { wrongOwner } from '../tickets/triage-ticket';
import { takeMembersClient } from '../umbrellas/members-client';

/** What moving a ticket to another client would show to whom, and what else it changes; in words. */
export async function effectsOfMove(db: Db, ticketId: Id<'ticket'>, clientId: Id<'client'>): Promise<Outcome<string[]>> {
  const ticket = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('asset as a', 'a.id', 't.asset_id')
    .where('t.id', ticketId)
    .first('t.client_id', 't.is_umbrella', 'c.name', 'a.number as asset');
  const client = await db('client').where({ id: clientId }).whereNull('archived_at').first('name');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (!client) return refuse('invalid', 'There is no such client.', { clientId: 'choose one of the clients' });
  if (ticket.is_umbrella) return refuse('not-possible-now', 'An umbrella follows the clients of its members.');
  if (ticket.client_id === clientId) return refuse('not-possible-now', `It is a ticket of ${client.name} already.`);
  const decided = await db('charge').where({ ticket_id: ticketId }).whereIn('state', ['approved', 'waived']).first('state');
  if (decided) return refuse('not-possible-now', `A charge of it is ${decided.state}. Take that decision back first.`);
  const effects: string[] = [];
  const authors: (Row<'message', 'author_name'> & { readonly n: number })[] = await db('message as m')
    .leftJoin('contact as k', 'k.id', 'm.author_contact_id')
    .where({ 'm.ticket_id': ticketId, 'm.visibility': 'public', 'm.direction': 'in' })
    .where((q) => void q.whereNull('k.client_id').orWhereNot('k.client_id', clientId))
    .groupBy('m.author_name')
    .orderBy('m.author_name')
    .select('m.author_name', db.raw('count(*)::int as n'));
  if (authors.length)
    effects.push(
      `${client.name} could read ${authors.map((a) => `${a.n} ${a.n === 1 ? 'message' : 'messages'} of ${a.author_name}`).join(', ')}${ticket.name ? ` of ${ticket.name}` : ''}`,
    );
  const told: { readonly address: string }[] = await db('message')
    .where({ ticket_id: ticketId, direction: 'out', visibility: 'public' })
    .whereNotNull('left_at')
    .select(db.raw('distinct unnest(to_addresses || cc_addresses) as address'));
  if (told.length)
    effects.push(`what was written to ${told.map((t) => t.address).join(', ')} stays with them and could be read by ${client.name}`);
  if (ticket.asset) effects.push(`the asset ${ticket.asset} is taken off, and every own field that names one`);
  const minutes = await sumOf(db('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at'), 'minutes');
  if (minutes > 0) effects.push(`${formatMinutes(minutes)} of time is charged to ${client.name}, at their rates`);
  effects.push(`its promises are those of ${client.name} from now on; time counted stays`);
  return effects;
}

/** Moves a ticket to another client, once a person has seen what that would show to whom. */
export async function moveToClient(
  work: Work,
  book: HouseBook,
  {
    ticketId,
    version,
    body: { clientId, contactId, seen },
  }: { readonly ticketId: Id<'ticket'>; readonly version: number; readonly body: MoveClient },
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const effects = await effectsOfMove(work.tx, ticketId, clientId);
  if (isRefusal(effects)) return effects;
  if (!seen) return refuse('not-possible-now', `Look first at what the move does: ${effects.join('; ')}.`);
  const mismatch = await wrongOwner(work, { clientId, contactId, assetId: null });
  if (mismatch) return mismatch;
  const ticket = (await work
    .tx('ticket')
    .where({ id: ticketId })
    .first('client_id', 'kind', 'promise_version_id', 'umbrella_id', 'fields'))!;
  const { name, division_id } = (await work.tx('client').where({ id: clientId }).first('name', 'division_id'))!;
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticketId,
    version,
    set: {
      client_id: clientId,
      contact_id: contactId,
      asset_id: null,
      division_id,
      fields: JSON.stringify(withoutAssets(book, 'ticket', ticket.fields)),
    },
  });
  if (isRefusal(changed)) return changed;
  await followOwner(work, book, {
    ticketId,
    promiseVersionId: ticket.promise_version_id,
    from: { clientId: ticket.client_id, kind: ticket.kind },
    to: { clientId, kind: ticket.kind },
  });
  await storeClocks(work, book, { ticketId });
  if (ticket.umbrella_id) await takeMembersClient(work, book, ticket.umbrella_id);
  await work.tell('ticket.moved-to-client', ticketId, { clientId: [ticket.client_id, clientId], client: name, effects });
  return changed;
}
