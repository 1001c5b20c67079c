import { daysBetween, type Id, type LocalDate, plusDays } from '../../ground';
import { type Period, periodAt, periodIndex } from '../recurring';
import type { Allowance, CoverTerms } from './cover';

/** What was granted at one time, and what is left of it. Drawn on from its first day to the day before its expiry. */
export interface Lot {
  readonly allowanceId: Id<'contract_allowance'>;
  readonly from: LocalDate;
  /** Null where it never expires. */
  readonly expiry: LocalDate | null;
  /** The days it is granted for; null where it is granted once. */
  readonly period: Period | null;
  readonly granted: number;
  /** Of it taken in the period before. */
  borrowed: number;
  left: number;
}

/** The lots of an allowance, made as they are asked for. Source: docs/calculations.md, Cover. */
export class Lots {
  private readonly byPeriod = new Map<number, Lot | null>();
  /** Which can be drawn on does not change by drawing, and much work is of one day. */
  private readonly byDay = new Map<LocalDate, readonly Lot[]>();
  /** Of what is granted once: that, then the blocks, by expiry, then start; none where it is granted each period. */
  private readonly once: readonly Lot[] | undefined;
  /** Carry-over reaches back so many periods at the most. */
  private readonly reach: number;

  constructor(
    private readonly terms: CoverTerms,
    private readonly allowance: Allowance,
  ) {
    this.reach = 1 + Math.ceil(allowance.carryDays / 28);
    if (allowance.each === 'once')
      this.once = [{ from: terms.from, expiry: terms.to, grant: allowance.grant }, ...allowance.blocks]
        .filter(({ grant }) => grant > 0)
        .map(({ from, expiry, grant }): Lot => ({
          allowanceId: allowance.id,
          from,
          expiry,
          period: null,
          granted: grant,
          borrowed: 0,
          left: grant,
        }))
        .sort(byExpiry);
  }

  /** Those that can be drawn on at a date, by expiry, then start. */
  on(date: LocalDate): readonly Lot[] {
    let open = this.byDay.get(date);
    if (open === undefined) this.byDay.set(date, (open = this.openOn(date)));
    return open;
  }

  private openOn(date: LocalDate): Lot[] {
    if (this.once) return this.once.filter((lot) => isOpen(lot, date));
    const now = periodIndex(this.terms.schedule, date);
    const open: Lot[] = [];
    for (let n = now - this.reach; n <= now; n++) {
      const lot = this.of(n);
      if (lot && isOpen(lot, date)) open.push(lot);
    }
    return open;
  }

  /** What the period after a date still lends, with the lot it would come from. */
  lends(date: LocalDate): { readonly lot: Lot; readonly units: number } | undefined {
    if (this.once || this.allowance.borrowPercent === 0) return undefined;
    const lot = this.of(periodIndex(this.terms.schedule, date) + 1);
    if (!lot) return undefined;
    const most = Math.floor((grantOn(this.allowance, lot.from) * this.allowance.borrowPercent) / 100);
    return { lot, units: Math.max(0, Math.min(most - lot.borrowed, lot.left)) };
  }

  /** The lot granted for the period of a day, as a frozen draw names it; also where the contract begins on another day since. */
  grantedFor(day: LocalDate): Lot | undefined {
    if (this.once) return this.once.find((lot) => lot.from === day) ?? this.once.find((lot) => lot.from === this.terms.from);
    return this.of(periodIndex(this.terms.schedule, day)) ?? undefined;
  }

  /** All that were granted by a day, whether anything was drawn of them or not. */
  grantedBy(date: LocalDate): Lot[] {
    if (this.once) return this.once.filter((lot) => lot.from <= date && lot.granted > 0);
    const lots: Lot[] = [];
    for (let n = periodIndex(this.terms.schedule, this.terms.from); n <= periodIndex(this.terms.schedule, date); n++) {
      const lot = this.of(n);
      if (lot) lots.push(lot);
    }
    return lots;
  }

  private of(n: number): Lot | null {
    let lot = this.byPeriod.get(n);
    if (lot === undefined) this.byPeriod.set(n, (lot = this.grant(n)));
    return lot;
  }

  /** Granted on the period's first active day: in full, or by its active days, cut to whole units. */
  private grant(n: number): Lot | null {
    const { terms, allowance } = this;
    const period = periodAt(terms.schedule, n);
    const from = terms.from > period.from ? terms.from : period.from;
    const to = terms.to !== null && terms.to < period.to ? terms.to : period.to;
    if (from >= to) return null;
    const full = grantOn(allowance, from);
    const granted = allowance.granted === 'whole' ? full : Math.floor((full * daysBetween(from, to)) / daysBetween(period.from, period.to));
    return {
      allowanceId: allowance.id,
      from,
      expiry: plusDays(period.to, allowance.carryDays),
      period,
      granted,
      borrowed: 0,
      left: granted,
    };
  }
}

function isOpen(lot: Lot, date: LocalDate): boolean {
  return lot.from <= date && (lot.expiry === null || date < lot.expiry);
}

/** What a period is granted whose first active day is given. */
function grantOn({ grant, later }: Allowance, day: LocalDate): number {
  return later.findLast((l) => l.from <= day)?.grant ?? grant;
}

function byExpiry(a: Lot, b: Lot): number {
  const [one, other] = [a.expiry ?? FOREVER, b.expiry ?? FOREVER];
  return one === other ? (a.from < b.from ? -1 : 1) : one < other ? -1 : 1;
}
const FOREVER = '9999-12-31';
