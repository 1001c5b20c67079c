import { clipText, type Id, type Instant, isRefusal, type Outcome, plusSeconds, type ReadCalendar, storableText } from '@core/ground';
import { fetchCalendar } from '../../adapters/calendars/fetch-calendar';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { byJob } from '../../app/actor';
import { transact, type Work } from '../../app/work';

const JOB = byJob('calendars');
const DAY = 86_400;
const MOST_WORDS = 500;
const MOST_UID = 500;
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

async function readOne(app: App, id: Id<'outside_calendar'>): Promise<void> {
  const calendar: Row<'outside_calendar'> | undefined = await app.knex('outside_calendar').where({ id }).first();
  if (!calendar) return;
  const now = app.clock.now();
  // Asking and reading happen before the transaction: both may take their time.
  const fresh = await ask(app, calendar);
  const read =
    fresh instanceof Error ? fresh : await readText(app, { now, text: fresh?.text ?? calendar.body ?? '', quotes: !calendar.address });
  await transact(app, { now, actor: JOB }, async (work) => {
    // Removed meanwhile, or read by another process: the row says.
    if (!(await work.tx('outside_calendar').where({ id }).forUpdate().first('id'))) return {};
    const row = work.tx('outside_calendar').where({ id });
    if (read instanceof Error) await row.update({ trouble: clipText(read.message, MOST_WORDS) });
    else if (isRefusal(read)) await row.update({ trouble: clipText(read.detail, MOST_WORDS) });
    else {
      await keepAppointments(work, id, read);
      const kept = fresh && !(fresh instanceof Error) ? { body: storableText(fresh.text), etag: fresh.etag } : {};
      await row.update({ ...kept, trouble: saidOfCut(read), read_at: at(now) });
    }
    await work.emit('outside-calendar', id, { personId: calendar.person_id });
    await work.emit('booking', null, { personId: calendar.person_id });
    return {};
  });
}

/** @returns undefined where nothing changed since, or what went wrong */
async function ask(
  app: App,
  calendar: Row<'outside_calendar', 'address' | 'body' | 'etag'>,
): Promise<{ text: string; etag: string | null } | undefined | Error> {
  if (!calendar.address) return undefined;
  const got = await fetchCalendar(calendar.address, calendar.body ? calendar.etag : null, app.outsideAllowed).catch(
    (fault: Error) => fault,
  );
  return got === 'unchanged' ? undefined : got;
}

/** Reads a calendar's text over the span that dispatch looks at, in a worker. */
export function readText(
  app: App,
  { now, text, quotes }: { readonly now: Instant; readonly text: string; readonly quotes: boolean },
): Promise<Outcome<ReadCalendar>> {
  const span = { from: plusSeconds(now, -30 * DAY), to: plusSeconds(now, 370 * DAY) };
  return app.calendars.read(text, { span, zone: app.house.house.zone, quotes });
}

/** What was not shown, or not all of it; null where all is. */
export function saidOfCut({ cut }: ReadCalendar): string | null {
  return cut.length ? clipText(`It was read, but not all of it is shown. ${cut.join(' ')}`, MOST_WORDS) : null;
}

/** Lays the appointments of a calendar anew. */
export async function keepAppointments(work: Work, calendarId: string, { appointments }: ReadCalendar): Promise<void> {
  await work.tx('outside_appointment').where({ calendar_id: calendarId }).delete();
  const rows = appointments.map((a) => ({
    calendar_id: calendarId,
    uid: clipText(a.uid, MOST_UID),
    starts_at: at(a.from),
    ends_at: at(a.to),
    summary: storableText(a.summary),
  }));
  for (let n = 0; n < rows.length; n += ROWS_AT_ONCE) await work.tx('outside_appointment').insert(rows.slice(n, n + ROWS_AT_ONCE));
}
