import {
  CURRENCY_DECIMALS,
  type Currency,
  type DecimalText,
  type Explanation,
  formatMoney,
  type Money,
  money,
  roundQuotient,
  type Scaled,
  scaledOf,
  step,
} from '../../ground';
import { periodIndex } from '../recurring';
import type { Allowance, CoveredEntry, CoveredStretch, CoverRule, CoverTerms, Draw, RatedStretch, WorkToCover } from './cover';
import { type ClosedWork, NOTHING_CLOSED } from './closed-work';
import { type Lot, Lots } from './lots';
import { sayUnits } from './say-units';

export interface CoveredWork {
  /** In the order of their start, then id; what was frozen as it was. */
  readonly entries: readonly CoveredEntry[];
  readonly lots: ReadonlyMap<string, Lots>;
}

/**
 * What a contract does with all its work: in order of start, then id, what is frozen first. A pure function of the contract
 * and all its entries from the first open period on, so it does not matter in which order they were saved.
 * Source: docs/calculations.md, Cover.
 * @param closed what entries drew that are closed and do not stand in the work
 */
export function coverWork(
  terms: CoverTerms,
  work: readonly WorkToCover[],
  { currency, closed = NOTHING_CLOSED }: { readonly currency: Currency; readonly closed?: ClosedWork },
): CoveredWork {
  const ledger = new Ledger(terms, currency);
  ledger.takeClosed(closed);
  const ordered = [...work].sort((a, b) => a.startsAt - b.startsAt || (a.id < b.id ? -1 : 1));
  for (const entry of ordered) if (entry.frozen) ledger.take(entry, entry.frozen);
  const entries = ordered.map((entry) => (entry.frozen ? ledger.frozen(entry, entry.frozen) : ledger.cover(entry)));
  return { entries, lots: ledger.lots };
}

/** What asks nothing has everything; what asks something has not what is not there. */
function has<T>(all: readonly T[] | null, one: T | null): boolean {
  return all === null || (one !== null && all.includes(one));
}

/** The first rule of the contract that an entry's stretch matches. */
export function ruleFor(
  rules: readonly CoverRule[],
  { on, gradeId, activityId, deskId, kind }: Pick<WorkToCover, 'on' | 'gradeId' | 'activityId' | 'deskId' | 'kind'>,
  band: RatedStretch['band'],
): CoverRule | undefined {
  return rules.find(
    (r) =>
      (r.from === null || r.from <= on) &&
      (r.to === null || on < r.to) &&
      has(r.gradeIds, gradeId) &&
      has(r.activityIds, activityId) &&
      has(r.bands, band) &&
      has(r.deskIds, deskId) &&
      has(r.kinds, kind),
  );
}

class Ledger {
  readonly lots: ReadonlyMap<string, Lots>;
  private readonly allowances: ReadonlyMap<string, Allowance>;
  private readonly used = new Map<string, number>();
  private readonly incidents = new Set<string>();
  private readonly none: Money;
  private readonly numbers = new Map<DecimalText, Scaled>();

  constructor(
    private readonly terms: CoverTerms,
    private readonly currency: Currency,
  ) {
    this.none = money(0, currency);
    this.allowances = new Map(terms.allowances.map((a) => [a.id, a]));
    this.lots = new Map(terms.allowances.map((a) => [a.id, new Lots(terms, a)]));
  }

  takeClosed({ draws, capped, incidents }: ClosedWork): void {
    for (const draw of draws) this.takeDraw(draw);
    for (const { ruleId, on, units } of capped) {
      const rule = this.rule(ruleId);
      if (rule) this.useCap(rule, { on }, units);
    }
    for (const { allowanceId, ticketId } of incidents) this.incidents.add(`${allowanceId} ${ticketId}`);
  }

  /** What a frozen entry drew is gone before anything else is drawn. */
  take(entry: WorkToCover, stretches: readonly CoveredStretch[]): void {
    for (const stretch of stretches) {
      for (const draw of stretch.draws) {
        this.takeDraw(draw);
        const allowance = this.allowances.get(draw.allowanceId);
        if (allowance?.measure === 'incidents' && entry.ticketId) this.incidents.add(incident(allowance, entry.ticketId));
      }
      const rule = this.terms.rules.find((r) => r.id === stretch.ruleId);
      if (rule) this.useCap(rule, entry, this.isMoney(rule) ? stretch.covered.minor : stretch.coveredMinutes);
    }
  }

  private takeDraw({ allowanceId, lot: from, units, borrowed }: Draw): void {
    const lot = this.lots.get(allowanceId)?.grantedFor(from);
    if (lot) takeFrom(lot, units, borrowed);
  }

