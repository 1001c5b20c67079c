import type { ChargeWire, DecideForm, DraftLineWire, DraftWire } from '@core/billing';
import type { Id } from '@core/ground';
import type { Script, World } from './test-server';

const NOTHING_SAID = { reason: null, quantity: null, unitPrice: null, description: null, until: null } as const;

/** People of the demo with what billing does in specs: time recorded, cleared and issued. */
export async function startBilling(world: World) {
  const technician = await world.as('Sora');
  const billing = await world.as('Ngozi');
  // What the demo left to decide or to bill is no part of a spec.
  await world.knex('charge').whereIn('standing', ['proposed', 'approved']).update({ state: 'waived' });
  const house = await technician.do('getHouse');
  const activity = (name: string) => house.activities.find((a) => a.name === name)!.id;
  const ticketOf = async (client: string) =>
    world
      .knex('ticket as t')
      .join('client as c', 'c.id', 't.client_id')
      .where('c.name', client)
      .whereIn('t.status', ['new', 'in work', 'booked', 'on hold'])
      .whereNot({ 't.kind': 'unsorted' })
      .whereNot({ 't.kind': 'flat-fee job' })
      .orderBy('t.number', 'desc')
      .first('t.id', 't.client_id', 't.number');
  const record = (ticketId: string, startsAt: string, did: { duration: string; note?: string }) =>
    technician.do('addEntry', {
      body: { workId: ticketId, startsAt, activityId: activity('remote'), note: 'worked', billable: true, reason: null, ...did },
    });
  return {
    technician,
    billing,
    activity,
    ticketOf,
    record,
    chargesOf: (entryId: string) => chargesOf(world, entryId),
    /** The first charge of an entry, as charge review shows it. */
    chargeOf: async (entryId: string): Promise<ChargeWire> =>
      billing.do('getCharge', { params: { chargeId: (await chargesOf(world, entryId))[0]!.id } }),
    /** Decides on a charge as it is stored now. */
    decide: async (chargeId: Id<'charge'>, decision: Partial<DecideForm> & Pick<DecideForm, 'decision'>) => {
      const { version } = await billing.do('getCharge', { params: { chargeId } });
      return billing.ask('decideCharge', { params: { chargeId }, version, body: { ...NOTHING_SAID, ...decision } });
    },
    clear: clear(billing),
  };
}

export function chargesOf(world: World, entryId: string) {
  return world
    .knex('charge')
    .where({ time_entry_id: entryId })
    .orderByRaw(`array_position(array['entry', 'distance', 'call-out'], cause), part`);
}

/** Approves all that is proposed for a client, and says what waits for an invoice then. */
function clear(billing: Script) {
  return async (clientId: string): Promise<DraftWire & { lines: DraftLineWire[] }> => {
    const [waits] = (await billing.do('listChargeClients', { query: { state: 'proposed', clientId } })).rows;
    if (waits) await billing.do('approveAll', { body: { clientId, odd: true, charges: waits.charges, netMinor: waits.net.minor } });
    const [draft] = (await billing.do('listDrafts', { query: { clientId } })).rows;
    return { ...draft!, lines: (await billing.do('listDraftLines', { params: { clientId } })).rows };
  };
}

/** Tells the ledger's stand-in something on its own pages. */
export function postToLedger(world: World, path: string, body: object): Promise<Response> {
  const headers = { 'content-type': 'application/json' };
  return fetch(`http://127.0.0.1:${world.ledger.port}${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
}

/** What the ledger's stand-in has booked. */
export async function bookedSales(world: World): Promise<{ id: string; reference: string; [name: string]: unknown }[]> {
  return ((await (await fetch(`http://127.0.0.1:${world.ledger.port}/state.json`)).json()) as { sales: never[] }).sales;
}
