import { draftRecurring, namesOfPeriod, taxOfCharge } from '@core/billing';
import type { ContractEvents, DuePeriod } from '@core/contracts';
import { type Id, type LocalDate, type Money, type Outcome, plusDays, refuse, sumMoney } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { lookAtCharges } from '../charges/look-at-charges';
import { dropCharges, storeCharges } from '../charges/store-charges';
import { type DueLine, dueOfContract, periodEnd, periodStart } from './due-of-contract';

/**
 * Proposes what is due of a contract by a day. What is proposed already follows the facts; what was decided on stays, and
 * what it differs by is proposed beside it. Two at once wait for each other.
 */
export async function proposeRecurring(
  work: Work,
  { contractId, on }: { readonly contractId: Id<'contract'>; readonly on: LocalDate },
): Promise<Outcome<{ proposed: number; net: Money }>> {
  const contract = await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().first();
  if (!contract) return refuse('not-found', 'There is no such contract.');
  if (contract.agreed_at === null) return refuse('not-possible-now', 'It is a draft: agree it first.');
  const nets = await proposeDue(work, contract, on);
  if (nets.length) await work.tell('contract.recurring-proposed', contractId, { on, charges: nets.length });
  return { proposed: nets.length, net: sumMoney(nets, work.book.house.currency) };
}

/** Proposes what is due of an agreed contract, whose row is locked, by a day. @returns what each comes to */
export function proposeDue(work: Work, contract: Row<'contract'>, on: LocalDate): Promise<Money[]> {
  return bring(work, contract, on);
}

/** What waits in charge review is what it is worth now; nothing is proposed for other periods. */
export async function followLines(work: Work, contractId: Id<'contract'>): Promise<Outcome<unknown>> {
  const contract = (await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().first())!;
  await bring(work, contract, null);
  return {};
}

/** What waits of a line that is taken away goes; what was decided on of it keeps the line. */
export async function dropLine(
  work: Work,
  _id: string,
  { name, lineId }: ContractEvents['contract.line-taken-away'],
): Promise<Outcome<unknown>> {
  const charges: Row<'charge', 'id' | 'state'>[] = await work
    .tx('charge')
    .where({ contract_line_id: lineId })
    .forUpdate()
    .select('id', 'state');
  if (charges.some((c) => c.state !== 'proposed'))
    return refuse('not-possible-now', `Something of ${name} was billed or decided on: end it instead.`);
  await dropCharges(
    work,
    charges.map((c) => c.id),
  );
  return {};
}

type Standing = Row<'charge', 'period' | 'contract_line_id'>;

function standingOf(work: Work, contractId: Id<'contract'>): Promise<Standing[]> {
  return work
    .tx('charge')
    .where({ contract_id: contractId, cause: 'recurring', state: 'proposed' })
    .whereNull('settles_minor')
    .select('period', 'contract_line_id') as unknown as Promise<Standing[]>;
}

/**
 * Brings the proposed charges of a contract's lines to what they are worth now; those of periods that are due by a day are
 * added. What was proposed for later periods stays. @param by null adds none
 */
async function bring(work: Work, contract: Row<'contract'>, by: LocalDate | null): Promise<Money[]> {
  const standing = await standingOf(work, contract.id);
  const reach = [...standing.map((c) => periodEnd(c.period!)), ...(by === null ? [] : [by])].sort().at(-1);
  if (reach === undefined) return [];
  const client = (await work.tx('client').where({ id: contract.client_id }).first('tax_exempt'))!;
  const tax = taxOfCharge(work.book.division(contract.division_id).labourTax, client.tax_exempt);
  const dueAt = (at: LocalDate) => dueOfContract(work.tx, work.book, { contractId: contract.id, at });
  const worth = await dueAt(reach);
  const added = by === null ? [] : by === reach ? worth : await dueAt(by);
  const nets: Money[] = [];
  for (const [n, due] of worth.entries()) {
    const { line } = due;
    const isAdded = new Map(added[n]?.due.map((d) => [d.period.from, d]));
    const periods = new Map([...isAdded, ...due.due.map((d) => [d.period.from, d] as const)]);
    const mine = new Map(standing.filter((c) => c.contract_line_id === line.id).map((c) => [periodStart(c.period!), c.period!]));
    // What is proposed and not due any more goes; what a person still has to decide on is never twice there.
    for (const from of [...new Set([...mine.keys(), ...isAdded.keys()])].sort()) {
      const found = periods.get(from);
      const period = mine.get(from) ?? `[${found!.period.from},${found!.period.to})`;
      const source = { contract_line_id: line.id, contract_id: contract.id, period, cause: 'recurring' } as const;
      const owner = {
        divisionId: contract.division_id,
        clientId: contract.client_id,
        ticketId: null,
        personId: null,
        on: found ? dayOf(due, found) : reach,
        tax,
      };
      const wanted = found
        ? [
            {
              draft: draftRecurring(found, {
                line: line.name,
                part: freePart(due, from),
                details: line.namesOnInvoice ? namesOfPeriod(line, found) : null,
              }),
              owner,
            },
          ]
        : [];
      await storeCharges(work, source, wanted);
      if (found && isAdded.has(from)) nets.push(found.amount);
    }
  }
  await lookAtCharges(work, { contractId: contract.id });
  return nets;
}

/** In advance on the period's first day, in arrears on its last: the same on whatever day it is proposed. */
function dayOf({ line }: DueLine, { period }: DuePeriod): LocalDate {
  return line.paid === 'in advance' ? period.from : plusDays(period.to, -1);
}

/** The first part that no decision stands on. */
function freePart({ decided }: DueLine, from: LocalDate): number {
  const taken = decided.filter((c) => periodStart(c.period!) === from).map((c) => c.part);
  let part = 0;
  while (taken.includes(part)) part++;
  return part;
}
