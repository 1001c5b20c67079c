import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseInstant, parseZone, readAppointments, type ReadCalendar } from '@core/ground';
import { startCalendarStandIn } from '../../../../standins/src/calendar/calendar-standin';
import { detailOf, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let deepa: Script;
let tomasz: Script;
let outside: Awaited<ReturnType<typeof startCalendarStandIn>>;
let deepaId: string;
beforeAll(async () => {
  world = await startWorld();
  [deepa, tomasz] = [await world.as('Deepa'), await world.as('Tomasz')];
  outside = await startCalendarStandIn({ port: 0 });
  deepaId = (await world.knex('person').where('name', 'like', 'Deepa%').first('id')).id;
});
afterAll(async () => {
  await outside.stop();
  await world.stop();
});

const at = (time: string, day = '26') => `2026-11-${day}T${time}:00Z`;
const mine = async () => (await deepa.do('listOutsideCalendars')).calendars;
const away = async (day = '2026-11-26') =>
  (await tomasz.do('getDispatch', { query: { day } })).lanes.find((l) => l.personId === deepaId)!.days[0]!;
const add = (body: object) => deepa.ask('addOutsideCalendar', { body: { name: 'own', address: null, file: null, ...body } });
const address = (name: string) => `http://127.0.0.1:${outside.port}/${name}.ics`;
const again = (id: string) => deepa.do('readOutsideCalendar', { params: { outsideCalendarId: id } });
const FILE = (more = '') =>
  `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//made up//EN\r\nBEGIN:VEVENT\r\nUID:one\r\nDTSTART:20261127T100000Z\r\nDTEND:20261127T110000Z\r\nSUMMARY:Choir${more}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`;

describe('calendars read in', () => {
  it('show as busy on lanes from an address, are kept up with, and stay through trouble, which is said', async () => {
    outside.add('deepa', { summary: 'Dentist', start: new Date(at('14:00')), end: new Date(at('15:00')) });
    const before = await away();
    const { id } = (await add({ address: address('deepa') })).body as { id: string };
    await until('the first reading', async () => (await mine())[0]?.readAt);
    const after = await away();
    expect(after.away).toContainEqual({ from: at('14:00'), to: at('15:00'), what: 'busy: own' });
    expect(after.availableMinutes).toBe(before.availableMinutes - 60);
    // Others see that she is busy, and not with what; her expected time stays.
    expect(JSON.stringify(after)).not.toContain('Dentist');
    expect((await mine())[0]!.next[0]!.summary).toBe('Dentist');
    expect((await deepa.do('getDaySheet', { query: { day: '2026-11-26' } })).expectedMinutes).toBe(before.availableMinutes);
    // What is offered and planned keeps off it.
    const fits = await tomasz.do('listGapFits', { query: { personId: deepaId, from: at('14:05'), to: at('14:55') } });
    expect(fits.fits).toEqual([]);
    outside.add('deepa', { summary: 'Parents evening', start: new Date(at('09:00')), end: new Date(at('10:00')) });
    await again(id);
    await until('the newer reading', async () => (await away()).away.length === 2);
    const given = outside.answered();
    await again(id);
    await until('asking in vain', async () => (await world.knex('outside_calendar').where({ id }).first('read_at')).read_at);
    expect(outside.answered()).toBe(given);
    for (const [mode, says] of [
      ['refuse', 'answered 503'],
      ['not a calendar', 'is no calendar'],
    ] as const) {
      // prettier-ignore
      outside.switchTo(mode);
      await again(id);
      await until(`trouble: ${says}`, async () => (await mine())[0]!.trouble?.includes(says));
      expect((await away()).away).toHaveLength(2);
    }
    outside.switchTo('normal');
    outside.clear('deepa');
    await again(id);
    await until('no trouble', async () => (await mine())[0]!.trouble === null);
    expect((await away()).away).toEqual([]);
    await deepa.do('removeOutsideCalendar', { params: { outsideCalendarId: id } });
    expect(await mine()).toEqual([]);
  });

  it('are read from a file, whole or not at all', async () => {
    const bad = await add({ file: 'name,phone\r\n' });
    expect([bad.status, detailOf(bad)]).toEqual([422, expect.stringContaining('This is no calendar: it begins with "name,phone"')]);
    for (const body of [{}, { address: 'ftp://x', file: null }, { address: address('x'), file: FILE() }])
      expect((await add(body)).status).toBe(422);
    expect(await mine()).toEqual([]);
    const { id } = (await add({ name: 'Choir', file: FILE('\r\nRRULE:FREQ=WEEKLY;COUNT=4') })).body as { id: string };
    expect((await mine())[0]).toMatchObject({ ahead: 4, trouble: null, address: null });
    expect((await away('2026-12-04')).away).toEqual([{ from: '2026-12-04T10:00:00Z', to: '2026-12-04T11:00:00Z', what: 'busy: Choir' }]);
    expect((await deepa.ask('readOutsideCalendar', { params: { outsideCalendarId: id } })).status).toBe(409);
    // Nobody else sees or removes it.
    const sora = await world.as('Sora');
    expect((await sora.do('listOutsideCalendars')).calendars).toEqual([]);
    expect((await sora.do('removeOutsideCalendar', { params: { outsideCalendarId: id } })).removed).toBe(0);
    await deepa.do('removeOutsideCalendar', { params: { outsideCalendarId: id } });
  });

  it('say that an address cannot be reached', async () => {
    const { id } = (await add({ address: 'http://127.0.0.1:1/nobody.ics' })).body as { id: string };
    await until('trouble', async () => (await mine()).find((c) => c.id === id)?.trouble?.includes('could not be reached'));
    await deepa.do('removeOutsideCalendar', { params: { outsideCalendarId: id } });
  });

  it('hold nobody up with rules that never end: the reading is ended, what was read before stays, and why is said', async () => {
    const hard = FILE('\r\nRRULE:FREQ=DAILY;INTERVAL=7;BYDAY=MO');
    let ended = false;
    const reading = add({ file: hard }).finally(() => (ended = true));
    for (let n = 0; n < 5; n++) expect([(await fetch(`${world.base}/readyz`)).status, ended]).toEqual([200, false]);
    const never = await reading;
    expect([never.status, detailOf(never)]).toEqual([422, expect.stringContaining('may never fall due')]);
    const { id } = (await add({ name: 'Feb', file: FILE('\r\nRRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30') })).body as { id: string };
    expect((await mine()).find((c) => c.id === id)).toMatchObject({ ahead: 0, trouble: expect.stringContaining('never falls due') });
    await deepa.do('removeOutsideCalendar', { params: { outsideCalendarId: id } });
  });

  it('are asked for only where they may be, however the address is spelled and wherever it leads', async () => {
    const strict = await startWorld({ OUTSIDE_ALLOWED: `127.0.0.1:${outside.port}` });
    try {
      const script = await strict.as('Deepa');
      const spellings = [
        'http://localhost:1/',
        'http://127.0.0.1:1/',
        'http://127.1:1/',
        'http://2130706433/',
        'http://0x7f.0.0.1/',
        'http://[::1]/',
        'http://[::ffff:127.0.0.1]/',
        'http://169.254.169.254/latest',
        'http://10.0.0.1/',
        'http://0.0.0.0:1/',
        `http://localhost:${outside.port}/deepa.ics`,
      ];
      outside.switchTo('lead inside');
      for (const given of [...spellings, address('deepa')]) {
        const { id } = await script.do('addOutsideCalendar', { body: { name: 'x', address: given, file: null } });
        const trouble = await until(given, async () => (await script.do('listOutsideCalendars')).calendars[0]?.trouble);
        expect([given, trouble]).toEqual([given, expect.stringContaining('in a network of our own')]);
        await script.do('removeOutsideCalendar', { params: { outsideCalendarId: id } });
      }
    } finally {
      outside.switchTo('normal');
      await strict.stop();
    }
  });

  it('repeat as a reader that nobody here wrote repeats them', () => {
    const rules = [
      'FREQ=DAILY;INTERVAL=3;UNTIL=20261231T235959Z',
      'FREQ=WEEKLY;BYDAY=MO,WE,FR;COUNT=40',
      'FREQ=MONTHLY;BYDAY=-1FR;COUNT=12',
      'FREQ=MONTHLY;BYMONTHDAY=31;COUNT=6',
      'FREQ=YEARLY;BYMONTH=3,10;BYDAY=-1SU;COUNT=6',
    ];
    const folder = mkdtempSync(join(tmpdir(), 'drumline-repeat-'));
    for (const rule of rules) {
      const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//made up//EN\r\nBEGIN:VEVENT\r\nUID:r\r\nDTSTART:20260105T083000Z\r\nDTEND:20260105T093000Z\r\nRRULE:${rule}\r\nSUMMARY:x\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`;
      writeFileSync(join(folder, 'r.ics'), text);
      const theirs = JSON.parse(execFileSync('/usr/bin/python3', ['-c', REPEAT, join(folder, 'r.ics')]).toString()) as number[];
      const span = { from: parseInstant('2026-01-01T00:00:00Z'), to: parseInstant('2030-01-01T00:00:00Z') };
      const ours = readAppointments(text, { span, zone: parseZone('Europe/Dublin'), quotes: true }) as ReadCalendar;
      expect(ours.appointments.map((a) => a.from)).toEqual(theirs);
      expect(theirs.length).toBeGreaterThan(4);
    }
  });
});

const REPEAT = `
import json, sys, vobject
event = vobject.readOne(open(sys.argv[1]).read()).vevent
print(json.dumps([int(d.timestamp()) for d in event.getrruleset(addRDate=False)]))
`;
