import { readAppointments } from '@core/icalendar';
import { isRefusal, type Outcome } from '@core/outcome';
import { plusSeconds, type Instant, type Interval } from '@core/time';
import { fetchCalendar } from '../adapters/calendars/fetch-calendar';
import type { App } from '../app/app';
import { at, type Columns } from '../app/database';
import { transact, type Actor, type Work } from '../app/work';
import type { HouseBook } from '../house/house-book';

const JOB: Actor = { personId: null, name: 'calendars', role: null, via: 'job' };
const DAY = 86_400;
const MOST_WORDS = 500;
const ROWS_AT_ONCE = 1000;

/** Job: reads one calendar again, or all that have an address. Trouble is kept with the calendar and shown to its owner. */
export async function readCalendars(app: App, { calendarId }: { readonly calendarId?: string }): Promise<void> {
  const ids: string[] = await app
    .knex('outside_calendar')
    .modify((q) => calendarId && void q.where({ id: calendarId }))
    .orderBy('made_at')
    .pluck('id');
  for (const id of ids) await readOne(app, id);
}

async function readOne(app: App, id: string): Promise<void> {
  const calendar: Columns | undefined = await app.knex('outside_calendar').where({ id }).first();
  if (!calendar) return;
  const now = app.clock.now();
  const got = calendar['address']
    ? await fetchCalendar(calendar['address'], calendar['body'] ? calendar['etag'] : null).catch((fault: Error) => fault)
    : 'unchanged';
  await transact(app.knex, now, JOB, async (work) => {
    // Removed meanwhile, or read by another process: the row says.
    if (!(await work.tx('outside_calendar').where({ id }).forUpdate().first('id'))) return {};
    const trouble = got instanceof Error ? got.message : await keepBody(work, app.house, calendar, got === 'unchanged' ? undefined : got);
    await work
      .tx('outside_calendar')
      .where({ id })
      .update(trouble ? { trouble: trouble.slice(0, MOST_WORDS) } : { trouble: null, read_at: at(now) });
    await work.emit('outside-calendar', id);
    await work.emit('booking', null);
    return {};
  });
}

/** @returns what is wrong with it, if anything is: then what was read before stays */
async function keepBody(
  work: Work,
  book: HouseBook,
  calendar: Columns,
  fresh: { readonly text: string; readonly etag: string | null } | undefined,
): Promise<string | undefined> {
  const kept = await keepAppointments(work, book, calendar['id'], fresh?.text ?? calendar['body']);
  if (isRefusal(kept)) return kept.detail;
  if (fresh) await work.tx('outside_calendar').where({ id: calendar['id'] }).update({ body: fresh.text, etag: fresh.etag });
  return undefined;
}

/** Lays the appointments of a calendar's text anew, over the span that dispatch looks at. */
export async function keepAppointments(work: Work, book: HouseBook, calendarId: string, text: string): Promise<Outcome<{ count: number }>> {
  const found = readAppointments(text, spanRead(work.now), book.house.zone);
  if (isRefusal(found)) return found;
  await work.tx('outside_appointment').where({ calendar_id: calendarId }).delete();
  const rows = found.map((a) => ({ calendar_id: calendarId, uid: a.uid, starts_at: at(a.from), ends_at: at(a.to), summary: a.summary }));
  for (let n = 0; n < rows.length; n += ROWS_AT_ONCE) await work.tx('outside_appointment').insert(rows.slice(n, n + ROWS_AT_ONCE));
  return { count: rows.length };
}

function spanRead(now: Instant): Interval {
  return { from: plusSeconds(now, -30 * DAY), to: plusSeconds(now, 370 * DAY) };
}
