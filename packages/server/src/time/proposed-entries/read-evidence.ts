import { sayEvent, type StoredEvent } from '@core/events';
import { type Evidence, showsWork } from '@core/time';
import type { Id, Instant, Interval } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';

const MOST_WORDS = 200;

interface Looked {
  readonly personId: Id<'person'>;
  readonly span: Interval;
  readonly now: Instant;
}
type Read = (db: Db, looked: Looked) => Promise<Evidence[]>;

/** All that shows what a person did in a span. */
export async function readEvidence(db: Db, looked: Looked): Promise<Evidence[]> {
  const all = await Promise.all([timers, bookings, messages, changes, appointments].map((read) => read(db, looked)));
  return all.flat();
}

const timers: Read = async (db, { personId, span, now }) => {
  const rows: Row<'timer'>[] = await db('timer').where({ person_id: personId });
  return rows.flatMap((t): Evidence[] => {
    const running = t.running_since;
    const seconds = t.counted_seconds + (running === null ? 0 : Math.max(0, now - running));
    // A paused timer does not say when it was paused: it is put where it was started.
    const from = running === null ? t.started_at : ((now - seconds) as Instant);
    const own = { from, to: (from + seconds) as Instant };
    return inside(own, span) ? [{ id: t.id, is: 'timer', workId: t.work_id, ...own, says: running === null ? 'paused' : 'runs' }] : [];
  });
};

const bookings: Read = async (db, { personId, span, now }) => {
  const rows: Row<'booking'>[] = await db('booking')
    .where({ person_id: personId, tentative: false })
    .where(
      (q) =>
        void q.whereIn('state', ['done', 'underway']).orWhere((p) => void p.where({ state: 'planned' }).where('ends_at', '<=', at(now))),
    )
    .where('starts_at', '<', at(span.to))
    .where('ends_at', '>', at(span.from));
  return rows.map((b) => ({
    id: b.id,
    is: 'booking' as const,
    workId: b.work_id,
    from: b.starts_at,
    to: b.ends_at,
    says: `${b.on_site ? 'on site, ' : ''}${b.state}`,
    visit: b.on_site,
  }));
};

const messages: Read = async (db, { personId, span }) => {
  const rows: Row<'message', 'id' | 'at' | 'ticket_id' | 'direction' | 'text' | 'call_outcome' | 'visibility'>[] = await db('message')
    .where({ author_person_id: personId, automatic: false })
    .whereIn('direction', ['out', 'note'])
    .whereNull('taken_back_at')
    .where('at', '>=', at(span.from))
    .where('at', '<', at(span.to))
    .select('id', 'at', 'ticket_id', 'direction', 'text', 'call_outcome', 'visibility');
  return rows.map((m) => ({
    id: m.id,
    is: m.call_outcome ? ('call' as const) : ('message' as const),
    workId: m.ticket_id,
    from: m.at,
    to: m.at,
    says: `${m.direction === 'note' && !m.call_outcome ? 'inside note: ' : ''}${oneLine(m.text)}`,
    inside: m.visibility === 'inside',
  }));
};

const changes: Read = async (db, { personId, span }) => {
  const rows: Row<'event', 'id' | 'happened_at' | 'subject_id' | 'type' | 'version' | 'data'>[] = await db('event')
    .where({ who: 'person', who_id: personId, subject: 'ticket' })
    .where('happened_at', '>=', at(span.from))
    .where('happened_at', '<', at(span.to))
    .select('id', 'happened_at', 'subject_id', 'type', 'version', 'data');
  return rows
    .filter((e) => showsWork(e.type))
    .map((e) => ({
      id: e.id,
      is: 'change' as const,
      workId: e.subject_id,
      from: e.happened_at,
      to: e.happened_at,
      says: oneLine(sayEvent(e as StoredEvent, 'own')?.what ?? ''),
    }));
};

const appointments: Read = async (db, { personId, span }) => {
  const rows: Row<'outside_appointment'>[] = await db('outside_appointment as a')
    .join('outside_calendar as c', 'c.id', 'a.calendar_id')
    .where('c.person_id', personId)
    .where('a.starts_at', '<', at(span.to))
    .where('a.ends_at', '>', at(span.from))
    .select('a.*');
  return rows.map((a) => ({
    id: `${a.uid} ${a.starts_at}`.slice(-60),
    is: 'appointment' as const,
    workId: null,
    from: a.starts_at,
    to: a.ends_at,
    says: oneLine(a.summary),
  }));
};

function inside(a: Interval, span: Interval): boolean {
  return a.from < span.to && span.from < a.to;
}

function oneLine(text: string): string {
  return text.replace(/\s+/g, ' ').trim().slice(0, MOST_WORDS) || 'without words';
}
