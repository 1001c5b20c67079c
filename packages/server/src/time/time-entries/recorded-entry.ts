import { dateOf, type Explanation, formatMinutes, formatMoney, type Instant, type Money, step, sumMoney } from '@core/ground';
import { rateEntry, type RatedPart, type RateRule, type Rounding } from '@core/time';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house/house/house-book';

export interface EntryFacts {
  readonly from: Instant;
  readonly to: Instant;
  readonly minutes: number;
  readonly gradeId: string;
  readonly activityId: string;
  readonly billable: boolean;
  readonly clientId: string | null;
  readonly ticketKind: string | null;
  /** A share of time that was rounded by whoever shared it out. */
  readonly exact?: boolean;
}

export interface EntryEffect {
  readonly amount: Money | null;
  readonly sentence: string;
  readonly billedMinutes: number;
  readonly parts: readonly RatedPart[];
  readonly why: Explanation;
}

const EXACT: Rounding = { increment: 1, mode: 'up', minimum: 0 };

/** What an entry does, said before it is saved: the charge to the client, or why there is none. */
export async function effectOfEntry(db: Db, book: HouseBook, entry: EntryFacts): Promise<EntryEffect> {
  const none = (sentence: string): EntryEffect => ({
    amount: null,
    sentence,
    billedMinutes: 0,
    parts: [],
    why: [step('worked', formatMinutes(entry.minutes)), step(sentence)],
  });
  if (!entry.clientId) return none('internal, no charge');
  if (entry.ticketKind === 'internal') return none('internal ticket, no charge');
  if (entry.ticketKind === 'flat-fee job') return none('flat fee, no charge for time');
  if (!entry.billable) return none('not billable, no charge');
  const known = book.activity(entry.activityId);
  if (!known) return none('unknown activity, no charge');
  const activity = entry.exact ? { ...known, rounding: EXACT } : known;
  const { calendar, currency, bands, zone } = book.house;
  const rated = rateEntry({ ...entry, activity }, { calendar, currency, bands, zone, rules: await readRules(db, entry.clientId) });
  if (rated.is === 'no rate')
    return { ...none('no rate found: it will be proposed at nothing and shown in charge review'), why: rated.explanation };
  const amount = sumMoney(
    rated.parts.map((p) => p.net),
    currency,
  );
  return {
    amount,
    sentence: `${formatMoney(amount)} to the client`,
    billedMinutes: rated.billedMinutes,
    parts: rated.parts,
    why: rated.explanation,
  };
}

async function readRules(db: Db, clientId: string): Promise<RateRule[]> {
  const rows = await db('rate_rule').where({ level: 'default' }).orWhere({ client_id: clientId });
  return rows.map((r) => ({
    id: r.id,
    level: r.level,
    gradeId: r.grade_id,
    activityId: r.activity_id,
    band: r.band,
    rate: plainDecimal(r.rate),
    from: r.valid_from,
    to: r.valid_to,
  }));
}

export function localDay(book: HouseBook, at: Instant): string {
  return dateOf(at, book.house.zone);
}
