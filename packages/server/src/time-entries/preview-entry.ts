import { refuse, type Outcome } from '@core/outcome';
import { parseInstant, parseMinutes, plusSeconds } from '@core/time';
import type { Effect, EntryEffectWire, PreviewedEntry } from '@core/time-entries';
import type { Db } from '../app/database';
import type { HouseBook } from '../house/house-book';
import { effectOfEntry } from './recorded-entry';

/** Somebody whose time has a rate. */
export interface Graded {
  readonly personId: string;
  readonly gradeId: string;
}

export async function readGraded(db: Db, personId: string): Promise<Outcome<Graded>> {
  const person = await db('person').where({ id: personId }).first('grade_id');
  return person?.grade_id
    ? { personId, gradeId: person.grade_id }
    : refuse('not-possible-now', 'You have no grade, so your time has no rate. Ask an administrator for one.');
}

/** What an entry would do, by the rules that rate it once it is stored. */
export async function previewEntry(db: Db, book: HouseBook, { gradeId }: Graded, entry: PreviewedEntry): Promise<Effect> {
  const minutes = parseMinutes(entry.duration)!;
  const from = parseInstant(entry.startsAt);
  const ticket = entry.ticketId ? await db('ticket').where({ id: entry.ticketId }).first('client_id', 'kind') : null;
  const effect = await effectOfEntry(db, book, {
    from,
    to: plusSeconds(from, minutes * 60),
    minutes,
    gradeId,
    activityId: entry.activityId,
    billable: entry.billable,
    clientId: ticket?.client_id ?? null,
    ticketKind: ticket?.kind ?? null,
  });
  return { minutes, billedMinutes: effect.billedMinutes, amount: effect.amount, sentence: effect.sentence, why: effect.why };
}

/** An effect as it is sent, and nothing besides. */
export function sentEffect({ minutes, billedMinutes, amount, sentence, why }: Effect): EntryEffectWire {
  return { minutes, billedMinutes, amount, sentence, why: [...why] };
}
