import { randomUUID } from 'node:crypto';
import type { ApproveAllForm } from '@core/billing';
import { formatMoney, money, type Money, type Outcome, plural, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { IS_ODD } from './charges-read-model';
import { whatItWas } from './decide-charge';
import { tellCharges } from './tell-charges';

/**
 * Approves all charges that wait for a decision, over all rows, or none: where they are not what was seen, nothing is
 * approved.
 */
export async function approveAll(work: Work, form: ApproveAllForm): Promise<Outcome<{ id: string; charges: number; net: Money }>> {
  const { currency } = work.book.house;
  const charges: Row<'charge'>[] = await work
    .tx('charge as ch')
    .where({ state: 'proposed' })
    .whereNull('held_until')
    .modify((q) => form.clientId && void q.where({ client_id: form.clientId }))
    .modify((q) => !form.odd && void q.whereRaw(`not ${IS_ODD}`))
    .orderBy('id')
    .forUpdate()
    .select('ch.*');
  const net = money(
    charges.reduce((sum, c) => sum + c.net_minor, 0),
    currency,
  );
  if (charges.length !== form.charges || net.minor !== form.netMinor)
    return refuse(
      'changed-meanwhile',
      `These are not what you saw: now ${plural(charges.length, 'charge')} over ${formatMoney(net)} ${charges.length === 1 ? 'waits' : 'wait'}. Look again.`,
    );
  const id = randomUUID();
  await approveCharges(work, charges, { batchId: id });
  await work.tell('charges.approved', id, { charges: charges.length, net, clientId: form.clientId });
  return { id, charges: charges.length, net };
}

/** Approves charges as one decision, by the id under which it is kept. */
export async function approveCharges(
  work: Work,
  charges: readonly Row<'charge'>[],
  { batchId }: { readonly batchId: string },
): Promise<void> {
  await setState(work, charges, 'approved');
  await keepDecisions(work, charges, { decision: 'approve', batchId });
  await tellCharges(work, charges);
}

/** Takes back all that was approved at once, or nothing where some of it was decided on or billed since. */
export async function undoApproval(work: Work, approvalId: string): Promise<Outcome<{ id: string; charges: number }>> {
  const charges: Row<'charge'>[] = await work
    .tx('charge')
    .whereIn('id', work.tx('charge_decision').where({ batch_id: approvalId, decision: 'approve' }).select('charge_id'))
    .orderBy('id')
    .forUpdate();
  if (!charges.length) return refuse('not-found', 'There is no such approval.');
  const later = await work
    .tx('charge_decision as d')
    .where({ 'd.batch_id': approvalId })
    .whereExists(work.tx('charge_decision as l').whereRaw('l.charge_id = d.charge_id and l.id > d.id').select('l.id'))
    .count('* as n')
    .first();
  const billed = charges.filter((c) => c.billed_minor !== null).length;
  const others = Number(later?.n ?? 0);
  if (billed || others)
    return refuse(
      'not-possible-now',
      `Nothing was taken back: of ${plural(charges.length, 'charge')}, ${[
        billed ? `${billed} on a document already` : '',
        others ? `${others} decided on again` : '',
      ]
        .filter(Boolean)
        .join(' and ')}.`,
    );
  await setState(work, charges, 'proposed');
  await keepDecisions(work, charges, { decision: 'reopen', batchId: approvalId });
  await work.tell('charges.reopened', approvalId, { charges: charges.length });
  await tellCharges(work, charges);
  return { id: approvalId, charges: charges.length };
}

async function setState(work: Work, charges: readonly Row<'charge', 'id'>[], state: 'approved' | 'proposed'): Promise<void> {
  // One list, as a statement takes no more than 65,535 values.
  const ids = charges.map((c) => c.id);
  await work
    .tx('charge')
    .whereRaw('id = any(?)', [ids])
    .update({ state, version: work.tx.raw('version + 1') });
}

/** Rows of one insert, well under what one statement takes. */
const AT_ONCE = 1000;

async function keepDecisions(
  work: Work,
  charges: readonly Row<'charge'>[],
  { decision, batchId }: { readonly decision: 'approve' | 'reopen'; readonly batchId: string },
): Promise<void> {
  const rows = charges.map((charge) => ({
    charge_id: charge.id,
    at: at(work.now),
    ...whoColumns(work.actor),
    decision,
    batch_id: batchId,
    was: whatItWas(charge),
  }));
  await work.tx.batchInsert('charge_decision', rows, AT_ONCE);
}
