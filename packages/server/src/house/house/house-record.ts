import { isRefusal, refuse, type Outcome } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

type Done = Outcome<{ id: string; version: number }>;
type Row = Readonly<Record<string, unknown>> & { readonly name: string };

/** A kind of record that Setup keeps: named, changed by version, put away but never deleted, since tickets name it. */
export interface HouseRecord {
  readonly table: string;
  /** What it is called in the story and in errors: "field". */
  readonly word: string;
  /** Among which of the table its name is the only one of its kind; among all where nothing is said. */
  readonly among?: Readonly<Record<string, string>>;
}

async function nameTaken(
  work: Work,
  { record: { table, word, among = {} }, name, own }: { readonly record: HouseRecord; readonly name: string; readonly own: string | null },
): Promise<Outcome<never> | undefined> {
  const taken = await work
    .tx(table)
    .where(among)
    .whereRaw('lower(name) = lower(?) and archived_at is null', [name])
    .modify((q) => own && void q.whereNot({ id: own }))
    .first('id');
  return taken ? refuse('invalid', `There is a ${word} called ${name} already.`, { name: 'another name' }) : undefined;
}

export async function addHouseRecord(work: Work, record: HouseRecord, row: Row): Promise<Done> {
  const taken = await nameTaken(work, { record, name: row.name, own: null });
  if (taken) return taken;
  const [added] = await work.tx(record.table).insert(row).returning(['id', 'version']);
  await work.tell('setup.added', added.id, { record: record.word, name: row.name });
  return added as { id: string; version: number };
}

export async function editHouseRecord(
  work: Work,
  {
    record,
    id,
    version,
    row,
  }: { readonly record: HouseRecord; readonly id: string; readonly version: number | undefined; readonly row: Row },
): Promise<Done> {
  const taken = await nameTaken(work, { record, name: row.name, own: id });
  if (taken) return taken;
  const changed = await changeRow(work, { table: record.table, id, version, set: row });
  if (!isRefusal(changed)) await work.tell('setup.changed', id, { record: record.word, name: row.name });
  return changed;
}

export async function archiveHouseRecord(
  work: Work,
  { record, id, version }: { readonly record: HouseRecord; readonly id: string; readonly version: number | undefined },
): Promise<Done> {
  const changed = await changeRow(work, { table: record.table, id, version, set: { archived_at: at(work.now) } });
  if (!isRefusal(changed)) await work.tell('setup.put-away', id, { record: record.word });
  return changed;
}
