import { formatInstant, type Id, step } from '@core/ground';
import { causeSpan, ownWords, type Proposals, type Report, sameCause } from '@core/desk';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** More reports than this in the span are not compared; the newest are. */
const MOST = 300;

type ReportRow = Row<'ticket', 'id' | 'number' | 'subject' | 'received_at' | 'umbrella_id'> & {
  readonly client: string | null;
  readonly text: string | null;
};

/** Whether reports that came in the same short while are like this one, and an umbrella that some are under. */
export async function readSameCause(db: Db, ticketId: Id<'ticket'>): Promise<Proposals['sameCause']> {
  const { received_at: at } = (await db('ticket').where({ id: ticketId }).first('received_at'))!;
  const span = causeSpan(at);
  const rows: ReportRow[] = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .joinRaw('left join lateral (select m.text from message m where m.ticket_id = t.id order by m.at limit 1) first on true')
    .whereBetween('t.received_at', [formatInstant(span.from), formatInstant(span.to)])
    .whereNotIn('t.status', ['resolved', 'closed'])
    .where('t.is_umbrella', false)
    .orderBy('t.received_at', 'desc')
    .limit(MOST)
    .select('t.id', 't.number', 't.subject', 't.received_at', 't.umbrella_id', 'c.name as client', 'first.text');
  const report = (row: ReportRow): Report => ({
    id: row.id,
    at: row.received_at,
    subject: row.subject,
    text: ownWords(row.text ?? ''),
  });
  const own = rows.find((r) => r.id === ticketId);
  const found = own && sameCause(report(own), rows.map(report));
  if (!own || !found || own.umbrella_id) return null;
  const alike = found.ids.map((id) => rows.find((r) => r.id === id)!);
  const umbrellaId = alike.find((r) => r.umbrella_id)?.umbrella_id;
  const umbrella = umbrellaId ? (await db('ticket').where({ id: umbrellaId }).first('id', 'number', 'subject'))! : null;
  return {
    reports: alike.filter((r) => !r.umbrella_id).map((r) => ({ id: r.id, number: r.number, subject: r.subject, client: r.client })),
    umbrella,
    why: [
      step(`${alike.length} others came within an hour and a half of it`),
      step('they share the words', found.words.join(', ')),
      ...alike.slice(0, 4).map((r) => step(`#${r.number}`, r.subject)),
    ],
  };
}
