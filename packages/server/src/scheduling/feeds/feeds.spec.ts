import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { formatInstant, plusSeconds } from '@core/ground';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
let deepa: Script;
let ids: Record<'Deepa' | 'Sora', string>;
let workId: string;
beforeAll(async () => {
  world = await startWorld();
  [tomasz, deepa] = [await world.as('Tomasz'), await world.as('Deepa')];
  const idOf = async (name: string) => (await world.knex('person').where('name', 'like', `${name}%`).first('id')).id;
  ids = { Deepa: await idOf('Deepa'), Sora: await idOf('Sora') };
  workId = (await world.knex('ticket').where({ status: 'queued', kind: 'incident' }).whereNull('umbrella_id').orderBy('number').first('id'))
    .id;
});
afterAll(() => world.stop());

const READ = `
import json, sys, vobject
cal = vobject.readOne(open(sys.argv[1]).read())
print(json.dumps([{
  'uid': e.uid.value, 'sequence': int(e.sequence.value) if hasattr(e, 'sequence') else None, 'summary': e.summary.value,
  'start': int(e.dtstart.value.timestamp()), 'end': int(e.dtend.value.timestamp()), 'status': e.status.value,
} for e in cal.vevent_list]))
`;
interface Seen {
  readonly uid: string;
  readonly sequence: number;
  readonly summary: string;
  readonly start: number;
  readonly end: number;
  readonly status: string;
}
const folder = mkdtempSync(join(tmpdir(), 'drumline-feed-'));
const pathOf = (address: string) => world.base + new URL(address).pathname;
/** The feed as a reader that nobody here wrote understands it. */
async function read(address: string): Promise<Seen[]> {
  const answer = await fetch(pathOf(address));
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, expect.stringContaining('text/calendar')]);
  const file = join(folder, 'feed.ics');
  writeFileSync(file, await answer.text());
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', READ, file]).toString()) as Seen[];
}

describe('a schedule as a calendar feed', () => {
  it('has bookings at their instants under UIDs that stay, and tells moves, handovers and cancellations as updates', async () => {
    const startsAt = formatInstant(plusSeconds(world.clock.now(), 7200));
    const booking = await tomasz.do('book', { body: { workId, personId: ids.Deepa, startsAt, minutes: 90 } });
    const { address } = await deepa.do('makeFeed');
    const mine = async (at: string) => (await read(at)).find((e) => e.uid.startsWith(`booking-${booking.id}@`));
    const first = (await mine(address))!;
    expect([first.start, first.end - first.start, first.status]).toEqual([Date.parse(startsAt) / 1000, 5400, 'CONFIRMED']);
    // In summer time, months from now, still the very instant.
    const summer = '2027-07-06T08:30:00Z';
    const moved = await tomasz.do('moveBooking', {
      params: { bookingId: booking.id },
      version: booking.version,
      body: { personId: ids.Deepa, startsAt: summer, minutes: 60 },
    });
    const second = (await mine(address))!;
    expect([second.uid, second.start, second.sequence > first.sequence]).toEqual([first.uid, Date.parse(summer) / 1000, true]);
    const sora = await world.as('Sora');
    const hers = (await sora.do('makeFeed')).address;
    const handed = await tomasz.do('moveBooking', {
      params: { bookingId: booking.id },
      version: moved.version,
      body: { personId: ids.Sora, startsAt: summer, minutes: 60 },
    });
    expect([(await mine(address))!.status, (await mine(hers))!.status]).toEqual(['CANCELLED', 'CONFIRMED']);
    await tomasz.do('cancelBooking', { params: { bookingId: booking.id }, version: handed.version });
    const last = (await mine(hers))!;
    expect([last.status, last.sequence > second.sequence]).toEqual(['CANCELLED', true]);
  });

  it('has time off, is taken by a calendar program as it is, and its address is renewed and ended', async () => {
    await world.knex('time_off').insert({
      person_id: ids.Deepa,
      starts_at: '2026-12-01T09:00:00Z',
      ends_at: '2026-12-01T17:00:00Z',
      reason: 'dentist; twice',
    });
    const { address } = (await deepa.do('getFeed')) as { address: string };
    const seen = await read(address);
    expect(seen.find((e) => e.uid.startsWith('time-off-') && e.summary === 'Away: dentist; twice')).toBeDefined();
    const file = join(folder, 'feed.ics');
    const said = execFileSync('khal', ['-c', khalConfig(), 'printics', '--format', '{title}', file], {
      env: { ...process.env, LC_ALL: 'C.UTF-8', XDG_DATA_HOME: folder, HOME: folder },
    }).toString();
    expect(said).toContain('Away: dentist; twice');
    const renewed = (await deepa.do('makeFeed')).address;
    expect([(await fetch(pathOf(address))).status, (await fetch(pathOf(renewed))).status]).toEqual([404, 200]);
    expect((await deepa.do('endFeed')).removed).toBe(1);
    expect((await fetch(pathOf(renewed))).status).toBe(404);
    expect((await deepa.do('getFeed')).address).toBeNull();
  });
});

function khalConfig(): string {
  const file = join(folder, 'khal.conf');
  writeFileSync(
    file,
    `[calendars]\n[[own]]\npath = ${folder}/calendar\ntype = calendar\n[locale]\nlocal_timezone = Europe/Dublin\ndefault_timezone = Europe/Dublin\n[sqlite]\npath = ${folder}/khal.db\n`,
  );
  return file;
}
