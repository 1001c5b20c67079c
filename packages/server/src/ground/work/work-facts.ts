import { type Outcome, refuse, type WorkKind } from '@core/ground';
import type { Columns, Db } from '../../app/database';

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
  readonly ticket_kind: string | null;
}

export async function readWorkFacts(db: Db, workId: string): Promise<WorkFacts | undefined> {
  return db('work_facts').where({ id: workId }).first();
}

/** The work that is meant, where nothing is said the provider's own that has no name. */
export async function readMeantWork(db: Db, workId: string | null): Promise<Outcome<WorkFacts>> {
  const meant = workId ?? (await db('internal_work').where({ general: true }).first('id')).id;
  const facts = await readWorkFacts(db, meant);
  return facts ?? refuse('invalid', 'There is no such work.', { workId: 'choose a ticket or internal work' });
}

/** Work as the API names it. @param row of what is done on it, joined with `work_facts` for its number and subject */
export function namedWork(row: Columns) {
  return {
    workId: row['work_id'] as string,
    workKind: row['work_kind'] as WorkKind,
    number: row['number'] as number | null,
    subject: row['subject'] as string,
  };
}
