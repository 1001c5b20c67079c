import { chooseMailRule, mailRuleRoutes, type MailRuleForm } from '@core/desk';
import { formatInstant, isRefusal, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes, prepared } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { at, wireAt, countOf } from '../../app/database';
import type { Row, Rows } from '../../app/rows';
import { keysetPage } from '../../app/keyset-page';
import type { Work } from '../../app/work';
import { keepFiles } from '../messages/keep-files';
import { openAside } from './open-aside';

const MOST_RULES = 200;
/** So many of the latest mails a rule is tried on. */
const TRIED = 300;
const SHOWN = 20;
const NAMES = ['name', 'sender', 'subject', 'header', 'does', 'reason', 'kind', 'impact', 'urgency', 'line'] as const;

const columns = (form: MailRuleForm) => ({
  ...Object.fromEntries(NAMES.map((name) => [name, form[name]])),
  header_holds: form.headerHolds,
  category_id: form.categoryId,
  desk_id: form.deskId,
  client_id: form.clientId,
  asset_id: form.assetId,
});

async function refuseWrongAsset(work: Work, form: MailRuleForm) {
  if (!form.assetId) return undefined;
  const asset = await work.tx('asset').where({ id: form.assetId }).first('client_id');
  return asset && asset.client_id === form.clientId
    ? undefined
    : refuse('invalid', 'The asset is of another client.', { assetId: 'an asset of the client named here' });
}

/** Mail put aside, with its rule, the ticket that was made of it after all, and who ended it. */
type AsideShown = Row<'mail_aside'> & {
  readonly rule: string | null;
  readonly ticket_number: number | null;
  readonly ended_by_name: string | null;
};

