import { searchWords } from '@core/house';
import type { Db } from '../../app/database';

export interface TicketHit {
  readonly id: string;
  readonly number: number;
  readonly subject: string;
  readonly status: string;
  readonly client: string | null;
}

/** Only so many matches are ranked, the newest: it costs the same however long the past is. */
const NEWEST = 1000;

/** Tickets that the words fit, the best first; a number finds the exact ticket before all others. */
export async function searchTickets(db: Db, words: string, most: number): Promise<TicketHit[]> {
  const number = /^\d{1,9}$/.test(words) ? Number(words) : -1;
  const { rows } = await db.raw(
    `with near as materialized (
       select t.id, t.number, t.subject, t.status, t.client_id, t.search from ticket t
       where t.search @@ websearch_to_tsquery('english', :words) order by t.number desc limit ${NEWEST}),
     found as (
       select id, number, subject, status, client_id, ts_rank(search, websearch_to_tsquery('english', :words)) as rank from near
       union select id, number, subject, status, client_id, 1e9 from ticket where number = :number)
     select f.id, f.number, f.subject, f.status, c.name as client from found f left join client c on c.id = f.client_id
     order by f.rank desc, f.number desc limit :most`,
    { words: searchWords(words), number, most },
  );
  return rows;
}
