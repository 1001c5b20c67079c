import type { MemberWire, UmbrellaRowWire } from '@core/desk';
import { formatInstant, type Id, type Instant } from '@core/ground';
import { wireAt, type Db } from '../../app/database';

const MOST = 200;

/** Umbrellas that are open, the newest first. */
export async function listUmbrellas(db: Db): Promise<UmbrellaRowWire[]> {
  const rows = await db('ticket as t')
    .where({ is_umbrella: true })
    .whereNotIn('status', ['resolved', 'closed'])
    .orderBy('number', 'desc')
    .limit(MOST)
    .select(
      't.id',
      't.number',
      't.subject',
      't.received_at',
      db.raw('(select count(*) from ticket m where m.umbrella_id = t.id) as members'),
    );
  return rows.map((r) => ({
    id: r.id,
    number: r.number,
    subject: r.subject,
    members: Number(r.members),
    earliest: formatInstant(r.received_at as Instant),
  }));
}

/** The members of an umbrella and those it has had, with what each was asked and answered last. */
export async function readMembers(db: Db, umbrellaId: Id<'ticket'>): Promise<MemberWire[]> {
  const rows = await db('membership as m')
    .join('ticket as t', 't.id', 'm.ticket_id')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .joinRaw(
      `left join lateral (select u.id, (select b.back from back_answer b where b.update_id = u.id and b.ticket_id = t.id order by b.id desc limit 1) as back
         from member_update u join message s on s.update_id = u.id and s.ticket_id = t.id and s.taken_back_at is null
         where u.umbrella_id = m.umbrella_id and u.asks order by u.at desc limit 1) asked on true`,
    )
    .where('m.umbrella_id', umbrellaId)
    // One that was detached and joined again stands there once, as it is now.
    .whereRaw(
      `m.id = (select x.id from membership x where x.umbrella_id = m.umbrella_id and x.ticket_id = m.ticket_id
         order by x.ended_at is null desc, x.joined_at desc, x.id limit 1)`,
    )
    .orderByRaw('m.ended_at is not null, t.reply_owed_since is null, t.received_at, t.number')
    .select(
      't.id',
      't.number',
      't.subject',
      't.client_id',
      't.sender_name',
      't.received_at',
      't.reply_owed_since',
      't.reply_owed_by',
      'c.name as client',
      'k.name as contact',
      'm.joined_at',
      'm.ended_by',
      'asked.id as asked',
      'asked.back',
    );
  return rows.map((r) => ({
    id: r.id,
    number: r.number,
    subject: r.subject,
    client: r.client,
    clientId: r.client_id,
    contact: r.contact ?? r.sender_name,
    receivedAt: formatInstant(r.received_at),
    joinedAt: formatInstant(r.joined_at),
    ended: r.ended_by,
    owedSince: wireAt(r.reply_owed_since),
    owedBy: r.reply_owed_by,
    asked: r.asked !== null,
    back: r.back === null ? null : r.back ? 'yes' : 'no',
  }));
}
