import type { Db } from '../app/database';

/** The figures of the rail; each is a count over an index. */
export async function readCounts(db: Db) {
  const result = await db.raw(`select
    (select count(*) from ticket where kind = 'unsorted' and status <> 'closed') as unsorted,
    (select count(*) from ticket where status not in ('resolved','closed') and kind <> 'unsorted') as "openTickets",
    (select count(*) from ticket t where status in ('queued','underway') and kind <> 'unsorted'
      and not exists (select 1 from booking b where b.ticket_id = t.id and b.state in ('planned','underway'))) as unbooked,
    (select count(*) from charge where state = 'proposed') as charges,
    (select count(distinct client_id) from charge where state = 'approved') as cleared`);
  return result.rows[0] as { unsorted: number; openTickets: number; unbooked: number; charges: number; cleared: number };
}
