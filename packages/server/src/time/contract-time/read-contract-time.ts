import { type Allowance, type Lots, periodOf } from '@core/contracts';
import { formatInstant, type Id, type LocalDate, money, naming, type Outcome, plusDays, refuse } from '@core/ground';
import { type AllowanceUseWire, type ContractTimeWire, drawDown, type DrawWire, PACE_DAYS } from '@core/time';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { drawsOf, type DrawnWork } from '../time-entries/cover-entries';
import { frozenAmong } from '../time-entries/is-frozen';
import { type DrawnRow, readDrawn, readDrawnRows } from './read-drawn';

/** What was drawn of a contract in a period, entry by entry, as it was stored, and what is left. */
export async function readContractTime(
  db: Db,
  book: HouseBook,
  { contractId, today, on }: { readonly contractId: Id<'contract'>; readonly today: LocalDate; readonly on: LocalDate },
): Promise<Outcome<ContractTimeWire>> {
  const drawn = await readDrawn(db, book, contractId);
  if (!drawn) return refuse('not-found', 'There is no such contract.');
  const { terms, lots } = drawn;
  const { currency } = book.house;
  const period = periodOf(terms.schedule, on);
  const inPeriod = await readDrawnRows(db, book, { contractId, ...period });
  const frozen = await frozenAmong(
    db,
    inPeriod.map((r) => r.id),
  );
  return {
    ...period,
    allowances: terms.allowances.map((a) => useOf(a, { ...drawn, lots: lots.get(a.id)!, on, today })),
    draws: inPeriod.map((row) => drawWire(row, { frozen: frozen.has(row.id), currency })).reverse(),
  };
}

export interface Seen extends Pick<DrawnWork, 'work' | 'closed' | 'terms'> {
  readonly lots: Lots;
  readonly on: LocalDate;
  readonly today: LocalDate;
}

/** What is left of an allowance in the period of a day, and how it went down. */
export function useOf(allowance: Allowance, { lots, work, closed, terms, on, today }: Seen): AllowanceUseWire {
  const open = allowance.measure === 'unlimited' ? [] : lots.on(on);
  const period = periodOf(terms.schedule, on);
  const all = drawsOf({ work, closed }).filter((d) => d.allowanceId === allowance.id);
  const ofLots = all.filter((d) => open.some((lot) => lot.from === d.lot));
  const now = periodOf(terms.schedule, today).from === period.from;
  const recent = now ? sum(all.filter((d) => d.on > plusDays(today, -PACE_DAYS) && d.on <= today)) : 0;
  // What was drawn of these lots before the period is gone when it begins; a block that was bought once is shown whole.
  const from = allowance.each === 'once' ? terms.from : period.from;
  const to = allowance.each === 'once' ? (terms.to ?? period.to) : period.to;
  const granted = open.reduce((total, lot) => total + lot.granted, 0) - sum(ofLots.filter((d) => d.on < from));
  const own = open.filter((lot) => lot.from >= from).reduce((total, lot) => total + lot.granted, 0);
  const draws = ofLots.filter((d) => d.on >= from);
  const added = open.filter((lot) => lot.from > from).map((lot) => ({ on: lot.from, units: lot.granted }));
  const { points, used, usedPercent, runsOut } = drawDown(
    { from, to, granted: granted - sum(added) },
    { draws, added, recent, today: today < to ? today : plusDays(to, -1) },
  );
  return {
    allowanceId: allowance.id,
    name: allowance.name,
    measure: allowance.measure,
    lots: open.map(({ from, expiry, granted, borrowed, left }) => ({ from, expiry, granted, borrowed, left })),
    granted,
    carried: Math.max(0, granted - own),
    left: open.reduce((total, lot) => total + lot.left, 0),
    used,
    usedPercent,
    runsOut,
    points: [...points],
  };
}

const sum = (all: readonly { readonly units: number }[]) => all.reduce((total, d) => total + d.units, 0);

function drawWire(
  row: DrawnRow,
  { frozen, currency }: { readonly frozen: boolean; readonly currency: HouseBook['house']['currency'] },
): DrawWire {
  const { under, sentence, amount } = row.effect;
  const states = new Set(under?.stretches.map((s) => s.is) ?? []);
  return {
    entryId: row.id,
    ...naming({ workId: row.work_id, workKind: row.kind, number: row.number, subject: row.subject }),
    person: row.person,
    startsAt: formatInstant(row.starts_at),
    minutes: row.minutes,
    is: states.size === 1 ? [...states][0]! : states.size ? 'part overage' : 'not covered',
    says: sentence,
    pays: amount ?? money(0, currency),
    note: row.note,
    frozen,
  };
}
