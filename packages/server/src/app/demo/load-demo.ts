import type { Knex } from 'knex';
import { DEFAULT_CLOSING_RULES, DEFAULT_PRIORITY_MATRIX } from '@core/desk';
import { dateOf, instantAt, parseZone, plusDays, weekdayOf, type Instant, type LocalDate } from '@core/ground';
import { HouseBook } from '../../house/house/house-book';
import { hashPassword } from '../../house/access/passwords';
import { at } from '../database';
import { learnFrom } from '../../scheduling/estimates/learn';
import { loadDemoAhead } from './load-demo-ahead';
import { loadDemoAsked } from './load-demo-asked';
import type { BlobStore } from '../blob-store';
import { loadDemoDispatch } from './load-demo-dispatch';
import { loadDemoReceipts } from './load-demo-receipts';
import { loadDemoCategories, loadDemoOnCall } from './load-demo-categories';
import { loadDemoContracts, tellDemoLatecomers } from './load-demo-contracts';
import { loadDemoClients } from './load-demo-clients';
import { loadDemoAbsences } from './load-demo-absences';
import { loadDemoTime } from './load-demo-time';
import { loadDemoCanned, loadDemoFees } from './load-demo-fees';
import { tellDemoStory } from './load-demo-work';
import { DEMO_DESKS, DEMO_PEOPLE, DEMO_TEAMS, demoEmail, isDemoTechnician } from './demo-people';

export const DEMO_SEED = 20_261_124;
export const DEMO_ZONE = parseZone('Europe/Dublin');
/** Everybody's password in the demo. */
export const DEMO_PASSWORD = 'drumline-demo';

/** Tuesday 10:40 of the week in which `real` falls, in the provider's zone. */
export function storyInstant(real: Instant): Instant {
  const today = dateOf(real, DEMO_ZONE);
  return instantAt(plusDays(today, 2 - weekdayOf(today)), 10 * 60 + 40, DEMO_ZONE);
}

export interface DemoOptions {
  /** The machine's time, from which the week of the story follows. */
  readonly real: Instant;
  /** How many days of the past are told. */
  readonly days: number;
  /** Where receipts are kept; without it no expense has one. */
  readonly blobs?: BlobStore;
  /** Whose work contracts cover: that of most clients, or of one, so that all others' is charged by the hour. */
  readonly covered?: 'most' | 'one';
}

/** Loads the whole demo in one transaction: all of it or nothing. */
export async function loadDemo(knex: Knex, { real, days, blobs, covered = 'most' }: DemoOptions): Promise<void> {
  const story = storyInstant(real);
  const book = new HouseBook();
  await knex.transaction(async (tx) => {
    await loadHouse(tx, story, story - real);
    await book.load(tx);
    await loadPeople(tx, story);
    await loadDemoCategories(tx);
    await loadDemoOnCall(tx, story, DEMO_ZONE);
    await loadDemoClients(tx, dateOf(story, DEMO_ZONE));
    await loadDemoFees(tx);
    await loadDemoCanned(tx);
    await book.load(tx);
    await loadDemoContracts(tx, book, { story, days, covered });
    await loadDemoAbsences(tx, book, { story, zone: DEMO_ZONE });
    const free = await tellDemoStory(tx, book, { story, days });
    await loadDemoAsked(tx, story, DEMO_ZONE);
    await loadDemoDispatch(tx, story, DEMO_ZONE);
    await loadDemoTime(tx, book, { story, zone: DEMO_ZONE, days, free });
    await tellDemoLatecomers(tx, book, story);
    if (blobs) await loadDemoReceipts(tx, blobs);
    await loadDemoAhead(tx, book, story);
    await learnFrom(tx, story);
    await tx('outbox').delete();
  });
  await knex.raw('analyze');
}

