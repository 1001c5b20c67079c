import { type Kind, kindRoutes, type OwnKindForm } from '@core/desk';
import { type Id, type Outcome, refuse } from '@core/ground';
import { countOf } from '../../app/database';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
const KIND = { table: 'own_kind', word: 'kind' };
const columnsOf = (form: OwnKindForm) => ({ name: form.name, stands_for: form.standsFor });

export function bindKinds(app: App) {
  return bindRoutes(app, kindRoutes, {
    listOwnKinds: async ({ db }) => {
      const rows = await db('own_kind').whereNull('archived_at').orderByRaw('lower(name)');
      return { kinds: rows.map((k) => ({ id: k.id, version: k.version, name: k.name, standsFor: k.stands_for })) };
    },
    addOwnKind: ({ work, body }) => addHouseRecord(work, KIND, columnsOf(body)),
    editOwnKind: async ({ work, params, version, body }) =>
      (await inUse(work, params.ownKindId, body)) ??
      editHouseRecord(work, { record: KIND, id: params.ownKindId, version, row: columnsOf(body) }),
    archiveOwnKind: ({ work, params, version }) => archiveHouseRecord(work, { record: KIND, id: params.ownKindId, version }),
  });
}

/** What a kind stands for never changes under tickets that have it: their checks and billing would. */
async function inUse(work: Work, id: Id<'own_kind'>, form: OwnKindForm): Promise<Outcome<never> | undefined> {
  const was = await work.tx('own_kind').where({ id }).first('stands_for', 'name');
  if (!was || was.stands_for === form.standsFor) return undefined;
  const n = await countOf(work.tx('ticket').where({ own_kind_id: id }));
  return n
    ? refuse('not-possible-now', `${n} tickets are ${was.name}. Put it away and add another.`, { standsFor: was.stands_for })
    : undefined;
}

/** The kind under the house's own name that was asked for; it must stand for the kind asked for. */
export async function ownKindOf(
  work: Work,
  id: Id<'own_kind'> | null,
  kind: Kind,
): Promise<Outcome<{ id: Id<'own_kind'>; name: string } | undefined>> {
  if (!id) return undefined;
  const row = await work.tx('own_kind').where({ id }).whereNull('archived_at').first('name', 'stands_for');
  if (!row) return refuse('invalid', 'There is no such kind.', { ownKindId: 'choose one of the kinds' });
  if (row.stands_for !== kind)
    return refuse('invalid', `${row.name} stands for ${row.stands_for}, not ${kind}.`, { ownKindId: `one that stands for ${kind}` });
  return { id, name: row.name };
}
