import { type CoverRuleForm, type LineForm, USUAL_LINE } from '@core/contracts';

/** A line as it usually is; what differs is said. */
export function lineForm(more: Partial<LineForm> & Pick<LineForm, 'name' | 'price' | 'startsOn'>): LineForm {
  return { ...USUAL_LINE, ...more };
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
