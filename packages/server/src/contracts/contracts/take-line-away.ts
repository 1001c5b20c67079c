import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import { changeRow } from '../../app/change-row';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { refuseTaken } from './contract-grants';
import { lockLine, type OfContract } from './contract-lines';

type Seen = OfContract & { readonly version: number };
type Changed = Outcome<{ id: string; version: number }>;

/** A line that was added by mistake is as if it had never been; who knows of it what was decided on refuses. */
export async function takeLineAway(work: Work, of: Seen): Promise<Changed> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  const changed = await changeRow(work, {
    table: 'contract_line',
    id: of.lineId,
    version: of.version,
    set: { taken_away_at: at(work.now) },
  });
  if (!isRefusal(changed)) await work.tell('contract.line-taken-away', of.contractId, { name: line.name, lineId: of.lineId });
  return changed;
}

/** Gives a line back that was taken away, with its block, if nothing else is granted from that day meanwhile. */
export async function giveLineBack(work: Work, { contractId, lineId, version }: Seen): Promise<Changed> {
  const line = await work
    .tx('contract_line')
    .where({ id: lineId, contract_id: contractId })
    .whereNotNull('taken_away_at')
    .forUpdate()
    .first('name');
  // After the line, as by all who change one; who sells a block waits for it.
  const contract = line && (await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().first('starts_on'));
  if (!contract) return refuse('not-found', 'No such line of this contract was taken away.');
  const block = await readBlock(work, lineId);
  const taken = block && (await refuseTaken(work, { contract, allowance: block, startsOn: block.starts_on }));
  if (taken) return taken;
  const changed = await changeRow(work, { table: 'contract_line', id: lineId, version, set: { taken_away_at: null } });
  if (!isRefusal(changed)) await work.tell('contract.line-given-back', contractId, { name: line.name });
  return changed;
}

/** The block that a line bills, with the allowance that it is of. */
async function readBlock(
  work: Work,
  lineId: Id<'contract_line'>,
): Promise<(Row<'contract_allowance', 'id' | 'granted_units'> & Row<'contract_block', 'starts_on'>) | undefined> {
  return work
    .tx('contract_block as b')
    .join('contract_allowance as a', 'a.id', 'b.allowance_id')
    .where({ 'b.line_id': lineId })
    .first('a.id', 'a.granted_units', 'b.starts_on');
}
