// How well a day is written from what is left of it, held against what the demo recorded.
import type { Knex } from 'knex';
import { judgeProposals, proposeEntries, type EvidenceKind } from '@core/time';
import { parseInstant, parseLocalDate, plusDays } from '@core/ground';
import { HouseBook } from '../packages/server/src/house/house/house-book';
import { spanOfDates } from '../packages/server/src/house/people/read-work';
import { readEvidence } from '../packages/server/src/time/proposed-entries/read-evidence';
import { readRecorded } from '../packages/server/src/time/proposed-entries/read-proposed-entries';

const DAYS = 28;
const STORY = parseInstant('2026-11-24T10:40:00Z');

/** What one sweep would record of all technicians' days of four weeks, with some kinds of evidence left out; recorded time is used for nothing but judging. */
export async function writtenDays(
  knex: Knex,
  without: readonly EvidenceKind[],
): Promise<{ covered: number; apart: number; minutes: number }> {
  const book = new HouseBook();
  await book.load(knex);
  const sum = { recordedMinutes: 0, coveredMinutes: 0, apartMinutes: 0 };
  for (const personId of await knex('person').where({ technician: true }).orderBy('name').pluck('id'))
    for (let n = 1; n <= DAYS; n++) {
      const date = plusDays(parseLocalDate('2026-11-24'), -n);
      const span = spanOfDates(book, date, plusDays(date, 1));
      const evidence = (await readEvidence(knex, { personId, span, now: STORY })).filter((e) => !without.includes(e.is));
      const swept = proposeEntries(evidence, [], STORY).filter((p) => p.sure);
      const judged = judgeProposals(swept, await readRecorded(knex, personId, span));
      for (const name of ['recordedMinutes', 'coveredMinutes', 'apartMinutes'] as const) sum[name] += judged[name];
    }
  return {
    covered: sum.coveredMinutes / sum.recordedMinutes,
    apart: sum.apartMinutes / sum.recordedMinutes,
    minutes: sum.recordedMinutes,
  };
}