  frozen(entry: WorkToCover, stretches: readonly CoveredStretch[]): CoveredEntry {
    return this.entryOf(
      entry,
      stretches,
      stretches.some((s) => s.is === 'covered' && this.rule(s.ruleId)?.includesFees),
    );
  }

  cover(entry: WorkToCover): CoveredEntry {
    const stretches = entry.stretches.map((stretch) => this.stretch(entry, stretch));
    const rule = this.rule(stretches[0]?.ruleId ?? null);
    return this.entryOf(entry, stretches, Boolean(rule?.includesFees && stretches[0]!.is === 'covered'));
  }

  private entryOf(entry: WorkToCover, stretches: readonly CoveredStretch[], coversFees: boolean): CoveredEntry {
    const drawn = stretches.flatMap((s) => this.rule(s.ruleId)?.allowanceId ?? []).at(-1);
    const allowance = drawn === undefined ? undefined : this.allowances.get(drawn);
    const left = allowance && allowance.measure !== 'unlimited' ? { allowanceId: allowance.id, left: this.leftOn(allowance, entry) } : null;
    return { id: entry.id, stretches, left, coversFees, why: stretches.flatMap((s) => this.whyOf(s)) };
  }

  private leftOn(allowance: Allowance, entry: WorkToCover): number {
    return this.lots
      .get(allowance.id)!
      .on(entry.on)
      .reduce((sum, lot) => sum + lot.left, 0);
  }

  private stretch(entry: WorkToCover, stretch: RatedStretch): CoveredStretch {
    const rule = ruleFor(this.terms.rules, entry, stretch.band);
    if (!rule)
      return {
        ...stretch,
        is: 'not covered',
        ruleId: null,
        draws: [],
        coveredMinutes: 0,
        covered: this.none,
        charge: stretch.net,
        factor: '1',
        overIs: 'minutes',
      };
    const allowance = rule.allowanceId === null ? undefined : this.allowances.get(rule.allowanceId);
    const capLeft = rule.cap === null ? Number.MAX_SAFE_INTEGER : Math.max(0, rule.cap - (this.used.get(this.capKey(rule, entry)) ?? 0));
    if (!allowance || (capLeft === 0 && wantedOf(allowance, stretch) > 0))
      return this.split({ rule, stretch, draws: [], minutes: 0, taken: 0 });
    const wanted = Math.min(wantedOf(allowance, stretch), capLeft);
    const draws = this.draw(allowance, { entry, wanted });
    const taken = draws === undefined ? 0 : countsWhole(allowance) ? wanted : draws.reduce((sum, d) => sum + d.units, 0);
    const isMoney = allowance.measure === 'money';
    const minutes = isMoney
      ? stretch.net.minor === 0
        ? stretch.minutes
        : Math.round((stretch.minutes * taken) / stretch.net.minor)
      : taken;
    this.useCap(rule, entry, taken);
    return this.split({ rule, stretch, draws: draws ?? [], minutes, taken: isMoney ? taken : undefined });
  }

  /** What is drawn for it, lot by lot, then of the next period's; undefined where an allowance of tickets has none for it. */
  private draw(allowance: Allowance, { entry, wanted }: { readonly entry: WorkToCover; readonly wanted: number }): Draw[] | undefined {
    const lots = this.lots.get(allowance.id)!;
    if (allowance.measure === 'unlimited') {
      const [lot] = lots.on(entry.on);
      return [{ allowanceId: allowance.id, lot: lot?.from ?? entry.on, units: 0, borrowed: false }];
    }
    if (allowance.measure === 'incidents') {
      if (entry.ticketId === null) return undefined;
      const key = incident(allowance, entry.ticketId);
      if (this.incidents.has(key)) return [];
      const draws = drawUnits(lots, entry, 1);
      if (draws.length) this.incidents.add(key);
      return draws.length ? draws : undefined;
    }
    return drawUnits(lots, entry, wanted);
  }

