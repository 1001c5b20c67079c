import type { Id } from '@core/ground';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { followOwner } from '../clocks/take-promise';
import { storeClocks } from '../clocks/ticket-clock-store';

/**
 * An umbrella over one client is that client's; over several it belongs to the provider, and time on it is
 * internal. Its promises follow. Source: docs/calculations.md, Umbrella.
 */
export async function takeMembersClient(work: Work, book: HouseBook, umbrellaId: Id<'ticket'>): Promise<void> {
  const umbrella = (await work.tx('ticket').where({ id: umbrellaId }).first('client_id', 'kind', 'promise_version_id'))!;
  const clients: (string | null)[] = await work.tx('ticket').where({ umbrella_id: umbrellaId }).distinct('client_id').pluck('client_id');
  const to = clients.length === 1 ? clients[0]! : null;
  if (!clients.length || to === umbrella.client_id) return;
  await work.tx('ticket').where({ id: umbrellaId }).update({ client_id: to, contact_id: null, asset_id: null });
  await followOwner(work, book, {
    ticketId: umbrellaId,
    promiseVersionId: umbrella.promise_version_id,
    from: { clientId: umbrella.client_id, kind: umbrella.kind },
    to: { clientId: to, kind: umbrella.kind },
  });
  await storeClocks(work, book, { ticketId: umbrellaId });
  const name = to ? (await work.tx('client').where({ id: to }).first('name'))!.name : undefined;
  await work.tell('ticket.members-client-set', umbrellaId, { clientId: to, client: name ?? null });
}
