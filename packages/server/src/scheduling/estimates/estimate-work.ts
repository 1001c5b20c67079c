import {
  estimateOf,
  groupKey,
  LIKENESSES,
  type Estimate,
  type Learned,
  type Likeness,
  type Question,
  type TypedRecord,
} from '@core/scheduling';
import type { Db } from '../../app/database';

/** A piece of work whose length is asked. */
export interface AskedWork extends Question {
  /** Minutes that somebody typed on the ticket. */
  readonly typed: number | null;
}

/** How long each piece of work is thought to take, in the order asked. */
export async function estimateWork(db: Db, asked: readonly AskedWork[]): Promise<Estimate[]> {
  const keys = new Set(asked.flatMap((a) => LIKENESSES.flatMap((l) => groupKey(l, a) ?? [])));
  const rows = await db('learned_estimate')
    .whereIn('key', [...keys, TYPED])
    .select('likeness', 'key', 'cases', 'median', 'p80', 'judged', 'right_cases');
  const learned = new Map(
    rows.map((r): [string, Learned] => [`${r.likeness}:${r.key}`, { ...r, likeness: r.likeness as Likeness, right: r.right_cases }]),
  );
  const typed = rows.find((r) => r.likeness === TYPED);
  const record: TypedRecord = typed ? { judged: typed.judged, right: typed.right_cases } : { judged: 0, right: 0 };
  return asked.map((a) =>
    estimateOf({ typed: a.typed, of: a, find: (likeness, key) => learned.get(`${likeness}:${key}`), typedRecord: record }),
  );
}

/** Where the record of typed estimates is kept. */
export const TYPED = 'typed';
