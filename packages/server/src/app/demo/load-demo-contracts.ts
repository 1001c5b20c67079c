import type { Knex } from 'knex';
import { type Id, type Instant, isRefusal, type LocalDate, type Outcome, plusDays, plusSeconds, dateOf } from '@core/ground';
import type { LineForm, NewContract } from '@core/contracts';
import { addLine } from '../../contracts/contracts/contract-lines';
import { addSeats, endSeat } from '../../contracts/contracts/contract-seats';
import { agreeContract, createContract, editAllowance } from '../../contracts/contracts/contract-terms';
import type { HouseBook } from '../../house/house/house-book';
import { byPerson } from '../actor';
import { type Work, makeWork } from '../work';

/** So long before the first work that is told of, so that all of it finds what was agreed. */
const AGREED_BEFORE = 20;
const DAY = 86_400;

/** What was agreed with clients, by the application's own commands. */
export async function loadDemoContracts(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, days }: { readonly story: Instant; readonly days: number },
): Promise<void> {
  const work = await asAccountManager(tx, book, plusSeconds(story, -(days + AGREED_BEFORE) * DAY));
  const today = dateOf(story, book.house.zone);
  const begins = `${plusDays(today, -days).slice(0, 8)}01` as LocalDate;
  const draw = async (client: string, form: Omit<NewContract, 'clientId' | 'startsOn' | 'lastDay'> & { readonly lastDay?: LocalDate }) => {
    const { id: clientId } = (await tx('client').where('name', 'like', `${client}%`).first('id'))!;
    const { id } = done(await createContract(work, { lastDay: null, ...form, clientId, startsOn: begins }));
    done(await agreeContract(work, { contractId: id, version: 1 }));
    return { id, clientId };
  };

  const ostrand = await draw('Ostrand', { name: 'Support hours', preset: 'hours each month', grant: '12', price: '980' });
  const { id: allowanceId } = (await tx('contract_allowance').where({ contract_id: ostrand.id }).first('id'))!;
  const hours = {
    name: 'Hours',
    measure: 'hours',
    grant: '12',
    each: 'each period',
    granted: 'whole',
    carryDays: 45,
    borrowPercent: 25,
  } as const;
  done(await editAllowance(work, { contractId: ostrand.id, allowanceId, version: 2 }, hours));

  const hollin = await draw('Hollin', { name: 'Workplaces', preset: 'by the hour', grant: null, price: null });
  const people = await addCounted(work, hollin, { name: 'Workplace', price: '32', counted: 'seat', minimum: null });
  const contacts = await tx('contact').where({ client_id: hollin.clientId }).orderBy('email').pluck('id');
  const [, ...here] = contacts;
  done(await addSeats(work, { contractId: hollin.id, lineId: people }, { unitIds: here, startsOn: begins, lastDay: null }));

  const mirebank = await draw('Mirebank', { name: 'Classroom devices', preset: 'by the hour', grant: null, price: null });
  const devices = await addCounted(work, mirebank, { name: 'Device care', price: '6.5', counted: 'asset', minimum: 30 });
  const assets = await tx('asset').where({ client_id: mirebank.clientId }).orderBy('number').pluck('id');
  done(await addSeats(work, { contractId: mirebank.id, lineId: devices }, { unitIds: assets, startsOn: begins, lastDay: null }));

  const larkspur = await draw('Larkspur', {
    name: 'Monitoring',
    preset: 'by the hour',
    grant: null,
    price: null,
    lastDay: plusDays(today, 50),
  });
  await addCounted(work, larkspur, { name: 'Monitoring', price: '145', counted: 'flat', minimum: null });
}

/** What a client says late: the month is billed, and the next run has a difference to explain. */
export async function tellDemoLatecomers(tx: Knex.Transaction, book: HouseBook, story: Instant): Promise<void> {
  const work = await asAccountManager(tx, book, plusSeconds(story, -3600));
  const today = dateOf(story, book.house.zone);
  const line = (await tx('contract_line').where({ name: 'Workplace' }).first('id', 'contract_id'))!;
  const here = { contractId: line.contract_id, lineId: line.id };
  const joins = await tx('contact as k')
    .join('contract as c', 'c.client_id', 'k.client_id')
    .where('c.id', line.contract_id)
    .orderBy('k.email')
    .first('k.id');
  done(await addSeats(work, here, { unitIds: [joins.id], startsOn: plusDays(today, -13), lastDay: null }));
  const leaves = (await tx('contract_seat').where({ line_id: line.id }).orderBy('contact_id').first('id', 'version'))!;
  const end = { version: leaves.version, lastDay: plusDays(today, -9) };
  done(await endSeat(work, { contractId: line.contract_id, seatId: leaves.id }, end));
}

async function asAccountManager(tx: Knex.Transaction, book: HouseBook, now: Instant): Promise<Work> {
  const leif = (await tx('person').where({ name: 'Leif Sandvik' }).first('id', 'name'))!;
  const work = makeWork({ tx, now, actor: byPerson({ ...leif, role: 'account manager' }, 'web'), book });
  return { ...work, emit: async () => undefined, enqueue: async () => undefined };
}

async function addCounted(
  work: Work,
  { id }: { readonly id: Id<'contract'> },
  line: Pick<LineForm, 'name' | 'price' | 'counted' | 'minimum'>,
): Promise<Id<'contract_line'>> {
  const { starts_on } = (await work.tx('contract').where({ id }).first('starts_on'))!;
  const usual = { frequency: 'monthly', anchored: 'the calendar', paid: 'in advance', leadDays: 10, proration: 'daily' } as const;
  return done(await addLine(work, id, { ...usual, ...line, maximum: null, startsOn: starts_on, lastDay: null })).id;
}

function done<T>(outcome: Outcome<T>): T {
  if (isRefusal(outcome)) throw new Error(outcome.detail);
  return outcome;
}
