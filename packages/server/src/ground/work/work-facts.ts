import { type Id, type Outcome, refuse, type WorkKind } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row, Rows } from '../../app/rows';

/** What all that is done on work asks of it, whatever its kind: a row of the view `work_facts`, which knows each kind. */
export interface WorkFacts {
  readonly id: string;
  readonly kind: WorkKind;
  readonly number: number | null;
  readonly subject: string;
  readonly client_id: string | null;
  readonly division_id: string | null;
  readonly desk_id: string | null;
  /** Of a ticket: some kinds are charged by a fee and leave only some activities to choose. */
  readonly ticket_kind: Rows['work_facts']['ticket_kind'];
}

export async function readWorkFacts(db: Db, workId: Id<'work'>): Promise<WorkFacts | undefined> {
  return db('work_facts').where({ id: workId }).first();
}

/** The work that is meant, where nothing is said the provider's own that has no name. */
export async function readMeantWork(db: Db, workId: Id<'work'> | null): Promise<Outcome<WorkFacts>> {
  const meant = workId ?? (await db('internal_work').where({ general: true }).first('id'))!.id;
  const facts = await readWorkFacts(db, meant);
  return facts ?? refuse('invalid', 'There is no such work.', { workId: 'choose a ticket or internal work' });
}

/** What is done on work, joined with the number and subject of that. */
export type WorkedRow = Row<'booking', 'work_id' | 'work_kind'> & Row<'work_facts', 'number' | 'subject'>;

/** Work as the API names it. @param row of what is done on it, joined with `work_facts` for its number and subject */
export function namedWork(row: WorkedRow) {
  return {
    workId: row.work_id,
    workKind: row.work_kind,
    number: row.number,
    subject: row.subject,
  };
}
