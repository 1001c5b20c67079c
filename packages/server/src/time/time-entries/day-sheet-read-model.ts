import { beatStrip } from '@core/scheduling';
import {
  formatInstant,
  type Id,
  type Instant,
  instantAt,
  type Interval,
  type LocalDate,
  naming,
  parseInstant,
  plusDays,
  secondsIn,
  subtract,
  unite,
} from '@core/ground';
import { likelyWork, openTime, overlapsOf, withAddedAmounts, type DaySheetWire, type EntryWire, type TimerWire } from '@core/time';
import { at, wireAt, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { type WorkedRow, namedWork } from '../../ground';
import { type HouseBook, readWork } from '../../house';
import { shownSpan, spanWire } from '../../scheduling';
import { readAddedAmounts } from './added-amounts';
import { readDayState } from './close-days';
import { readEffects } from './stored-effects';
import { sentEffect } from './preview-entry';

export async function readDaySheet(
  db: Db,
  book: HouseBook,
  { personId, day, now }: { readonly personId: Id<'person'>; readonly day: LocalDate; readonly now: Instant },
): Promise<DaySheetWire> {
  const { zone } = book.house;
  const whole = { from: instantAt(day, 0, zone), to: instantAt(plusDays(day, 1), 0, zone) };
  const [times, entries, bookings, timers, toDo] = await Promise.all([
    readWork(db, book, { personIds: [personId], dates: [day, plusDays(day, 1)] }),
    readEntries(db, (q) =>
      q.where({ 'e.person_id': personId }).where('e.starts_at', '<', at(whole.to)).where('e.ends_at', '>', at(whole.from)),
    ),
    db('booking as b')
      .join('work_facts as w', 'w.id', 'b.work_id')
      .leftJoin('client as c', 'c.id', 'w.client_id')
      .leftJoin('contact as k', 'k.id', 'w.contact_id')
      .leftJoin('site as s', 's.id', 'w.site_id')
      .where({ 'b.person_id': personId })
      .whereNot('b.state', 'cancelled')
      .where('b.starts_at', '<', at(whole.to))
      .where('b.ends_at', '>', at(whole.from))
      .orderBy('b.starts_at')
      .select(
        'b.*',
        'w.number',
        'w.subject',
        'c.name as client',
        's.name as site',
        's.street',
        's.city',
        's.directions',
        'k.name as contact',
        'k.phone',
      ),
    readTimers(db, personId, now),
    db('checklist_item as i')
      .join('work_facts as w', 'w.id', 'i.work_id')
      .where({ 'i.owner_id': personId })
      .whereNull('i.answer')
      .where('i.due_at', '<', at(whole.to))
      .where('w.ended', false)
      .orderBy('i.due_at')
      .select('i.id', 'i.text', 'i.due_at', 'i.work_id', 'i.work_kind', 'w.number', 'w.subject'),
  ]);
  const own = times.get(personId);
  const working = own ? subtract(own.working, unite(own.away)) : [];
  const booked = unite(bookings.map((b): Interval => ({ from: b.starts_at, to: b.ends_at })));
  const spans = entries.map(({ entry }): Interval => ({ from: parseInstant(entry.startsAt), to: parseInstant(entry.endsAt) }));
  // What reaches over midnight fills the beats of both days, and counts on the one it began on.
  const begun = entries.filter(({ entry }) => parseInstant(entry.startsAt) >= whole.from);
  const open = openTime(working, spans, now);
  const [state, here] = [
    await readDayState(db, personId, day),
    await db('minutes_here').where({ person_id: personId, day }).first('minutes'),
  ];
  const span = shownSpan(book, day);
  return {
    day,
    from: formatInstant(span.from),
    to: formatInstant(span.to),
    beats: beatStrip({ span, working, booked, logged: unite(spans) }),
    expectedMinutes: Math.floor(secondsIn(working) / 60),
    recordedMinutes: begun.reduce((sum, { entry }) => sum + entry.minutes, 0),
    openMinutes: Math.floor(secondsIn(open) / 60),
    hereMinutes: here?.minutes ?? 0,
    open: open.map((gap) => ({
      ...spanWire(gap),
      likely: likelyOf(
        gap,
        bookings,
        entries.map((e) => e.entry),
      ),
    })),
    overlaps: overlapsOf(spans).map(spanWire),
    closedAt: wireAt(state.closedAt),
    completeUpTo: state.completeUpTo,
    entries: begun.map(({ entry }) => entry),
    bookings: bookings.map((b) => ({
      id: b.id,
      version: b.version,
      ...namedWork(b),
      client: b.client,
      site: b.site,
      address: [b.street, b.city].filter(Boolean).join(', ') || null,
      directions: b.directions,
      contact: b.contact,
      phone: b.phone,
      onSite: b.on_site,
      bring: b.bring,
      travelMinutes: b.travel_before,
      startsAt: formatInstant(b.starts_at),
      endsAt: formatInstant(b.ends_at),
      state: b.state,
    })),
    toDo: toDo.map((i) => ({
      id: i.id,
      text: i.text,
      dueAt: formatInstant(i.due_at),
      ...namedWork(i),
    })),
    timers,
  };
}

/** The work that a gap was likely spent on. */
function likelyOf(
  gap: Interval,
  bookings: readonly (WorkedRow & Row<'booking', 'starts_at' | 'ends_at'>)[],
  entries: readonly EntryWire[],
): DaySheetWire['open'][number]['likely'] {
  const found = likelyWork(
    gap,
    bookings.map((b) => ({
      from: b.starts_at,
      to: b.ends_at,
      work: namedWork(b),
    })),
    entries
      .filter((e) => e.workKind !== 'internal work')
      .map((e) => ({ from: parseInstant(e.startsAt), to: parseInstant(e.endsAt), work: naming(e) })),
  );
  return found ? { ...found.work, because: found.because } : null;
}

/** Other recorded time of somebody that a span would lie over. */
export async function readOver(db: Db, { personId, except }: { personId: Id<'person'>; except?: string | undefined }, span: Interval) {
  const rows: (Row<'time_entry', 'starts_at' | 'ends_at'> & Row<'work_facts', 'number' | 'subject'>)[] = await db('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .where({ 'e.person_id': personId })
    .whereNull('e.removed_at')
    .where('e.starts_at', '<', at(span.to))
    .where('e.ends_at', '>', at(span.from))
    .modify((q) => except && void q.whereNot('e.id', except))
    .orderBy('e.starts_at')
    .select('e.starts_at', 'e.ends_at', 'w.number', 'w.subject');
  return rows.map((e) => ({
    from: formatInstant(e.starts_at),
    to: formatInstant(e.ends_at),
    number: e.number,
    what: e.subject,
  }));
}

/** What was said of an entry when it was returned last. */
export const REMARK = `(select d.remark from time_decision d where d.entry_id = e.id and d.decision = 'return' order by d.id desc limit 1) as remark`;

type Narrow = (query: ReturnType<Db>) => unknown;

export async function readEntries(db: Db, narrow: Narrow): Promise<{ person: string; entry: EntryWire }[]> {
  const query = db('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .join('activity as a', 'a.id', 'e.activity_id')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .whereNull('e.removed_at');
  narrow(query as never);
  const rows = await query
    .orderBy('e.starts_at')
    .select(
      'e.*',
      'p.name as person',
      'a.name as activity',
      'w.number',
      'w.subject',
      'c.name as client',
      db.raw(REMARK),
      db.raw(`exists (select 1 from charge ch where ch.time_entry_id = e.id and ch.state in ('approved', 'waived')) as frozen`),
    );
  const ids = rows.map((e) => e.id as string);
  const [added, effects] = await Promise.all([readAddedAmounts(db, ids), readEffects(db, ids)]);
  return rows.map((e) => {
    const entry: EntryWire = {
      id: e.id,
      version: e.version,
      ...namedWork(e),
      client: e.client,
      startsAt: formatInstant(e.starts_at),
      endsAt: formatInstant(e.ends_at),
      minutes: e.minutes,
      activity: e.activity,
      activityId: e.activity_id,
      note: e.note,
      billable: e.billable,
      reason: e.reason,
      insideNote: e.inside_note,
      distance: e.distance && plainDecimal(e.distance),
      distanceUnit: e.distance_unit,
      frozen: e.frozen,
      approval: e.approval,
      remark: e.approval === 'returned' ? e.remark : null,
      corrects: e.corrects !== null,
      effect: sentEffect(withAddedAmounts({ ...effects.get(e.id)!, minutes: e.minutes }, added.get(e.id) ?? [])),
    };
    return { person: e.person as string, entry };
  });
}

export async function readTimers(db: Db, personId: Id<'person'>, now: Instant): Promise<TimerWire[]> {
  const rows = await db('timer as m')
    .join('work_facts as w', 'w.id', 'm.work_id')
    .where({ 'm.person_id': personId })
    .orderByRaw('m.running_since is null, m.started_at')
    .select('m.*', 'w.number', 'w.subject');
  return rows.map((m) => ({
    id: m.id,
    ...namedWork(m),
    startedAt: formatInstant(m.started_at),
    runningSince: wireAt(m.running_since),
    seconds: m.counted_seconds + (m.running_since === null ? 0 : Math.max(0, now - m.running_since)),
  }));
}
