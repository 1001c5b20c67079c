import type { CategoryForm, CategoryWire } from '@core/desk';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at, type Db, countOf } from '../../app/database';
import type { Work } from '../../app/work';

type Done = Outcome<{ id: Id<'category'>; version: number }>;

/** The categories in use, parents before their children. */
export async function readCategories(db: Db): Promise<CategoryWire[]> {
  const rows = await db('category as g')
    .leftJoin('category as p', 'p.id', 'g.parent_id')
    .leftJoin('skill as s', 's.id', 'g.skill_id')
    .whereNull('g.archived_at')
    .orderByRaw('coalesce(p.position, g.position), coalesce(p.name, g.name), g.parent_id is not null, g.position, g.name')
    .select(
      'g.id',
      'g.version',
      'g.name',
      'g.parent_id',
      'g.skill_id',
      'p.name as parent',
      's.name as skill',
      db.raw(
        `(select count(*) from (select 1 from ticket t where t.category_id = g.id and t.status not in ('resolved','closed') limit 1000) few)::int as open`,
      ),
    );
  return rows.map((r) => ({
    id: r.id,
    version: r.version,
    name: r.name,
    parentId: r.parent_id,
    parent: r.parent,
    skillId: r.skill_id,
    skill: r.skill,
    openTickets: r.open,
  }));
}

async function whyNot(work: Work, form: CategoryForm, own: string | null): Promise<Outcome<never> | undefined> {
  const parent = form.parentId ? await work.tx('category').where({ id: form.parentId }).whereNull('archived_at').first('parent_id') : null;
  if (form.parentId && (!parent || form.parentId === own))
    return refuse('invalid', 'There is no such category.', { parentId: 'choose one of the list' });
  if (parent?.parent_id) return refuse('invalid', 'Categories have two levels.', { parentId: 'choose one of the first level' });
  const children = own && form.parentId ? await work.tx('category').where({ parent_id: own }).whereNull('archived_at').first('id') : null;
  if (children) return refuse('invalid', 'It has categories under it, so it stays on the first level.', { parentId: 'none' });
  const same = await work
    .tx('category')
    .whereRaw('lower(name) = lower(?)', [form.name])
    .where((q) => void (form.parentId ? q.where({ parent_id: form.parentId }) : q.whereNull('parent_id')))
    .whereNull('archived_at')
    .modify((q) => own && void q.whereNot({ id: own }))
    .first('id');
  return same ? refuse('invalid', 'There is one of that name already.', { name: 'another name' }) : undefined;
}

export async function addCategory(work: Work, form: CategoryForm): Promise<Done> {
  const barred = await whyNot(work, form, null);
  if (barred) return barred;
  const n = await countOf(work.tx('category'));
  const [row] = await work
    .tx('category')
    .insert({ name: form.name, parent_id: form.parentId, skill_id: form.skillId, position: n })
    .returning(['id', 'version']);
  await work.tell('category.added', row!.id, { name: form.name });
  return row!;
}

export async function editCategory(
  work: Work,
  { id, version, form }: { readonly id: Id<'category'>; readonly version: number; readonly form: CategoryForm },
): Promise<Done> {
  const barred = await whyNot(work, form, id);
  if (barred) return barred;
  const changed = await changeRow(work, {
    table: 'category',
    id,
    version,
    set: { name: form.name, parent_id: form.parentId, skill_id: form.skillId },
  });
  if (!isRefusal(changed)) await work.tell('category.changed', id, { name: form.name });
  return changed;
}

export async function archiveCategory(work: Work, id: Id<'category'>, version: number): Promise<Done> {
  const child = await work.tx('category').where({ parent_id: id }).whereNull('archived_at').first('name');
  if (child) return refuse('not-possible-now', `${child.name} stands under it; put that away first.`);
  const changed = await changeRow(work, { table: 'category', id, version, set: { archived_at: at(work.now) } });
  if (!isRefusal(changed)) await work.tell('category.put-away', id, {});
  return changed;
}
