import { dateOf, type Id, instantAt, money, type Outcome, parseLocalDate, plusDays, refuse } from '@core/ground';
import { usageReport, type UsageEntry, type UsageReport } from '@core/insight';
import { at, type Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { readUsedContracts } from './read-used-contracts';

/** What was done for a client in a span of days of the provider's zone. */
export async function readUsage(
  db: Db,
  book: HouseBook,
  { clientId, span }: { readonly clientId: Id<'client'>; readonly span: { readonly from: string; readonly to: string } },
): Promise<Outcome<UsageReport>> {
  const client = await db('client').where({ id: clientId }).first('name');
  if (!client) return refuse('not-found', 'There is no such client.');
  const { zone, currency, provider } = book.house;
  const [from, to] = [parseLocalDate(span.from), parseLocalDate(span.to)];
  const rows = await db('time_entry as e')
    .join('ticket as t', 't.id', 'e.ticket_id')
    .join('person as p', 'p.id', 'e.person_id')
    .join('activity as a', 'a.id', 'e.activity_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .leftJoin('entry_effect as x', 'x.time_entry_id', 'e.id')
    .joinRaw(
      `left join lateral (
         select coalesce(sum(c.net_minor), 0)::bigint as net, coalesce(bool_and(c.state = 'waived'), false) as waived, min(c.currency) as currency
         from charge c where c.time_entry_id = e.id and c.state <> 'withdrawn') c on true`,
    )
    .where({ 'e.client_id': clientId })
    .whereNull('e.removed_at')
    .where('e.starts_at', '>=', at(instantAt(from, 0, zone)))
    .where('e.starts_at', '<', at(instantAt(plusDays(to, 1), 0, zone)))
    .orderBy(['e.starts_at', 'e.id'])
    .select(
      'e.starts_at',
      'e.minutes',
      'e.billable',
      't.kind',
      't.id',
      't.number',
      't.subject',
      't.status',
      't.resolution',
      'p.name as person',
      'a.name as activity',
      'k.name as contact',
      'c.net',
      'c.waived',
      'c.currency',
      db.raw(`x.effect->>'is' as is`),
      db.raw(
        `coalesce((select sum((s->>'coveredMinutes')::int) from jsonb_array_elements(x.effect->'under'->'stretches') s), 0)::int as covered`,
      ),
    );
  const entries = rows.map((r): UsageEntry => {
    const covered = r.is === 'covered' ? r.minutes : Math.min(r.minutes, r.covered);
    return {
      ticketId: r.id,
      kind: r.kind,
      billable: r.billable,
      number: r.number,
      subject: r.subject,
      contact: r.contact,
      status: r.status,
      done: r.resolution,
      on: dateOf(r.starts_at, zone),
      person: r.person,
      activity: r.activity,
      minutes: r.minutes,
      net: money(r.net, r.currency ?? currency),
      treatment: r.waived ? 'waived' : r.is === 'covered' ? 'covered' : 'charged',
      coveredMinutes: covered,
    };
  });
  return usageReport(
    { provider, client: client.name, clientId, from, to, contracts: await readUsedContracts(db, book, { clientId, from, to }) },
    currency,
    entries,
  );
}
