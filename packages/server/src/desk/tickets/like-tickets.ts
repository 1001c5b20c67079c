import { type SORTED_KINDS, wordsOf } from '@core/desk';
import type { Id } from '@core/ground';
import type { Db } from '../../app/database';

export interface LikeTicket {
  readonly id: Id<'ticket'>;
  readonly number: number;
  readonly subject: string;
  readonly client: string | null;
  readonly kind: (typeof SORTED_KINDS)[number];
  readonly category_id: string | null;
  readonly category: string | null;
  readonly desk_id: string | null;
  readonly desk: string | null;
  /** 0 to 1. */
  readonly likeness: number;
}

export interface LikeQuestion {
  readonly ticketId: Id<'ticket'>;
  readonly subject: string;
  readonly text: string;
  readonly most: number;
}

/** Only the newest that share a word are ranked, so that it costs the same however long the past is. */
const NEWEST = 400;
const MOST_WORDS = 14;
const LEAST_LIKENESS = 0.1;

/** Sorted tickets of the past whose subjects share the most with this one: by words and by their spelling. */
export async function likeTickets(db: Db, { ticketId, subject, text, most }: LikeQuestion): Promise<LikeTicket[]> {
  const words = [...new Set([...wordsOf(subject), ...wordsOf(text)])].slice(0, MOST_WORDS);
  if (!words.length) return [];
  const { rows } = await db.raw(
    `with near as materialized (
       select t.id, t.number, t.subject, t.kind, t.client_id, t.category_id, t.desk_id, t.search from ticket t
       where t.search @@ websearch_to_tsquery('english', :words) and t.kind <> 'unsorted' and t.id <> :id and t.outcome is distinct from 'not work'
       order by t.number desc limit ${NEWEST})
     select n.id, n.number, n.subject, n.kind, n.category_id, n.desk_id, c.name as client, g.name as category, d.name as desk, likeness
     from (select near.*, (0.6 * similarity(subject, :subject) + 0.4 * ts_rank(search, websearch_to_tsquery('english', :words), 32) / 0.5)::float as likeness from near) n
     left join client c on c.id = n.client_id left join category g on g.id = n.category_id left join desk d on d.id = n.desk_id
     where likeness >= ${LEAST_LIKENESS} order by likeness desc, n.number desc limit :most`,
    { words: words.join(' or '), id: ticketId, subject, most },
  );
  return rows;
}
