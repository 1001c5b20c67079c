import { INTEGRITY_CHECKS, type IntegrityCheck, type IntegrityWire } from '@core/desk';
import { formatInstant, type Id, type Instant } from '@core/ground';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { clockRow, readClocks } from '../clocks/ticket-clock-store';

type Finding = IntegrityWire['findings'][number];
interface Row {
  readonly id: Id<'ticket'>;
  readonly number: number;
}

/** What is wrong by the stored rows alone; each gives the tickets it is wrong for. */
const QUERIES: Readonly<Partial<Record<IntegrityCheck, string>>> = {
  'running clock': `select distinct t.id, t.number from ticket t join ticket_clock c on c.ticket_id = t.id
    where t.umbrella_id is not null and c.due_at is not null`,
  'hidden reply': `select t.id, t.number from ticket t join ticket u on u.id = t.umbrella_id
    where t.reply_owed_since is not null and (u.reply_owed_since is null or u.reply_owed_since > t.reply_owed_since)`,
  'wrong owed': `select u.id, u.number from ticket u where u.is_umbrella and u.reply_owed_since is not null
    and not exists (select 1 from ticket t where t.umbrella_id = u.id and t.reply_owed_since = u.reply_owed_since)`,
  'wrong receipt': `select u.id, u.number from ticket u where u.is_umbrella and u.received_at >
    (select min(t.received_at) from membership m join ticket t on t.id = m.ticket_id where m.umbrella_id = u.id)`,
  'wrong member': `select t.id, t.number from ticket t full join (select * from membership where ended_at is null) m on m.ticket_id = t.id
    where (t.umbrella_id is not null or m.id is not null)
    and (t.umbrella_id is distinct from m.umbrella_id or t.status <> 'on hold' or t.hold_reason is distinct from 'umbrella')`,
};
const AT_ONCE = 500;

/** Proves that no member's clock runs and no reply is hidden, and that what is stored is what the facts say. */
export async function checkUmbrellas(db: Db, book: HouseBook, now: Instant): Promise<IntegrityWire> {
  const findings: Finding[] = [];
  for (const [check, sql] of Object.entries(QUERIES) as [IntegrityCheck, string][])
    for (const row of (await db.raw(sql)).rows as Row[]) findings.push(finding(check, row));
  findings.push(...(await staleClocks(db, book, now)));
  const [counts] = (await db.raw(`select count(*) filter (where is_umbrella) as umbrellas, count(umbrella_id) as members from ticket`))
    .rows;
  return { umbrellas: Number(counts.umbrellas), members: Number(counts.members), findings };
}

function finding(check: IntegrityCheck, { id, number }: Row, more = ''): Finding {
  return { check, ticketId: id, number, what: `#${number}: ${INTEGRITY_CHECKS[check]}${more}` };
}

/** Replays the facts of every umbrella and member and compares with what lists and sweeps read. */
async function staleClocks(db: Db, book: HouseBook, now: Instant): Promise<Finding[]> {
  const found: Finding[] = [];
  for (let after = 0; ;) {
    const rows = await db('ticket as t')
      .leftJoin('client as c', 'c.id', 't.client_id')
      .where((q) => void q.where('t.is_umbrella', true).orWhereNotNull('t.umbrella_id'))
      .where('t.number', '>', after)
      .orderBy('t.number')
      .limit(AT_ONCE)
      .select('t.id', 't.number', 't.promise_version_id', 'c.calendar_id');
    if (!rows.length) return found;
    after = rows.at(-1).number;
    const readings = await readClocks(db, book, {
      tickets: rows.map((t) => ({ id: t.id, promiseVersionId: t.promise_version_id, clientCalendarId: t.calendar_id })),
      now,
    });
    const stored = await db('ticket_clock')
      .whereIn(
        'ticket_id',
        rows.map((t) => t.id),
      )
      .select('ticket_id', 'clock', 'due_at');
    for (const row of rows)
      for (const reading of readings.get(row.id)!) {
        const due = clockRow(row.id, reading)['due_at'];
        const kept = stored.find((s) => s.ticket_id === row.id && s.clock === reading.clock);
        const keptDue = kept && kept.due_at !== null ? formatInstant(kept.due_at) : null;
        // One that is past its due instant by now was stored while it still ran.
        if (due !== keptDue && reading.state.is !== 'missed and running')
          found.push(finding('stale clock', row, ` (${reading.clock}: kept ${keptDue ?? 'none'}, it is ${String(due ?? 'none')})`));
      }
  }
}
