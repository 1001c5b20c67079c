import type { Work } from '../../app/work';
import { askToWatchTabs } from '../open-tab/watch-tabs';

/** What a charge belongs to. */
export interface ChargeOf {
  readonly ticket_id: string | null;
  readonly client_id: string;
}

/** Tells screens that charges changed: one live event for each ticket, or client, that they are of. */
export async function tellCharges(work: Work, charges: readonly ChargeOf[]): Promise<void> {
  const each = new Map(charges.map((c) => [`${c.ticket_id} ${c.client_id}`, { ticketId: c.ticket_id, clientId: c.client_id }]));
  if (!each.size) return;
  await work.emit('charge', null, [...each.values()]);
  await askToWatchTabs(work, [...new Set(charges.map((c) => c.client_id))]);
}