export function bindMailRules(app: App) {
  return bindRoutes(app, mailRuleRoutes, {
    listMailRules: async ({ db }) => {
      const rows: (Row<'mail_rule'> & { readonly client: Rows['client']['name'] | null; readonly asset: Rows['asset']['name'] | null })[] =
        await db('mail_rule as r')
          .leftJoin('client as c', 'c.id', 'r.client_id')
          .leftJoin('asset as a', 'a.id', 'r.asset_id')
          .whereNull('r.archived_at')
          .orderBy(['r.position', 'r.id'])
          .select('r.*', 'c.name as client', 'a.name as asset');
      return {
        rules: rows.map((r) => ({
          id: r.id,
          version: r.version,
          position: r.position,
          name: r.name,
          sender: r.sender,
          subject: r.subject,
          header: r.header,
          headerHolds: r.header_holds,
          does: r.does,
          reason: r.reason,
          kind: r.kind,
          impact: r.impact,
          urgency: r.urgency,
          line: r.line,
          categoryId: r.category_id,
          deskId: r.desk_id,
          clientId: r.client_id,
          assetId: r.asset_id,
          client: r.client,
          asset: r.asset,
        })),
      };
    },
    addMailRule: async ({ work, body }) => {
      const wrong = await refuseWrongAsset(work, body);
      if (wrong) return wrong;
      const standing = work.tx('mail_rule').whereNull('archived_at');
      if ((await countOf(standing.clone())) >= MOST_RULES)
        return refuse('not-possible-now', `There are ${MOST_RULES} rules; take one off first.`);
      const last = await standing.clone().orderBy('position', 'desc').first('position');
      const [row] = await work
        .tx('mail_rule')
        .insert({ ...columns(body), position: (last?.position ?? 0) + 1 })
        .returning(['id', 'version']);
      await work.tell('mail-rule.added', row!.id, { name: body.name });
      return row!;
    },
    editMailRule: async ({ work, params, body, version }) => {
      const wrong = await refuseWrongAsset(work, body);
      if (wrong) return wrong;
      const changed = await changeRow(work, { table: 'mail_rule', id: params.mailRuleId, version, set: columns(body) });
      if (!isRefusal(changed)) await work.tell('mail-rule.changed', params.mailRuleId, { name: body.name });
      return changed;
    },
    moveMailRule: async ({ work, params, body }) => {
      const rules = await work.tx('mail_rule').whereNull('archived_at').orderBy(['position', 'id']).forUpdate().select('id', 'name');
      const moved = rules.find((rule) => rule.id === params.mailRuleId);
      if (!moved) return refuse('not-found', 'There is no such rule.');
      const rest = rules.filter((rule) => rule !== moved);
      rest.splice(body.position - 1, 0, moved);
      for (const [n, { id }] of rest.entries())
        await work
          .tx('mail_rule')
          .where({ id })
          .update({ position: n + 1 });
      const position = rest.indexOf(moved) + 1;
      await work.tell('mail-rule.moved', params.mailRuleId, { name: moved.name, position });
      return { position };
    },
    archiveMailRule: async ({ work, params, now }) => {
      const [gone] = await work
        .tx('mail_rule')
        .where({ id: params.mailRuleId })
        .whereNull('archived_at')
        .update({ archived_at: at(now) })
        .returning('name');
      if (!gone) return refuse('not-found', 'There is no such rule.');
      await work.tell('mail-rule.put-away', params.mailRuleId, { name: gone.name });
      return { removed: true };
    },
    tryMailRule: async ({ db, body }) => {
      const rows: Row<'mail_source', 'received_at' | 'sender' | 'subject' | 'headers'>[] = await db('mail_source')
        .whereNotNull('sender')
        .orderBy('received_at', 'desc')
        .limit(TRIED)
        .select('received_at', 'sender', 'subject', 'headers');
      const taken = rows.filter((m) => chooseMailRule([body], { sender: m.sender!, subject: m.subject ?? '', headers: m.headers }));
      return {
        read: rows.length,
        takes: taken.length,
        taken: taken.slice(0, SHOWN).map((m) => ({ at: formatInstant(m.received_at), sender: m.sender!, subject: m.subject || null })),
      };
    },
    listAside: async ({ db, query }) => {
      const page = await keysetPage<AsideShown>(
        db,
        {
          matching: () => db('mail_aside as a').modify((q) => query.state === 'waiting' && void q.whereNull('a.ended_at')),
          id: 'a.source_id',
          sorts: { at: { by: 'a.at', type: 'timestamptz' } },
          select: (q) =>
            q
              .leftJoin('mail_rule as r', 'r.id', 'a.rule_id')
              .leftJoin('ticket as t', 't.id', 'a.ticket_id')
              .leftJoin('person as p', 'p.id', 'a.ended_by')
              .select('a.*', 'r.name as rule', 't.number as ticket_number', 'p.name as ended_by_name'),
        },
        query,
      );
      if (isRefusal(page)) return page;
      return {
        ...page,
        rows: page.rows.map((a) => ({
          id: a.source_id,
          at: formatInstant(a.at),
          sender: a.sender,
          subject: a.subject || null,
          reason: a.reason,
          rule: a.rule,
          ticket: a.ticket_id ? { id: a.ticket_id, number: a.ticket_number! } : null,
          endedAt: wireAt(a.ended_at),
          endedBy: a.ended_by_name,
        })),
      };
    },
    countAside: async ({ db }) => {
      return { waiting: await countOf(db('mail_aside').whereNull('ended_at')) };
    },
    getAsideSource: async ({ db, params }) => {
      const row = await db('mail_aside as a')
        .join('mail_source as s', 's.id', 'a.source_id')
        .where('a.source_id', params.asideId)
        .first('s.raw');
      if (!row) return refuse('not-found', 'There is no such mail.');
      return { bytes: row.raw, name: 'mail.eml', mediaType: 'message/rfc822' };
    },
    openAside: prepared(mailRuleRoutes.openAside)(
      async ({ db, params }) => {
        const row = await db('mail_source').where({ id: params.asideId }).first('raw', 'envelope_from');
        if (!row) return refuse('not-found', 'There is no such mail.');
        const mail = await app.mails.read(row.raw);
        return { mail, files: await keepFiles(app, mail.files), from: row.envelope_from as string };
      },
      ({ work, params }, given) => openAside(app, work, { asideId: params.asideId, given }),
    ),
    endAside: async ({ work, params, actor, now }) => {
      const [ended] = await work
        .tx('mail_aside')
        .where({ source_id: params.asideId })
        .whereNull('ended_at')
        .update({ ended_at: at(now), ended_by: actor.personId })
        .returning('source_id');
      if (!ended) return refuse('not-possible-now', 'There is no such mail that still waits to be looked at.');
      await work.emit('mail-aside', params.asideId);
      return { ended: true };
    },
  });
}
