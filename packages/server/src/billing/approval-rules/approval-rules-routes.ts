import { approvalRuleRoutes, type ApprovalRuleForm } from '@core/billing';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { HOUSE_STORY } from '../../house';
import { lookAtCharges } from '../charges/look-at-charges';

export type RuleRow = Row<'approval_rule'> & { readonly client: string | null };

/** The rules that hold, the house's first. */
export function readRules(db: Db): Promise<RuleRow[]> {
  return db('approval_rule as r')
    .leftJoin('client as c', 'c.id', 'r.client_id')
    .whereNull('r.archived_at')
    .orderByRaw('c.name nulls first, r.kind')
    .select('r.*', 'c.name as client') as unknown as Promise<RuleRow[]>;
}

export function bindApprovalRules(app: App) {
  return bindRoutes(app, approvalRuleRoutes, {
    listApprovalRules: async ({ db }) => {
      const settings: Row<'charge_review_settings'> = (await db('charge_review_settings').first())!;
      return {
        version: settings.version,
        oldDays: settings.old_days,
        ratePercent: settings.rate_percent,
        rules: (await readRules(db)).map((r) => ({
          id: r.id,
          version: r.version,
          clientId: r.client_id,
          client: r.client,
          kind: r.kind,
          afterDays: r.after_days,
        })),
      };
    },
    setChargeReview: async ({ work, version, body }) => {
      const set = { old_days: body.oldDays, rate_percent: body.ratePercent };
      const changed = await changeRow(work, { table: 'charge_review_settings', id: '1', version, set });
      if (isRefusal(changed)) return changed;
      await work.tell('setup.charge-review-set', HOUSE_STORY, { ...body });
      await lookAtCharges(work, 'all');
      return { version: changed.version };
    },
    setApprovalRule: ({ work, body }) => setRule(work, body),
    takeApprovalRuleAway: ({ work, params }) => putAway(work, params.approvalRuleId),
    giveApprovalRuleBack: ({ work, params }) => giveBack(work, params.approvalRuleId),
  });
}

async function setRule(work: Work, form: ApprovalRuleForm): Promise<Outcome<{ id: string; version: number }>> {
  const client =
    form.clientId === null ? null : await work.tx('client').where({ id: form.clientId }).whereNull('archived_at').first('name');
  if (client === undefined) return refuse('invalid', 'There is no such client.', { clientId: 'choose one' });
  const { rows } = await work.tx.raw(
    `insert into approval_rule (client_id, kind, after_days) values (?, ?, ?)
     on conflict (kind, coalesce(client_id, '00000000-0000-0000-0000-000000000000')) where archived_at is null
     do update set after_days = excluded.after_days, version = approval_rule.version + 1 returning id, version`,
    [form.clientId, form.kind, form.afterDays],
  );
  await work.tell('setup.approval-rule-set', HOUSE_STORY, { kind: form.kind, client: client?.name ?? null, afterDays: form.afterDays });
  return rows[0];
}

async function putAway(work: Work, id: Id<'approval_rule'>): Promise<Outcome<Record<string, never>>> {
  const rule = (await readRules(work.tx)).find((r) => r.id === id);
  if (!rule) return refuse('not-found', 'There is no such rule.');
  await work
    .tx('approval_rule')
    .where({ id })
    .update({ archived_at: at(work.now) });
  await work.tell('setup.approval-rule-taken-away', HOUSE_STORY, { kind: rule.kind, client: rule.client });
  return {};
}

async function giveBack(work: Work, id: Id<'approval_rule'>): Promise<Outcome<Record<string, never>>> {
  const rule = await work.tx('approval_rule').where({ id }).whereNotNull('archived_at').forUpdate().first();
  if (!rule) return refuse('not-found', 'There is no such rule that was taken away.');
  const stands = (await readRules(work.tx)).some((r) => r.kind === rule.kind && r.client_id === rule.client_id);
  if (stands) return refuse('not-possible-now', 'Another rule for these charges was set meanwhile.');
  await work.tx('approval_rule').where({ id }).update({ archived_at: null });
  const back = (await readRules(work.tx)).find((r) => r.id === id)!;
  await work.tell('setup.approval-rule-given-back', HOUSE_STORY, { kind: back.kind, client: back.client });
  return {};
}
