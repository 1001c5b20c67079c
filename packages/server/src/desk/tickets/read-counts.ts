import type { TicketCounts } from '@core/desk';
import { holds, type AccessRole, type Permission } from '@core/ground';
import type { Db } from '../../app/database';

/** Each figure of the rail: who may see it, and a count over an index. */
const FIGURES: Readonly<Record<keyof TicketCounts, { readonly for: Permission; readonly sql: string }>> = {
  unsorted: {
    for: 'tickets.triage',
    sql: `select count(*) from ticket where kind = 'unsorted' and status <> 'closed' and umbrella_id is null`,
  },
  openTickets: {
    for: 'tickets.read',
    sql: `select count(*) from ticket where status not in ('resolved','closed') and (kind <> 'unsorted' or umbrella_id is not null)`,
  },
  unbooked: {
    for: 'dispatch.read',
    sql: `select count(*) from ticket t where status in ('queued','underway') and kind <> 'unsorted'
      and not exists (select 1 from booking b where b.ticket_id = t.id and b.state in ('planned','underway'))`,
  },
  charges: { for: 'charges.read', sql: `select count(*) from charge where state = 'proposed' and held_until is null` },
  aside: { for: 'setup.read', sql: `select count(*) from mail_aside where ended_at is null` },
  cleared: {
    for: 'invoices.read',
    sql: `select count(distinct client_id) from charge where standing in ('approved', 'part billed') and held_until is null`,
  },
};

/** The figures of the rail; nothing of what the role may not see. */
export async function readCounts(db: Db, role: AccessRole): Promise<TicketCounts> {
  const columns = Object.entries(FIGURES).map(([name, figure]) => `(${holds(role, figure.for) ? figure.sql : 'select 0'}) as "${name}"`);
  const result = await db.raw(`select ${columns.join(', ')}`);
  return result.rows[0] as TicketCounts;
}
