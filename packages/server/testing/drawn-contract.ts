import { ownClient, remoteOf, timeForm } from './own-client';
import type { Script, World } from './test-server';

interface Drawn {
  readonly preset: string;
  readonly grant: string;
  readonly price?: string;
  readonly lastDay?: string;
}

/** An agreed contract from 1 September 2026 of a client of its own, with the work of one technician on a ticket of theirs. */
export async function drawnContract(
  { world, hanna, deepa }: { readonly world: World; readonly hanna: Script; readonly deepa: Script },
  drawn: Drawn,
) {
  const remote = await remoteOf(deepa);
  const { clientId, ticketId } = await ownClient(world);
  const body = { clientId, name: 'Support', startsOn: '2026-09-01', lastDay: null, price: '100', ...drawn };
  const { id: contractId } = await hanna.do('createContract', { body: body as never });
  const contract = () => hanna.do('getContract', { params: { contractId } });
  await hanna.do('agreeContract', { params: { contractId }, version: (await contract()).version });
  const allowanceId = (await contract()).allowances[0]!.id;
  const form = (startsAt: string, duration: string) => timeForm({ workId: ticketId, activityId: remote }, startsAt, duration);
  const effectOf = async (entryId: string) => (await world.knex('entry_effect').where({ time_entry_id: entryId }).first('effect')).effect;
  return {
    contractId,
    clientId,
    ticketId,
    allowanceId,
    contract,
    form,
    effectOf,
    record: async (startsAt: string, duration: string) => (await deepa.do('addEntry', { body: form(startsAt, duration) })).id,
    /** What an entry drew, lot by lot; of a stretch that drew nothing, how it stands. */
    drew: async (entryId: string): Promise<string[]> =>
      (await effectOf(entryId)).under.stretches.flatMap((s: { draws: { lot: string; units: number }[]; is: string }) =>
        s.draws.length ? s.draws.map((d) => `${d.lot} ${d.units}`) : [s.is],
      ),
  };
}
