import { type ConditionFacts, type FactValue, type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import {
  type FieldMoment,
  type FieldRecord,
  type FieldValues,
  isRequired,
  isShown,
  missingFields,
  type OwnField,
  readFieldValue,
  type ShownFieldWire,
} from '@core/desk';
import type { Db } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
export type OwnValues = Readonly<Record<string, FactValue>>;

/** Values given for the own fields of a record. */
export interface FieldsGiven {
  readonly on: FieldRecord;
  readonly given: FieldValues;
  /** What the record has; fields that are not named keep it. */
  readonly was: OwnValues;
  /** Whose assets a field may name. */
  readonly clientId: Id<'client'> | null;
}

/** Reads values that were given into those a record has; the first that is not allowed refuses all. */
export async function readFields(
  work: Pick<Work, 'tx'>,
  book: HouseBook,
  { on, given, was, clientId }: FieldsGiven,
): Promise<Outcome<OwnValues>> {
  const values: Record<string, FactValue> = { ...was };
  for (const { fieldId, value } of given) {
    const field = book.fieldsOn(on).find((f) => f.id === fieldId);
    if (!field) return refuse('invalid', `There is no field ${fieldId}.`, { [fieldId]: 'no such field' });
    const read = readFieldValue(field, value);
    if (isRefusal(read)) return read;
    const isKept = field.kind === 'person' && read === was[fieldId];
    const foreign = read === null || isKept ? undefined : await notTheirs(work, { field, id: String(read), clientId });
    if (foreign) return foreign;
    values[fieldId] = read;
  }
  return values;
}

/** Reads the own fields of a record that is about to be saved, none missing that must be filled then. */
export async function fieldsToSave(
  work: Pick<Work, 'tx'>,
  book: HouseBook,
  given: FieldsGiven & { readonly facts: OwnValues },
): Promise<Outcome<OwnValues>> {
  const values = await readFields(work, book, given);
  if (isRefusal(values)) return values;
  return refuseMissing(book, { on: given.on, facts: { [given.on]: given.facts, field: values }, moment: 'saving' }) ?? values;
}

async function notTheirs(
  work: Pick<Work, 'tx'>,
  { field, id, clientId }: { readonly field: OwnField; readonly id: string; readonly clientId: Id<'client'> | null },
): Promise<Outcome<never> | undefined> {
  if (field.kind === 'person' && !(await work.tx('person').where({ id, active: true }).first('id')))
    return refuse('invalid', `${field.name}: there is no such person.`, { [field.id]: 'one of the people' });
  if (field.kind === 'asset' && !(await work.tx('asset').where({ id, client_id: clientId! }).first('id')))
    return refuse('invalid', `${field.name}: it is no asset of the client.`, { [field.id]: "one of the client's assets" });
  return undefined;
}

/** Refuses where a field that must be filled at this moment is not; names every one. */
export function refuseMissing(
  book: HouseBook,
  { on, facts, moment }: { readonly on: FieldRecord; readonly facts: ConditionFacts; readonly moment: FieldMoment },
): Outcome<never> | undefined {
  const missing = missingFields(book.fieldsOn(on), facts, moment);
  if (!missing.length) return undefined;
  return refuse(
    'invalid',
    `Fill ${missing.map((f) => f.name).join(', ')} first.`,
    Object.fromEntries(missing.map((f) => [f.id, 'fill this'])),
  );
}

/** The values without those that name an asset: of a record that moves to another client, they named one of the client before. */
export function withoutAssets(book: HouseBook, on: FieldRecord, values: OwnValues): OwnValues {
  const assets = new Set(book.fieldsOn(on).flatMap((f) => (f.kind === 'asset' ? [f.id] : [])));
  return Object.fromEntries(Object.entries(values).filter(([id]) => !assets.has(id)));
}

/** What changed between two states of own fields, by the fields' names. */
export function fieldChanges(
  book: HouseBook,
  { on, was, now }: { readonly on: FieldRecord; readonly was: OwnValues; readonly now: OwnValues },
): Record<string, [FactValue, FactValue]> {
  const changed = book.fieldsOn(on).filter((f) => (was[f.id] ?? null) !== (now[f.id] ?? null));
  return Object.fromEntries(changed.map((f) => [f.name, [was[f.id] ?? null, now[f.id] ?? null]]));
}

/**
 * The fields that are shown on each of some records now, or have a value all the same, with their values as people read them.
 * People and assets of all records are read at once.
 */
export async function shownFields(
  db: Db,
  book: HouseBook,
  { on, records }: { readonly on: FieldRecord; readonly records: readonly ConditionFacts[] },
): Promise<ShownFieldWire[][]> {
  const shown = records.map((facts) => book.fieldsOn(on).filter((f) => isShown(f, facts) || (facts.field[f.id] ?? null) !== null));
  const ids = (kind: OwnField['kind']) => [
    ...new Set(
      records.flatMap(({ field }, n) =>
        shown[n]!.filter((f) => f.kind === kind).flatMap((f) => (field[f.id] ? [String(field[f.id])] : [])),
      ),
    ),
  ];
  const [personIds, assetIds] = [ids('person'), ids('asset')];
  const people = personIds.length ? await db('person').whereIn('id', personIds).select('id', 'name') : [];
  const assets = assetIds.length ? await db('asset').whereIn('id', assetIds).select('id', 'number as name') : [];
  const names = new Map([...people, ...assets].map((row) => [row.id as string, row.name as string]));
  return records.map((facts, n) =>
    shown[n]!.map((f) => {
      const value = facts.field[f.id] ?? null;
      return {
        id: f.id,
        name: f.name,
        kind: f.kind,
        choices: [...f.choices],
        value,
        words: inWords(value, names),
        required: isRequired(f, facts),
      };
    }),
  );
}

function inWords(value: FactValue, names: ReadonlyMap<string, string>): string | null {
  if (value === null) return null;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return names.get(String(value)) ?? String(value);
}
