import { draftRecurring, taxOfCharge } from '@core/billing';
import type { DuePeriod } from '@core/contracts';
import { type Id, type LocalDate, type Money, type Outcome, plusDays, refuse, sumMoney } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { storeCharges } from '../charges/store-charges';
import { type DueLine, dueOfContract, periodStart } from './due-of-contract';

/**
 * Proposes what is due of a contract by a day. What is proposed already follows the facts; what was decided on stays, and
 * what it differs by is proposed beside it. Two at once wait for each other.
 */
export async function proposeRecurring(
  work: Work,
  { contractId, on }: { readonly contractId: Id<'contract'>; readonly on: LocalDate },
): Promise<Outcome<{ proposed: number; net: Money }>> {
  const contract = await work.tx('contract').where({ id: contractId }).forUpdate().first();
  if (!contract) return refuse('not-found', 'There is no such contract.');
  if (contract.agreed_at === null) return refuse('not-possible-now', 'It is a draft: agree it first.');
  const client = (await work.tx('client').where({ id: contract.client_id }).first('tax_exempt'))!;
  const tax = taxOfCharge(work.book.division(contract.division_id).labourTax, client.tax_exempt);
  const nets: Money[] = [];
  for (const due of await dueOfContract(work.tx, work.book, { contractId, at: on })) {
    const { line } = due;
    const standing: Row<'charge', 'period'>[] = await work
      .tx('charge')
      .where({ contract_line_id: line.id, cause: 'recurring', state: 'proposed' })
      .select('period');
    const periods = new Map(due.due.map((d) => [d.period.from, d]));
    // What is proposed and not due any more goes; what a person still has to decide on is never twice there.
    const starts = new Set([...standing.map((c) => periodStart(c.period!)), ...periods.keys()]);
    for (const from of [...starts].sort()) {
      const found = periods.get(from);
      const stored = standing.find((c) => periodStart(c.period!) === from)?.period;
      const period = found ? `[${found.period.from},${found.period.to})` : stored!;
      const source = { contract_line_id: line.id, contract_id: contractId, period, cause: 'recurring' } as const;
      const owner = {
        divisionId: contract.division_id,
        clientId: contract.client_id,
        ticketId: null,
        personId: null,
        on: found ? dayOf(due, found) : on,
        tax,
      };
      const wanted = found ? [{ draft: draftRecurring(found, { line: line.name, part: freePart(due, from) }), owner }] : [];
      await storeCharges(work, source, wanted);
      if (found) nets.push(found.amount);
    }
  }
  return { proposed: nets.length, net: sumMoney(nets, work.book.house.currency) };
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