  /** A stretch in what the contract takes and what is left to pay; both add up to it. @param taken minor units of a money draw */
  private split({
    rule,
    stretch,
    draws,
    minutes,
    taken,
  }: {
    readonly rule: CoverRule;
    readonly stretch: RatedStretch;
    readonly draws: readonly Draw[];
    readonly minutes: number;
    readonly taken: number | undefined;
  }): CoveredStretch {
    const factor = rule.overageFactor ?? this.terms.overageFactor;
    const { band, rate, net } = stretch;
    const is = { band, minutes: stretch.minutes, rate, net, ruleId: rule.id, draws, coveredMinutes: minutes, factor };
    const isAll = taken === undefined ? stretch.minutes === minutes : taken === net.minor;
    const overIs = taken === undefined || taken === 0 ? 'minutes' : 'amount';
    // What is covered in full, as most work is, has nothing to divide.
    if (isAll) return { ...is, is: 'covered', covered: taken === undefined ? net : money(taken, this.currency), charge: this.none, overIs };
    const price = this.scaled(rate);
    const [hour, minor] = [60n * 10n ** BigInt(price.places), 10n ** BigInt(CURRENCY_DECIMALS[this.currency])];
    // What is left in hours' parts of minor units: minutes at the rate, or the amount less what money took of it.
    const left =
      taken === undefined
        ? price.units * BigInt(stretch.minutes - minutes) * minor
        : price.units * BigInt(stretch.minutes) * minor - BigInt(taken) * hour;
    const times = this.scaled(factor);
    const charge = money(roundQuotient(left * times.units, hour * 10n ** BigInt(times.places)), this.currency);
    const covered = money(taken ?? net.minor - roundQuotient(left, hour), this.currency);
    return { ...is, is: minutes > 0 || (taken ?? 0) > 0 ? 'part overage' : 'overage', covered, charge, overIs };
  }

  /** Rates and factors are few, and stand on much work. */
  private scaled(text: DecimalText): Scaled {
    let found = this.numbers.get(text);
    if (found === undefined) this.numbers.set(text, (found = scaledOf(text)));
    return found;
  }

  private whyOf({ is, draws, ruleId, factor, charge, coveredMinutes, minutes }: CoveredStretch): Explanation {
    if (is === 'not covered') return [step('no rule of the contract covers it: at its rate')];
    const allowance = this.allowances.get(this.rule(ruleId)?.allowanceId ?? '');
    const drawn = draws.map((d) =>
      step(
        `drawn of ${allowance?.name ?? 'the contract'}${d.borrowed ? ', borrowed of the period' : ', granted'} from ${d.lot}`,
        sayUnits(allowance?.measure ?? 'hours', d.units, this.currency),
      ),
    );
    if (is === 'covered')
      return drawn.length ? drawn : [step(`covered by ${allowance?.name ?? 'the contract'}`, 'its ticket is counted already')];
    const over = step(`nothing is left for ${minutes - coveredMinutes} min of it: at its rate × ${factor}`, formatMoney(charge));
    return [...drawn, over];
  }

  private rule(id: string | null): CoverRule | undefined {
    return this.terms.rules.find((r) => r.id === id);
  }

  private isMoney(rule: CoverRule): boolean {
    return this.allowances.get(rule.allowanceId ?? '')?.measure === 'money';
  }

  private useCap(rule: CoverRule, entry: Pick<WorkToCover, 'on'>, units: number): void {
    if (rule.cap === null) return;
    const key = this.capKey(rule, entry);
    this.used.set(key, (this.used.get(key) ?? 0) + units);
  }

  private capKey(rule: CoverRule, { on }: Pick<WorkToCover, 'on'>): string {
    return `${rule.id} ${periodIndex(this.terms.schedule, on)}`;
  }
}

/** Minutes, or minor units of a money allowance. */
function wantedOf(allowance: Allowance, stretch: RatedStretch): number {
  return allowance.measure === 'money' ? stretch.net.minor : stretch.minutes;
}

/** Allowances of which no part of a stretch is left over. */
function countsWhole({ measure }: Allowance): boolean {
  return measure === 'unlimited' || measure === 'incidents';
}

function drawUnits(lots: Lots, entry: WorkToCover, wanted: number): Draw[] {
  const draws: Draw[] = [];
  let missing = wanted;
  const take = (lot: Lot, units: number, borrowed: boolean) => {
    if (units <= 0) return;
    takeFrom(lot, units, borrowed);
    draws.push({ allowanceId: lot.allowanceId, lot: lot.from, units, borrowed });
    missing -= units;
  };
  for (const lot of lots.on(entry.on)) take(lot, Math.min(missing, lot.left), false);
  const lent = missing > 0 ? lots.lends(entry.on) : undefined;
  if (lent) take(lent.lot, Math.min(missing, lent.units), true);
  return draws;
}

function takeFrom(lot: Lot, units: number, borrowed: boolean): void {
  lot.left -= units;
  if (borrowed) lot.borrowed += units;
}

function incident(allowance: Allowance, ticketId: string): string {
  return `${allowance.id} ${ticketId}`;
}
