import { type ConditionFacts, type FactValue, isRefusal, type Outcome, refuse } from '@core/ground';
import {
  type FieldMoment,
  type FieldValues,
  isRequired,
  isShown,
  missingFields,
  type OwnField,
  readFieldValue,
  type TicketWire,
} from '@core/desk';
import { changeRow } from '../../app/change-row';
import type { Columns, Db } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';

type Values = Readonly<Record<string, FactValue>>;

/** Reads values that were given into those a ticket has; the first that is not allowed refuses all. */
export async function readFields(work: Pick<Work, 'tx'>, book: HouseBook, given: FieldValues, was: Columns): Promise<Outcome<Values>> {
  const values: Record<string, FactValue> = { ...(was['fields'] as Values) };
  for (const { fieldId, value } of given) {
    const field = book.house.fields.find((f) => f.id === fieldId);
    if (!field) return refuse('invalid', `There is no field ${fieldId}.`, { [fieldId]: 'no such field' });
    const read = readFieldValue(field, value);
    if (isRefusal(read)) return read;
    const foreign = read === null ? undefined : await notTheirs(work, field, String(read), was['client_id']);
    if (foreign) return foreign;
    values[fieldId] = read;
  }
  return values;
}

async function notTheirs(
  work: Pick<Work, 'tx'>,
  field: OwnField,
  id: string,
  clientId: string | null,
): Promise<Outcome<never> | undefined> {
  if (field.kind === 'person' && !(await work.tx('person').where({ id, active: true }).first('id')))
    return refuse('invalid', `${field.name}: there is no such person.`, { [field.id]: 'one of the people' });
  if (field.kind === 'asset' && !(await work.tx('asset').where({ id, client_id: clientId }).first('id')))
    return refuse('invalid', `${field.name}: it is no asset of the client.`, { [field.id]: "one of the client's assets" });
  return undefined;
}

/** Refuses where a field that must be filled at this moment is not; names every one. */
export function refuseMissing(book: HouseBook, facts: ConditionFacts, moment: FieldMoment): Outcome<never> | undefined {
  const missing = missingFields(book.house.fields, facts, moment);
  if (!missing.length) return undefined;
  return refuse(
    'invalid',
    `Fill ${missing.map((f) => f.name).join(', ')} first.`,
    Object.fromEntries(missing.map((f) => [f.id, 'fill this'])),
  );
}

/** Fills own fields of a ticket; those not named stay. */
export async function setTicketFields(
  work: Work,
  book: HouseBook,
  ticketId: string,
  version: number | undefined,
  given: FieldValues,
): Promise<Outcome<{ id: string; version: number }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('id', 'fields', 'client_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const values = await readFields(work, book, given, ticket);
  if (isRefusal(values)) return values;
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set: { fields: JSON.stringify(values) } });
  if (isRefusal(changed)) return changed;
  const names = given.map((g) => book.house.fields.find((f) => f.id === g.fieldId)!.name);
  await work.tell('ticket.fields-filled', ticketId, {
    values: Object.fromEntries(given.map((g, i) => [names[i], [ticket.fields[g.fieldId] ?? null, values[g.fieldId] ?? null]])),
  });
  return changed;
}

/** The fields that are shown on a ticket now, or have a value all the same, with their values as people read them. */
export async function ticketFields(db: Db, book: HouseBook, facts: ConditionFacts): Promise<TicketWire['fields']> {
  const shown = book.house.fields.filter((f) => isShown(f, facts) || (facts.field[f.id] ?? null) !== null);
  const ids = (kind: OwnField['kind']) =>
    shown.filter((f) => f.kind === kind).flatMap((f) => (facts.field[f.id] ? [String(facts.field[f.id])] : []));
  const people = ids('person').length ? await db('person').whereIn('id', ids('person')).select('id', 'name') : [];
  const assets = ids('asset').length ? await db('asset').whereIn('id', ids('asset')).select('id', 'number as name') : [];
  const names = new Map([...people, ...assets].map((row) => [row.id as string, row.name as string]));
  return shown.map((f) => {
    const value = facts.field[f.id] ?? null;
    const words = value === null ? null : typeof value === 'boolean' ? (value ? 'yes' : 'no') : (names.get(String(value)) ?? String(value));
    return { id: f.id, name: f.name, kind: f.kind, choices: [...f.choices], value, words, required: isRequired(f, facts) };
  });
}