async function loadHouse(tx: Knex.Transaction, story: Instant, offset: number): Promise<void> {
  const year = Number(dateOf(story, DEMO_ZONE).slice(0, 4));
  const closed = Object.fromEntries(
    [year - 1, year, year + 1].flatMap((y) => [
      [`${y}-01-01`, []],
      [`${y}-03-17`, []],
      [`${y}-12-25`, []],
      [`${y}-12-26`, []],
    ]),
  );
  const divisions = await tx('division')
    .insert([
      { name: 'Managed services' },
      {
        name: 'Workshop',
        brand: 'Pellworth Workshop',
        mail_from: 'workshop@pellworth.example',
        labour_tax: JSON.stringify({ category: 'S', percent: '13.5' }),
      },
    ])
    .returning('id');
  const week = (hours: string) => [...Array<string[]>(5).fill([hours]), [], []];
  const [calendar] = await tx('calendar')
    .insert({
      name: 'Pellworth hours',
      written: JSON.stringify({ name: 'Pellworth hours', zone: DEMO_ZONE, week: week('08:00-18:00'), dates: closed }),
    })
    .returning('id');
  await tx('calendar').insert({
    name: 'Ostrand hours',
    written: JSON.stringify({ name: 'Ostrand hours', zone: 'America/New_York', week: week('09:00-17:00'), dates: {} }),
  });
  const versionId = await loadPromises(tx, story);
  await tx('grade').insert([
    { name: 'engineer', position: 1 },
    { name: 'senior engineer', position: 2 },
    { name: 'architect', position: 3 },
  ]);
  await loadActivities(tx);
  await tx('provider').insert({
    name: 'Pellworth Harbour Systems',
    zone: DEMO_ZONE,
    currency: 'EUR',
    seller: JSON.stringify({
      name: 'Pellworth Harbour Systems',
      street: '3 Rope Walk',
      city: 'Pellworth',
      postcode: 'PW1 4RS',
      country: 'IE',
      taxNumber: 'IE1234567T',
      email: 'accounts@pellworth.example',
      phone: '+353 20 910 0100',
      account: 'IE87PELL99021200004711',
    }),
    calendar_id: calendar!.id,
    promise_version_id: versionId,
    mail_from: 'desk@pellworth.example',
  });
  await tx('ticket_settings').insert({
    priority_matrix: JSON.stringify(DEFAULT_PRIORITY_MATRIX),
    closing_rules: JSON.stringify({ resolved: DEFAULT_CLOSING_RULES }),
  });
  await tx('on_call_settings').insert({ id: 1 });
  await tx('time_settings').insert({
    band_pricing: JSON.stringify({ 'working hours': { factor: '1' }, 'out of hours': { factor: '1.5' }, holiday: { factor: '2' } }),
    labour_tax: JSON.stringify({ category: 'S', percent: '23' }),
    distance_rate: '0.62',
    distance_paid_back: '0.42',
  });
  await tx('demo').insert({ clock_offset_seconds: offset });
  const teams = await tx('team')
    .insert(DEMO_TEAMS.map((name, position) => ({ name, position })))
    .returning(['id', 'name']);
  await tx('desk').insert(
    DEMO_DESKS.map((d, position) => ({
      division_id: divisions[0]!.id,
      name: d.name,
      letter: d.letter,
      team_id: teams.find((t) => t.name === d.team)!.id,
      position,
    })),
  );
  await tx('invoice_series').insert([
    { division_id: divisions[0]!.id, prefix: 'PH-', last_number: 1200 },
    { division_id: divisions[1]!.id, prefix: 'PW-', last_number: 300 },
    { division_id: divisions[0]!.id, kind: 'credit note', prefix: 'PHC-', last_number: 40 },
    { division_id: divisions[1]!.id, kind: 'credit note', prefix: 'PWC-', last_number: 10 },
  ]);
}

