import { type WorkToCover, coverWork } from '@core/contracts';
import { datesIn, type Id, type LocalDate, plusDays } from '@core/ground';
import type { EntryEffect } from '@core/time';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { readCoverTerms } from '../../contracts';
import { type HouseBook, spanOfDates } from '../../house';
import type { DrawnWork } from '../time-entries/cover-entries';
import { onlyOpen, readClosed } from '../time-entries/read-closed';

type OpenRow = Row<'time_entry', 'id' | 'starts_at' | 'ticket_id' | 'grade_id' | 'activity_id'> & { readonly effect: EntryEffect };

/** What all work of a contract drew, as it was stored: what is closed in sums, the rest by entry. */
export async function readDrawn(db: Db, book: HouseBook, contractId: Id<'contract'>): Promise<DrawnWork | undefined> {
  const terms = (await readCoverTerms(db, [contractId])).get(contractId);
  if (!terms) return undefined;
  const rows: OpenRow[] = await db('time_entry as e')
    .join('entry_effect as x', 'x.time_entry_id', 'e.id')
    .where({ 'e.contract_id': contractId })
    .whereNull('e.removed_at')
    .modify(onlyOpen(db, 'e'))
    .select('e.id', 'e.starts_at', 'e.ticket_id', 'e.grade_id', 'e.activity_id', 'x.effect');
  const { zone, currency } = book.house;
  const on = datesIn(zone);
  // What is stored is what was drawn: nothing is rated anew to be shown.
  const work = rows.flatMap((row): WorkToCover[] => {
    const under = row.effect.under;
    if (under?.contractId !== contractId) return [];
    const entry = {
      id: row.id,
      startsAt: row.starts_at,
      on: on(row.starts_at),
      gradeId: row.grade_id,
      activityId: row.activity_id,
    };
    // What was drawn asks no rule any more.
    return [{ ...entry, ticketId: row.ticket_id, deskId: null, kind: null, stretches: row.effect.parts, frozen: under.stretches }];
  });
  const closed = (await readClosed(db, [contractId], []))(contractId);
  return { terms, work, closed, lots: coverWork(terms, work, { currency, closed }).lots };
}

export type DrawnRow = Row<'time_entry', 'id' | 'starts_at' | 'minutes' | 'note'> & {
  readonly work_id: Id<'work'>;
  readonly effect: EntryEffect;
  readonly person: string;
  readonly kind: Row<'work_facts'>['kind'];
  readonly number: number | null;
  readonly subject: string;
};

/** The entries of a contract in a span of days, in order of their start. @param to the first day after it */
export async function readDrawnRows(
  db: Db,
  book: HouseBook,
  { contractId, from, to }: { readonly contractId: Id<'contract'>; readonly from: LocalDate; readonly to: LocalDate },
): Promise<DrawnRow[]> {
  const span = spanOfDates(book, from, plusDays(to, -1));
  return db('time_entry as e')
    .join('entry_effect as x', 'x.time_entry_id', 'e.id')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .join('person as p', 'p.id', 'e.person_id')
    .where({ 'e.contract_id': contractId })
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .whereNull('e.removed_at')
    .orderBy([{ column: 'e.starts_at' }, { column: 'e.id' }])
    .select('e.id', 'e.work_id', 'e.starts_at', 'e.minutes', 'e.note', 'x.effect', 'w.kind', 'w.number', 'w.subject', 'p.name as person');
}
