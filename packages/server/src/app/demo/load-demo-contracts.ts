import type { Knex } from 'knex';
import { type Id, type Instant, isRefusal, type LocalDate, type Outcome, plusDays, plusSeconds, dateOf } from '@core/ground';
import { PRESET_PARTS, typedGrant, USUAL_LINE } from '@core/contracts';
import { addLine } from '../../contracts/contracts/contract-lines';
import { addSeats, endSeat } from '../../contracts/contracts/contract-seats';
import { agreeContract, createContract, editAllowance } from '../../contracts/contracts/contract-terms';
import type { HouseBook } from '../../house/house/house-book';
import { byPerson } from '../actor';
import { at } from '../database';
import { type Work, makeWork } from '../work';
import { COVERED_ALWAYS, DEMO_CONTRACTS, type DemoContract, NEARLY_USED, NEVER_SEEN, SEATS_TO_LOOK_AT } from './demo-contracts';

/** So long before the first work that is told of, so that all of it finds what was agreed. */
const AGREED_BEFORE = 20;
const DAY = 86_400;

/** What was agreed with clients, by the application's own commands. */
export async function loadDemoContracts(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, days, covered }: { readonly story: Instant; readonly days: number; readonly covered: 'most' | 'one' },
): Promise<void> {
  const work = await asAccountManager(tx, book, plusSeconds(story, -(days + AGREED_BEFORE) * DAY));
  const today = dateOf(story, book.house.zone);
  const begins = `${plusDays(today, -days).slice(0, 8)}01` as LocalDate;
  await putAwayUntilToldOf(work);
  const drawn = DEMO_CONTRACTS.filter(
    (c) => covered === 'most' || c.draft || !PRESET_PARTS[c.form.preset].covers || c.client === COVERED_ALWAYS,
  );
  for (const demo of drawn) await drawUp(work, demo, { begins, today });
}

/** The story is told of those who are there, so these ask for nothing in it. */
async function putAwayUntilToldOf({ tx, now }: Work): Promise<void> {
  const { client } = DEMO_CONTRACTS.find((c) => c.lines?.some((l) => l.name === SEATS_TO_LOOK_AT))!;
  const { id, domains } = (await tx('client').where('name', 'like', `${client}%`).first('id', 'domains'))!;
  const email = (name: string) => `${name.toLowerCase().replace(' ', '.')}@${domains[0]}`;
  await tx('contact').insert(NEVER_SEEN.map((name) => ({ client_id: id, name, email: email(name), archived_at: at(now) })));
}

async function drawUp(
  work: Work,
  { client, form, lines = [], endsIn, allowance, draft }: DemoContract,
  { begins, today }: { readonly begins: LocalDate; readonly today: LocalDate },
): Promise<void> {
  const { tx } = work;
  const { id: clientId } = (await tx('client').where('name', 'like', `${client}%`).first('id'))!;
  // A draft is of the day after the one that ends.
  const startsOn = draft ? plusDays(today, 51) : begins;
  const lastDay = endsIn === undefined ? null : plusDays(today, endsIn);
  const { id } = done(await createContract(work, { ...form, clientId, startsOn, lastDay }));
  if (draft) return;
  done(await agreeContract(work, { contractId: id as Id<'contract'>, version: 1 }));
  const contractId = id as Id<'contract'>;
  if (allowance) {
    const { id: allowanceId } = (await tx('contract_allowance').where({ contract_id: contractId }).first('id'))!;
    const hours = { name: 'Hours', measure: 'hours', grant: form.grant!, each: 'each period', granted: 'whole', ...allowance } as const;
    done(await editAllowance(work, { contractId, allowanceId, version: 2 }, hours));
  }
  for (const { leaves = 0, ...line } of lines) {
    const { id: lineId } = done(await addLine(work, contractId, { ...USUAL_LINE, startsOn, ...line }));
    if (line.counted === 'flat') continue;
    const units: string[] =
      line.counted === 'seat'
        ? await tx('contact').where({ client_id: clientId }).orderBy('email').pluck('id')
        : await tx('asset').where({ client_id: clientId }).orderBy('number').pluck('id');
    const of = { contractId, lineId: lineId as Id<'contract_line'> };
    done(await addSeats(work, of, { unitIds: units.slice(leaves), startsOn, lastDay: null }));
  }
}

