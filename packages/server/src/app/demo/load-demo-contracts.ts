import type { Knex } from 'knex';
import { type Id, type Instant, isRefusal, type LocalDate, type Outcome, plusDays, plusSeconds, dateOf } from '@core/ground';
import type { LineForm, NewContract } from '@core/contracts';
import { addLine, addSeats, endSeat } from '../../contracts/contracts/contract-lines';
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
  const leif = (await tx('person').where({ name: 'Leif Sandvik' }).first('id', 'name'))!;
  const at = plusSeconds(story, -(days + AGREED_BEFORE) * DAY);
  const quiet = (now: Instant): Work => ({
    ...makeWork({ tx, now, actor: byPerson({ ...leif, role: 'account manager' }, 'web'), book }),
    emit: async () => undefined,
    enqueue: async () => undefined,
  });
  const work = quiet(at);
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
  done(await editAllowance(work, { contractId: ostrand.id, allowanceId }, hours));

  const hollin = await draw('Hollin', { name: 'Workplaces', preset: 'by the hour', grant: null, price: null });
  const people = await addCounted(work, hollin, { name: 'Workplace', price: '32', counted: 'seat', minimum: null });
  const contacts = await tx('contact').where({ client_id: hollin.clientId }).orderBy('email').pluck('id');
  const [joins, leaves, ...stay] = contacts as [string, string, ...string[]];
  const here = { contractId: hollin.id, lineId: people };
  done(await addSeats(work, here, { unitIds: stay, startsOn: begins, lastDay: null }));
  // People come and go: the billing run has a difference to explain.
  done(await addSeats(quiet(plusSeconds(story, -13 * DAY)), here, { unitIds: [joins], startsOn: plusDays(today, -13), lastDay: null }));
  const { ids } = done(await addSeats(work, here, { unitIds: [leaves], startsOn: begins, lastDay: null }));
  const end = { version: 1, lastDay: plusDays(today, -9) };
  done(await endSeat(quiet(plusSeconds(story, -8 * DAY)), { contractId: hollin.id, seatId: ids[0]! }, end));

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
