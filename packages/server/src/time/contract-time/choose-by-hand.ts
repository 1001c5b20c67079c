import type { ContractOffered } from '@core/contracts';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { ContractChoice } from '@core/time';
import type { Work } from '../../app/work';
import { changeRow } from '../../app/change-row';
import { readOffered } from '../../contracts';
import { isFrozen } from '../time-entries/is-frozen';

/** What somebody chose, in words too; refused where the client has no such contract that covers work. */
async function chosen(
  work: Work,
  clientId: Id<'client'> | null,
  { by, contractId }: ContractChoice,
): Promise<Outcome<{ readonly contractId: Id<'contract'> | null; readonly contract: string | null }>> {
  if (by === 'itself' || contractId === null) return { contractId: null, contract: null };
  const offered: readonly ContractOffered[] = (await readOffered(work.tx, [clientId])).ofClient(clientId);
  const found = offered.find((c) => c.id === contractId);
  if (!found) return refuse('invalid', 'This client has no such contract that covers work.', { contractId: 'a contract of the client' });
  return { contractId: found.id, contract: `${found.number} ${found.name}` };
}

/** Says which contract a ticket's work is for; its open work follows. */
export async function chooseForTicket(
  work: Work,
  ticketId: Id<'ticket'>,
  choice: ContractChoice,
): Promise<Outcome<{ readonly contract: string | null }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('client_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const found = await chosen(work, ticket.client_id, choice);
  if (isRefusal(found)) return found;
  const { contractId, contract } = found;
  if (choice.by === 'itself') await work.tx('ticket_contract').where({ ticket_id: ticketId }).delete();
  else await work.tx('ticket_contract').insert({ ticket_id: ticketId, contract_id: contractId }).onConflict('ticket_id').merge();
  await work.tell('ticket.contract-chosen', ticketId, { by: choice.by, contract });
  return { contract };
}

/** Says which contract recorded time is for, while nothing was decided on it. */
export async function chooseForEntry(
  work: Work,
  { entryId, version }: { readonly entryId: Id<'time_entry'>; readonly version: number },
  choice: ContractChoice,
): Promise<Outcome<{ id: Id<'time_entry'>; version: number; undo: ContractChoice }>> {
  const entry = await work
    .tx('time_entry')
    .where({ id: entryId })
    .whereNull('removed_at')
    .first('client_id', 'corrects', 'chosen_by_hand', 'chosen_contract_id');
  if (!entry) return refuse('not-found', 'There is no such time entry.');
  if (entry.corrects !== null) return refuse('not-possible-now', 'A correction has the contract of what it corrects.');
  if (await isFrozen(work, entryId)) return refuse('not-possible-now', 'What it came to was decided on: it stays as it was decided.');
  const found = await chosen(work, entry.client_id, choice);
  if (isRefusal(found)) return found;
  const set = { chosen_by_hand: choice.by === 'hand', chosen_contract_id: found.contractId };
  const changed = await changeRow(work, { table: 'time_entry', id: entryId, version, set });
  if (isRefusal(changed)) return changed;
  await work.tell('entry.contract-chosen', entryId, { by: choice.by, contract: found.contract });
  const undo = { by: entry.chosen_by_hand ? 'hand' : 'itself', contractId: entry.chosen_contract_id } as const;
  return { id: entryId, version: changed.version, undo };
}
