import { type BlockForm, type GrantForm, sayUnits, USUAL_LINE } from '@core/contracts';
import { type Id, isRefusal, type LocalDate, type Outcome, parseLocalDate, type Refusal, refuse } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { addLine, endsOn } from './contract-lines';
import { unitsOf } from './typed-units';

export interface OfAllowance {
  readonly contractId: Id<'contract'>;
  readonly allowanceId: Id<'contract_allowance'>;
}

type Found = { readonly contract: Row<'contract'>; readonly allowance: Row<'contract_allowance'> };

/** An allowance with its contract; who changes either waits for the other. */
async function lockAllowance(work: Work, { contractId, allowanceId }: OfAllowance): Promise<Outcome<Found>> {
  const contract = await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().first();
  const allowance = await work.tx('contract_allowance').where({ id: allowanceId, contract_id: contractId }).first();
  return contract && allowance ? { contract, allowance } : refuse('not-found', 'There is no such allowance on this contract.');
}

/** Amends what periods are granted from a day on; those that begin before it keep what they had. */
export async function setGrant(work: Work, of: OfAllowance, { from: typed, grant }: GrantForm): Promise<Outcome<object>> {
  const found = await lockAllowance(work, of);
  if (isRefusal(found)) return found;
  const { contract, allowance } = found;
  if (allowance.each === 'once' || allowance.measure === 'unlimited')
    return refuse('not-possible-now', `${allowance.name} is not granted each period: there is nothing to amend from a day on.`);
  const from = parseLocalDate(typed);
  if (from <= contract.starts_on)
    return refuse('invalid', `The contract begins on ${contract.starts_on}: change the allowance itself.`, {
      from: `after ${contract.starts_on}`,
    });
  const units = unitsOf(work, allowance.measure, grant);
  if (isRefusal(units)) return units;
  await work
    .tx('contract_grant')
    .insert({ allowance_id: allowance.id, from_on: from, granted_units: units.units })
    .onConflict(['allowance_id', 'from_on'])
    .merge();
  const says = `${sayUnits(allowance.measure, units.units, work.book.house.currency)} each period`;
  await work.tell('contract.grant-set', of.contractId, { name: allowance.name, says, from });
  return {};
}

export async function takeGrantAway(work: Work, of: OfAllowance, typed: string): Promise<Outcome<object>> {
  const found = await lockAllowance(work, of);
  if (isRefusal(found)) return found;
  const { allowance } = found;
  const from = parseLocalDate(typed);
  const gone = await work.tx('contract_grant').where({ allowance_id: allowance.id, from_on: from }).delete();
  if (!gone) return refuse('not-found', `${allowance.name} is not amended from ${typed}.`, { from: 'the day of an amendment' });
  await work.tell('contract.grant-taken-away', of.contractId, { name: allowance.name, from });
  return {};
}

/** Sells a prepaid block: it can be drawn on from its first day, and a line that is billed once bills it. */
export async function addBlock(work: Work, of: OfAllowance, form: BlockForm): Promise<Outcome<{ id: Id<'contract_block'> }>> {
  const found = await lockAllowance(work, of);
  if (isRefusal(found)) return found;
  const { contract, allowance } = found;
  if (allowance.each !== 'once' || allowance.measure === 'unlimited')
    return refuse('not-possible-now', `${allowance.name} is granted each period: blocks are of what is granted once.`);
  const units = unitsOf(work, allowance.measure, form.grant);
  if (isRefusal(units)) return units;
  const startsOn = parseLocalDate(form.startsOn);
  if (startsOn < contract.starts_on || (contract.ends_on !== null && startsOn >= contract.ends_on))
    return refuse('invalid', 'The contract does not hold on that day.', { startsOn: `${contract.starts_on} or later, before its end` });
  const to = endsOn(form.startsOn, form.lastDay);
  if (isRefusal(to)) return to;
  const taken = await refuseTaken(work, { contract, allowance, startsOn });
  if (taken) return taken;
  const says = sayUnits(allowance.measure, units.units, work.book.house.currency);
  const line = await addLine(work, of.contractId, {
    ...USUAL_LINE,
    name: `${allowance.name}, ${says}`,
    price: form.price,
    frequency: 'once',
    proration: 'whole',
    startsOn: form.startsOn,
  });
  if (isRefusal(line)) return line;
  const [row] = await work
    .tx('contract_block')
    .insert({ allowance_id: allowance.id, line_id: line.id, granted_units: units.units, starts_on: startsOn, ends_on: to })
    .returning('id');
  await work.tell('contract.block-added', of.contractId, { name: allowance.name, says, from: startsOn });
  return row!;
}

/**
 * What was drawn names the first day of its lot, so no two of an allowance begin on one day. Asked under the lock of the
 * contract: a block whose line was taken away stands no more, and may come back.
 */
export async function refuseTaken(
  work: Work,
  {
    contract,
    allowance,
    startsOn,
  }: {
    readonly contract: Row<'contract', 'starts_on'>;
    readonly allowance: Row<'contract_allowance', 'id' | 'granted_units'>;
    readonly startsOn: LocalDate;
  },
): Promise<Refusal | undefined> {
  const sold = await work
    .tx('contract_block as b')
    .join('contract_line as l', 'l.id', 'b.line_id')
    .where({ 'b.allowance_id': allowance.id, 'b.starts_on': startsOn })
    .whereNull('l.taken_away_at')
    .first('b.id');
  const isTaken = sold !== undefined || (allowance.granted_units > 0 && startsOn === contract.starts_on);
  return isTaken ? refuse('already-used', `Something is granted from ${startsOn} already.`, { startsOn: 'another day' }) : undefined;
}