/** What a client says late: the month is billed, and the next run has a true-up to explain. */
export async function tellDemoLatecomers(tx: Knex.Transaction, book: HouseBook, story: Instant): Promise<void> {
  const work = await asAccountManager(tx, book, plusSeconds(story, -3600));
  const today = dateOf(story, book.house.zone);
  await tx('contact').whereIn('name', NEVER_SEEN).update({ archived_at: null });
  const line = (await tx('contract_line').where({ name: SEATS_TO_LOOK_AT }).first('id', 'contract_id'))!;
  const here = { contractId: line.contract_id, lineId: line.id };
  const contacts = await tx('contact as k')
    .join('contract as c', 'c.client_id', 'k.client_id')
    .where('c.id', line.contract_id)
    .orderBy('k.email')
    .select('k.id');
  done(await addSeats(work, here, { unitIds: [contacts[0]!.id], startsOn: plusDays(today, -13), lastDay: null }));
  // The same person in every demo, and none of those who ask for nothing.
  const leaves = (await tx('contract_seat as s')
    .join('contact as k', 'k.id', 's.contact_id')
    .where('s.line_id', line.id)
    .whereNotIn('k.name', NEVER_SEEN)
    .orderBy('k.email', 'desc')
    .first('s.id', 's.version'))!;
  const end = { version: leaves.version, lastDay: plusDays(today, -9) };
  done(await endSeat(work, { contractId: line.contract_id, seatId: leaves.id }, end));
}

/** Of one allowance 92 percent are drawn in the story's month; before its months are billed, so that what is over is billed with them. */
export async function nearlyUseUp(tx: Knex.Transaction, book: HouseBook, story: Instant): Promise<void> {
  const work = await asAccountManager(tx, book, plusSeconds(story, -3600));
  const today = dateOf(story, book.house.zone);
  const allowance = await tx('contract_allowance as a')
    .join('contract as c', 'c.id', 'a.contract_id')
    .where('c.name', NEARLY_USED)
    .first('a.*', 'c.version');
  if (!allowance) return;
  const [{ drawn }] = (
    await tx.raw<{ rows: [{ drawn: number }] }>(
      `select coalesce(sum((d->>'units')::int), 0)::int as drawn from time_entry e join entry_effect x on x.time_entry_id = e.id,
         jsonb_array_elements(x.effect->'under'->'stretches') s, jsonb_array_elements(s->'draws') d
       where e.contract_id = ? and e.removed_at is null and d->>'lot' = ?`,
      [allowance.contract_id, `${today.slice(0, 8)}01`],
    )
  ).rows;
  // Hours that are whole minutes and have two places.
  const units = Math.max(STEP, Math.floor((drawn * 100) / 92 / STEP) * STEP);
  const { id: allowanceId, contract_id: contractId, name, measure, each, granted, version } = allowance;
  const grant = typedGrant(measure, units, book.house.currency);
  const form = { name, measure, each, granted, grant, carryDays: allowance.carry_days, borrowPercent: allowance.borrow_percent };
  done(await editAllowance(work, { contractId, allowanceId, version }, form));
}
const STEP = 3;

async function asAccountManager(tx: Knex.Transaction, book: HouseBook, now: Instant): Promise<Work> {
  const leif = (await tx('person').where({ name: 'Leif Sandvik' }).first('id', 'name'))!;
  const work = makeWork({ tx, now, actor: byPerson({ ...leif, role: 'account manager' }, 'web'), book });
  return { ...work, emit: async () => undefined, enqueue: async () => undefined };
}

function done<T>(outcome: Outcome<T>): T {
  if (isRefusal(outcome)) throw new Error(outcome.detail);
  return outcome;
}