async function loadPromises(tx: Knex.Transaction, story: Instant): Promise<string> {
  const on = (calendar: string) => (minutes: number) => ({ minutes, on: calendar });
  const [own, always] = [on('provider'), on('round the clock')];
  const kinds = [
    {
      name: 'Standard',
      targets: {
        defaultPriority: 'P3',
        warnAt: [75],
        triage: own(15),
        response: { P1: own(30), P2: own(60), P3: own(120), P4: own(480) },
        update: { P1: own(60), P2: own(480), P3: own(1200), P4: own(3000) },
        resolution: { P1: own(240), P2: own(480), P3: own(960), P4: own(2400) },
      },
    },
    {
      name: 'Strict replies',
      targets: {
        defaultPriority: 'P3',
        warnAt: [75],
        triage: own(15),
        response: { P1: own(15), P2: own(30), P3: own(60), P4: own(240) },
        update: { P1: own(45), P2: own(240), P3: own(1200), P4: own(2400) },
        resolution: { P1: own(180), P2: own(360), P3: own(720), P4: own(1800) },
      },
    },
    {
      name: 'Round the clock',
      targets: {
        defaultPriority: 'P3',
        warnAt: [75],
        triage: own(15),
        response: { P1: always(15), P2: always(30), P3: own(120), P4: own(480) },
        update: { P1: always(60), P2: always(240), P3: own(1200), P4: own(3000) },
        resolution: { P1: always(240), P2: always(480), P3: own(960), P4: own(2400) },
      },
    },
  ];
  let house = '';
  for (const { name, targets } of kinds) {
    const [promise] = await tx('promise').insert({ name }).returning('id');
    const [version] = await tx('promise_version')
      .insert({ promise_id: promise!.id, version: 1, targets: JSON.stringify(targets), created_at: at(story) })
      .returning('id');
    house ||= version!.id;
  }
  return house;
}

async function loadActivities(tx: Knex.Transaction): Promise<void> {
  const rounding = (increment: number, minimum: number) => JSON.stringify({ increment, mode: 'up', minimum });
  const factor = (f: string) => JSON.stringify({ factor: f });
  await tx('activity').insert([
    { name: 'remote', rounding: rounding(5, 15), pricing: factor('1'), call_out_fee: null, position: 1 },
    { name: 'on site', rounding: rounding(15, 30), pricing: factor('1.1'), call_out_fee: '45', position: 2, visit: true },
    { name: 'workshop', rounding: rounding(15, 15), pricing: factor('0.9'), call_out_fee: null, position: 3 },
    {
      name: 'travel',
      rounding: rounding(15, 15),
      pricing: JSON.stringify({ fixedRate: '48' }),
      call_out_fee: null,
      position: 4,
      travel: true,
    },
  ]);
  const grades = await tx('grade').select('id', 'name');
  const rates: Record<string, string> = { engineer: '88', 'senior engineer': '104', architect: '132' };
  await tx('rate_rule').insert(
    grades.map((g) => ({ level: 'default', grade_id: g.id, rate: rates[g.name], valid_from: '2020-01-01' as LocalDate })),
  );
}

/** What an hour of each grade costs. */
const COSTS: Readonly<Record<string, string>> = { engineer: '37', 'senior engineer': '46', architect: '61' };

async function loadPeople(tx: Knex.Transaction, story: Instant): Promise<void> {
  const [grades, teams] = [await tx('grade').select('id', 'name'), await tx('team').select('id', 'name')];
  const hash = await hashPassword(DEMO_PASSWORD);
  const week = [...Array<string[]>(5).fill(['08:00-12:30', '13:15-17:15']), [], []];
  for (const person of DEMO_PEOPLE) {
    const [row] = await tx('person')
      .insert({
        name: person.name,
        email: demoEmail(person.name),
        password_hash: hash,
        role: person.role,
        grade_id: grades.find((g) => g.name === person.grade)?.id ?? null,
        team_id: teams.find((t) => t.name === person.team)?.id ?? null,
        technician: isDemoTechnician(person),
        created_at: at(story),
      })
      .returning('id');
    if (person.grade)
      await tx('person_hours').insert({
        person_id: row!.id,
        week: JSON.stringify(person.name === 'Fionn Hartigan' ? [...Array<string[]>(5).fill(['10:00-16:00']), [], []] : week),
      });
    if (person.grade) await tx('cost_rate').insert({ person_id: row!.id, from_on: '2020-01-01' as LocalDate, rate: COSTS[person.grade]! });
  }
}
