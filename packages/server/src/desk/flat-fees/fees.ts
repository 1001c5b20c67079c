import type { FeeForm, FeeWire } from '@core/desk';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at, type Db, countOf } from '../../app/database';
import type { Work } from '../../app/work';
import { netPriceOf } from '../../goods';
type Done = Outcome<{ id: Id<'flat_fee'>; version: number }>;

/** The flat fees in use, with what each costs at the catalogue's price. */
export async function readFees(db: Db): Promise<FeeWire[]> {
  const rows = await db('flat_fee as f')
    .join('catalogue_item as i', 'i.id', 'f.item_id')
    .whereNull('f.archived_at')
    .orderBy(['f.position', 'f.name'])
    .select('f.*', 'i.name as item', 'i.price', 'i.basis', 'i.currency', 'i.tax_category', 'i.tax_percent');
  return rows.map((f) => ({
    id: f.id,
    version: f.version,
    name: f.name,
    itemId: f.item_id,
    asksClient: f.asks_client,
    categoryId: f.category_id,
    words: f.words,
    forNewPerson: f.for_new_person,
    forNewAsset: f.for_new_asset,
    item: f.item,
    price: netPriceOf(f).one,
  }));
}

function columns(form: FeeForm) {
  return {
    name: form.name,
    item_id: form.itemId,
    asks_client: form.asksClient,
    category_id: form.categoryId,
    words: form.words,
    for_new_person: form.forNewPerson,
    for_new_asset: form.forNewAsset,
  };
}

async function whyNot(work: Work, form: FeeForm): Promise<Outcome<never> | undefined> {
  const item = await work.tx('catalogue_item').where({ id: form.itemId }).whereNull('archived_at').first('id');
  if (!item) return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
  const category = form.categoryId ? await work.tx('category').where({ id: form.categoryId }).first('id') : true;
  return category ? undefined : refuse('invalid', 'There is no such category.', { categoryId: 'choose one of the categories' });
}

export async function addFee(work: Work, form: FeeForm): Promise<Done> {
  const barred = await whyNot(work, form);
  if (barred) return barred;
  const n = await countOf(work.tx('flat_fee'));
  const [row] = await work
    .tx('flat_fee')
    .insert({ ...columns(form), position: n })
    .returning(['id', 'version']);
  await work.tell('flat-fee.added', row!.id, { name: form.name });
  return row!;
}

export async function editFee(
  work: Work,
  { id, version, form }: { readonly id: Id<'flat_fee'>; readonly version: number; readonly form: FeeForm },
): Promise<Done> {
  const barred = await whyNot(work, form);
  if (barred) return barred;
  const changed = await changeRow(work, { table: 'flat_fee', id, version, set: columns(form) });
  if (!isRefusal(changed)) await work.tell('flat-fee.changed', id, { name: form.name });
  return changed;
}

export async function archiveFee(work: Work, id: Id<'flat_fee'>, version: number): Promise<Done> {
  const changed = await changeRow(work, { table: 'flat_fee', id, version, set: { archived_at: at(work.now) } });
  if (!isRefusal(changed)) await work.tell('flat-fee.put-away', id, {});
  return changed;
}
