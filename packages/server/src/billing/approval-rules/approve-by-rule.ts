import { randomUUID } from 'node:crypto';
import { approvedBy, type ApprovalRule, type ChargeToApprove } from '@core/billing';
import { dateOf, type Id, money } from '@core/ground';
import { byJob, byRule } from '../../app/actor';
import type { App } from '../../app/app';
import type { Row } from '../../app/rows';
import { transact, type Work } from '../../app/work';
import { approveCharges } from '../charges/approve-all';
import { giveHeldBack } from '../charges/give-held-back';
import { lookAtCharges } from '../charges/look-at-charges';
import { readRules } from './approval-rules-routes';

/** A rule with the id of its client. */
type OwnedRule = ApprovalRule & { readonly clientId: Id<'client'> | null };

/** How many one transaction approves, so that nobody waits long for their rows. */
const AT_ONCE = 1000;

/** Job, each hour: what is held comes back on its day, what is odd is said anew, and what a rule approves is approved. */
export async function reviewCharges(app: App): Promise<void> {
  const now = () => app.clock.now();
  await transact(app, { now: now(), actor: byJob('charge review') }, async (work) => {
    await giveHeldBack(work);
    await lookAtCharges(work, 'all');
    return {};
  });
  const rules: OwnedRule[] = (await readRules(app.knex)).map((r) => ({ ...r, clientId: r.client_id, afterDays: r.after_days }));
  for (const rule of rules)
    for (let more = true; more;)
      await transact(app, { now: now(), actor: byRule({ id: rule.id, name: 'approval rule' }, 'job') }, async (work) => {
        more = (await approveByRule(work, rule, rules)) === AT_ONCE;
        return {};
      });
}

/** Approves what one rule approves now. @returns how many */
async function approveByRule(work: Work, rule: OwnedRule, rules: readonly OwnedRule[]): Promise<number> {
  const today = dateOf(work.now, work.book.house.zone);
  if (rule.afterDays === null) return 0;
  const candidates: Row<'charge'>[] = await work
    .tx('charge as ch')
    .where({ state: 'proposed', kind: rule.kind })
    .whereNull('held_until')
    .whereRaw(`oddities = '[]'`)
    // What a person took back waits for a person.
    .whereNotExists(work.tx('charge_decision as d').whereRaw('d.charge_id = ch.id').select('d.id'))
    .modify((q) => {
      if (rule.clientId !== null) return void q.where('ch.client_id', rule.clientId);
      const others = rules.flatMap((r) => (r.kind === rule.kind && r.clientId !== null ? [r.clientId] : []));
      return void q.whereRaw('ch.client_id <> all(?)', [others]);
    })
    .whereRaw('ch.on_date <= ?::date - ?::int', [today, rule.afterDays])
    .orderBy('ch.id')
    .limit(AT_ONCE)
    .forUpdate()
    .skipLocked()
    .select('ch.*');
  const approved = candidates.filter((c) => approvedBy(toApprove(c), { rules, today })?.id === rule.id);
  if (!approved.length) return 0;
  const id = randomUUID();
  await approveCharges(work, approved, { batchId: id });
  const net = money(
    approved.reduce((sum, c) => sum + c.net_minor, 0),
    work.book.house.currency,
  );
  await work.tell('charges.approved', id, { charges: approved.length, net, clientId: rule.clientId });
  return approved.length;
}

/** A candidate: nobody decided on it, and nobody holds it. */
function toApprove(c: Row<'charge'>): ChargeToApprove {
  return { clientId: c.client_id, kind: c.kind, on: c.on_date, oddities: c.oddities, wasDecidedOn: false, isHeld: c.held_until !== null };
}
