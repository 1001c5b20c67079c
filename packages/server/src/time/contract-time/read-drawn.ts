import { type WorkToCover, coverWork } from '@core/contracts';
import { dateOf, type Id } from '@core/ground';
import type { EntryEffect } from '@core/time';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { readCoverTerms } from '../../contracts';
import type { HouseBook } from '../../house';
import type { DrawnWork } from '../time-entries/cover-entries';

export type DrawnRow = Row<'time_entry', 'id' | 'starts_at' | 'minutes' | 'note' | 'ticket_id' | 'grade_id' | 'activity_id'> & {
  readonly work_id: Id<'work'>;
  readonly effect: EntryEffect;
  readonly person: string;
  readonly kind: Row<'work_facts'>['kind'];
  readonly number: number | null;
  readonly subject: string;
};

/** All work of a contract as it was stored. */
export interface Drawn extends DrawnWork {
  readonly rows: readonly DrawnRow[];
}

export async function readDrawn(db: Db, book: HouseBook, contractId: Id<'contract'>): Promise<Drawn | undefined> {
  const terms = (await readCoverTerms(db, [contractId])).get(contractId);
  if (!terms) return undefined;
  const rows: DrawnRow[] = await db('time_entry as e')
    .join('entry_effect as x', 'x.time_entry_id', 'e.id')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .join('person as p', 'p.id', 'e.person_id')
    .where({ 'e.contract_id': contractId })
    .whereNull('e.removed_at')
    .orderBy([{ column: 'e.starts_at' }, { column: 'e.id' }])
    .select(
      'e.id',
      'e.work_id',
      'e.starts_at',
      'e.minutes',
      'e.note',
      'e.ticket_id',
      'e.grade_id',
      'e.activity_id',
      'x.effect',
      'w.kind',
      'w.number',
      'w.subject',
      'p.name as person',
    );
  const { zone, currency } = book.house;
  // What is stored is what was drawn: nothing is rated anew to be shown.
  const work = rows.flatMap((row): WorkToCover[] => {
    const under = row.effect.under;
    if (under?.contractId !== contractId) return [];
    const entry = {
      id: row.id,
      startsAt: row.starts_at,
      on: dateOf(row.starts_at, zone),
      gradeId: row.grade_id,
      activityId: row.activity_id,
    };
    // What was drawn asks no rule any more.
    return [{ ...entry, ticketId: row.ticket_id, deskId: null, kind: null, stretches: row.effect.parts, frozen: under.stretches }];
  });
  return { terms, rows, work, lots: coverWork(terms, work, currency).lots };
}
