import { createHash, randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import ical, { ICalEventRepeatingFreq } from 'ical-generator';
import { escape, page } from '../page';

/** An appointment on the stand-in, at instants. */
export interface StandInAppointment {
  readonly summary: string;
  readonly start: Date;
  readonly end: Date;
  readonly weekly?: boolean;
}
/** How it behaves: for trying what happens when it refuses, or answers with something else. */
export type CalendarSwitch = 'normal' | 'refuse' | 'not a calendar' | 'lead inside';

/** A small calendar server: each name is a calendar at /NAME.ics, with an ETag; its page adds appointments. */
export async function startCalendarStandIn({ port, first = {} }: { port: number; first?: Record<string, StandInAppointment[]> }) {
  const calendars = new Map(Object.entries(first).map(([name, all]) => [name, all.map((a) => ({ id: randomUUID(), ...a }))]));
  let mode: CalendarSwitch = 'normal';
  let answered = 0;
  const app = express();
  app.use(express.urlencoded({ extended: false }));
  app.get('/:file.ics', (req, res) => {
    const own = calendars.get(req.params.file);
    if (mode === 'refuse') return void res.status(503).send('closed by the stand-in');
    if (mode === 'not a calendar') return void res.type('html').send('<html>Please sign in</html>');
    if (mode === 'lead inside') return void res.redirect(302, 'http://127.0.0.1:1/inside.ics');
    if (!own) return void res.status(404).send('no such calendar');
    const etag = `"${createHash('sha256').update(JSON.stringify(own)).digest('hex').slice(0, 16)}"`;
    if (req.get('if-none-match') === etag) return void res.status(304).end();
    const feed = ical({ prodId: { company: 'Stand-in', product: 'Calendar', language: 'EN' }, name: req.params.file });
    for (const a of own) feed.createEvent({ ...a, ...(a.weekly ? { repeating: { freq: ICalEventRepeatingFreq.WEEKLY, count: 52 } } : {}) });
    answered++;
    res.setHeader('etag', etag);
    res.type('text/calendar').send(feed.toString());
  });
  app.post('/add', (req, res) => {
    const { name, summary, start, end, weekly } = req.body as Record<string, string>;
    add(String(name), { summary: String(summary), start: new Date(`${start}Z`), end: new Date(`${end}Z`), weekly: weekly === 'on' });
    res.redirect(303, '/');
  });
  app.get('/', (_req, res) => {
    const list = [...calendars].map(
      ([name, all]) =>
        `<h2><a href="/${encodeURIComponent(name)}.ics">/${escape(name)}.ics</a></h2><ul>${all.map((a) => `<li>${escape(a.summary)}, ${a.start.toISOString()} to ${a.end.toISOString()}${a.weekly ? ', every week' : ''}</li>`).join('')}</ul>`,
    );
    const form = `<form method="post" action="/add"><label>Calendar <input type="text" name="name" value="deepa" required></label><label>What <input type="text" name="summary" required></label>
      <label>From (UTC) <input type="datetime-local" name="start" required></label><label>To (UTC) <input type="datetime-local" name="end" required></label>
      <label><input type="checkbox" name="weekly"> every week</label><p><button>Add</button></p></form>`;
    res.send(page('Calendar stand-in', list.join('') + form));
  });
  function add(name: string, appointment: StandInAppointment): void {
    calendars.set(name, [...(calendars.get(name) ?? []), { id: randomUUID(), ...appointment }]);
  }
  const server = createServer(app);
  await new Promise<void>((ready, failed) => server.once('error', failed).listen(port, '127.0.0.1', ready));
  return {
    port: (server.address() as AddressInfo).port,
    add,
    clear: (name: string) => void calendars.set(name, []),
    switchTo: (to: CalendarSwitch) => void (mode = to),
    /** How often a whole calendar was given. */
    answered: () => answered,
    stop: () => new Promise<void>((done) => server.close(() => done())),
  };
}
