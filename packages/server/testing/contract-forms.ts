import type { CoverRuleForm, LineForm } from '@core/contracts';

/** One always, monthly with the calendar, in advance by ten days; what differs is said. */
export function lineForm(more: Partial<LineForm> & Pick<LineForm, 'name' | 'price' | 'startsOn'>): LineForm {
  return {
    counted: 'flat',
    priced: 'one price',
    tiers: [],
    frequency: 'monthly',
    anchored: 'the calendar',
    paid: 'in advance',
    leadDays: 10,
    proration: 'daily',
    minimum: null,
    maximum: null,
    lastDay: null,
    unitCost: null,
    namesOnInvoice: false,
    ...more,
  };
}

/** All work, as long as its contract, on an allowance or as overage. */
export function coverRule(more: Partial<CoverRuleForm> = {}): CoverRuleForm {
  return {
    id: null,
    gradeIds: [],
    activityIds: [],
    bands: [],
    deskIds: [],
    kinds: [],
    startsOn: null,
    lastDay: null,
    allowanceId: null,
    cap: null,
    overageFactor: null,
    includesFees: false,
    ...more,
  };
}
