import { cannedRoutes, type CannedForm } from '@core/desk';
import { type Id, type Outcome, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';

export function bindCanned(app: App) {
  return bindRoutes(app, cannedRoutes, {
    listCanned: async ({ db, actor }) => {
      const rows = await db('canned_reply').where({ person_id: actor.personId! }).orWhere({ shared: true }).orderBy('name').limit(500);
      return {
        replies: rows.map((r) => ({
          id: r.id,
          version: r.version,
          name: r.name,
          text: r.text,
          shared: r.shared,
          mine: r.person_id === actor.personId,
        })),
      };
    },
    addCanned: async ({ work, body, actor }) => {
      const taken = await nameTaken(work, body, null);
      if (taken) return taken;
      const [row] = await work
        .tx('canned_reply')
        .insert({ ...body, person_id: actor.personId })
        .returning(['id', 'version']);
      return row as { id: Id<'canned_reply'>; version: number };
    },
    editCanned: async ({ work, params, version, body }) => {
      const foreign = (await notMine(work, params.replyId)) ?? (await nameTaken(work, body, params.replyId));
      return foreign ?? changeRow(work, { table: 'canned_reply', id: params.replyId, version, set: { ...body } });
    },
    removeCanned: async ({ work, params }) => {
      const foreign = await notMine(work, params.replyId);
      return foreign ?? { removed: await work.tx('canned_reply').where({ id: params.replyId }).delete() };
    },
  });
}

async function notMine(work: Work, id: Id<'canned_reply'>): Promise<Outcome<never> | undefined> {
  const row = await work.tx('canned_reply').where({ id }).first('person_id');
  if (!row) return refuse('not-found', 'There is no such canned reply.');
  return row.person_id === work.actor.personId ? undefined : refuse('not-allowed', 'A canned reply is changed by the one who wrote it.');
}

async function nameTaken(work: Work, { name }: CannedForm, own: string | null): Promise<Outcome<never> | undefined> {
  const row = await work
    .tx('canned_reply')
    .where({ person_id: work.actor.personId! })
    .whereRaw('lower(name) = lower(?)', [name])
    .modify((q) => own && void q.whereNot({ id: own }))
    .first('id');
  return row ? refuse('invalid', 'You have one of that name already.', { name: 'another name' }) : undefined;
}
