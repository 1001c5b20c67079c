import { chargeOfCorrection } from '@core/time';
import { formatMoney, plusSeconds } from '@core/ground';
import type { Columns, Db } from '../../app/database';
import type { HouseBook } from '../../house/house/house-book';
import { effectOfEntry, type EntryEffect } from './recorded-entry';

/** What a stored entry does; a correction does the difference it makes. @param row an entry with its ticket's kind */
export async function effectOfRow(db: Db, book: HouseBook, row: Columns): Promise<EntryEffect> {
  if (!row['corrects']) return rated(db, book, row, row['minutes']);
  const first = await db('time_entry').where({ id: row['corrects'] }).first();
  return effectOfCorrection(db, book, { ...first, kind: row['kind'] }, [row['corrected_from'], row['corrected_from'] + row['minutes']]);
}

/** What it does to bring an entry from some minutes to others. */
export async function effectOfCorrection(
  db: Db,
  book: HouseBook,
  first: Columns,
  [before, after]: readonly [number, number],
): Promise<EntryEffect> {
  const worth = async (minutes: number) => (minutes === 0 ? null : rated(db, book, first, minutes));
  const [was, is] = [await worth(before), await worth(after)];
  const { net, explanation } = chargeOfCorrection(
    { minutes: before, amount: was?.amount ?? null },
    { minutes: after, amount: is?.amount ?? null },
  );
  const silent = (is ?? was)?.sentence ?? 'no charge';
  return {
    amount: net,
    sentence: net
      ? net.minor < 0
        ? `${formatMoney({ ...net, minor: -net.minor })} less to the client`
        : `${formatMoney(net)} more to the client`
      : silent,
    billedMinutes: (is?.billedMinutes ?? 0) - (was?.billedMinutes ?? 0),
    parts: [],
    why: explanation,
  };
}

function rated(db: Db, book: HouseBook, row: Columns, minutes: number): Promise<EntryEffect> {
  return effectOfEntry(db, book, {
    from: row['starts_at'],
    to: plusSeconds(row['starts_at'], minutes * 60),
    minutes,
    gradeId: row['grade_id'],
    activityId: row['activity_id'],
    billable: row['billable'],
    clientId: row['client_id'],
    ticketKind: row['kind'],
  });
}
