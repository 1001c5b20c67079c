import { type Id, isRefusal, type Outcome, parseInstant, parseMinutes, refuse } from '@core/ground';
import { withAddedAmounts, type Effect, type EntryEffectWire, type PreviewedEntry } from '@core/time';
import type { Db } from '../../app/database';
import { readMeantWork } from '../../ground';
import type { HouseBook } from '../../house';
import { previewAddedAmounts, readVisit, type VisitFacts } from './added-amounts';
import { wayOf, wayTyped, type Way } from './distance-terms';
import { type PreviewedRow, previewEffects } from './preview-effects';

/** Somebody whose time has a rate. */
export interface Graded {
  readonly personId: Id<'person'>;
  readonly gradeId: Id<'grade'>;
}

export async function readGraded(db: Db, personId: Id<'person'>): Promise<Outcome<Graded>> {
  const person = await db('person').where({ id: personId }).first('grade_id');
  return person?.grade_id
    ? { personId, gradeId: person.grade_id }
    : refuse('not-possible-now', 'You have no grade, so your time has no rate. Ask an administrator for one.');
}

/** An entry that is said before it is recorded. */
interface Said {
  readonly effect: Effect;
  readonly visit: VisitFacts;
  readonly row: PreviewedRow;
}

/**
 * What an entry would do, by the rules that rate and charge it once it is stored.
 * @param entryId the entry that is changed by it
 * @param before what is to be stored before it
 */
export async function previewEntry(
  db: Db,
  book: HouseBook,
  {
    who: { personId, gradeId },
    entry,
    entryId,
    before = [],
  }: {
    readonly who: Graded;
    readonly entry: PreviewedEntry;
    readonly entryId?: Id<'time_entry'> | undefined;
    readonly before?: readonly Said[];
  },
): Promise<Outcome<Said>> {
  const minutes = parseMinutes(entry.duration)!;
  const from = parseInstant(entry.startsAt);
  const facts = await readMeantWork(db, entry.workId);
  if (isRefusal(facts)) return facts;
  const { activityId, billable, distance = null } = entry;
  const { id: workId, client_id: clientId, ticket_kind: ticketKind } = facts;
  const row: PreviewedRow = {
    ...(entryId === undefined ? {} : { id: entryId }),
    work_id: workId,
    work_kind: facts.kind,
    ticket_kind: ticketKind,
    client_id: clientId,
    starts_at: from,
    minutes,
    grade_id: gradeId,
    activity_id: activityId,
    billable,
    corrects: null,
    corrected_from: null,
  };
  const does = (await previewEffects(db, book, { rows: [...before.map((s) => s.row), row] })).at(-1)!;
  const visit = {
    id: entryId,
    personId,
    workId,
    clientId,
    ticketKind,
    activityId,
    billable,
    startsAt: from,
    way: wayTyped(book, distance, await readWay(db, entryId)),
  };
  const others = [...(await readVisit(db, book, visit)), ...before.map((s) => s.visit)];
  const added = await previewAddedAmounts(db, book, { entry: visit, others });
  const charged = does.under?.coversFees ? added.filter((a) => a.what !== 'call-out') : added;
  return { effect: withAddedAmounts({ ...does, minutes }, charged), visit, row };
}

/** The way that an entry has already, with its terms. */
async function readWay(db: Db, entryId: Id<'time_entry'> | undefined): Promise<Way | null> {
  const row = entryId ? await db('time_entry').where({ id: entryId }).first() : undefined;
  return row ? wayOf(row) : null;
}

/** What several entries would do that are stored one after another. */
export async function previewEntries(
  db: Db,
  book: HouseBook,
  { who, entries }: { readonly who: Graded; readonly entries: readonly PreviewedEntry[] },
): Promise<Outcome<Effect[]>> {
  const said: Said[] = [];
  for (const entry of entries) {
    const one = await previewEntry(db, book, { who, entry, before: said });
    if (isRefusal(one)) return one;
    said.push(one);
  }
  return said.map((s) => s.effect);
}

/** An effect as it is sent, and nothing besides. */
export function sentEffect({ minutes, billedMinutes, amount, sentence, why }: Effect): EntryEffectWire {
  return { minutes, billedMinutes, amount, sentence, why: [...why] };
}
