import type { Id, LocalDate } from '../../ground';
import type { CoveredStretch, CoverTerms, Draw } from './cover';

/** What the work of closed periods drew, which never changes: summed by day, so that none of it has to be read again. */
export interface ClosedWork {
  readonly draws: readonly DrawOnDay[];
  /** What was drawn under rules that have a cap: minutes, or minor units of a money allowance. */
  readonly capped: readonly CappedOnDay[];
  /** The tickets that an allowance of tickets was drawn for. */
  readonly incidents: readonly IncidentDrawn[];
}
export interface DrawOnDay extends Draw {
  readonly on: LocalDate;
}
export interface CappedOnDay {
  readonly ruleId: Id<'contract_cover'>;
  readonly on: LocalDate;
  readonly units: number;
}
export interface IncidentDrawn {
  readonly allowanceId: Id<'contract_allowance'>;
  readonly ticketId: string;
}
export const NOTHING_CLOSED: ClosedWork = { draws: [], capped: [], incidents: [] };

/** An entry with what it drew. */
export interface WorkToClose {
  readonly on: LocalDate;
  readonly ticketId: string | null;
  readonly stretches: readonly CoveredStretch[];
}

/** What was closed before and some entries more, as one. Source: docs/calculations.md, Cover. */
export function closeWork(
  { rules, allowances }: Pick<CoverTerms, 'rules' | 'allowances'>,
  { before, work }: { readonly before: ClosedWork; readonly work: readonly WorkToClose[] },
): ClosedWork {
  const draws = new Map<string, DrawOnDay>();
  const capped = new Map<string, CappedOnDay>();
  const incidents = new Map<string, IncidentDrawn>();
  const addDraw = (d: DrawOnDay) => {
    const key = `${d.allowanceId} ${d.lot} ${d.borrowed} ${d.on}`;
    draws.set(key, { ...d, units: d.units + (draws.get(key)?.units ?? 0) });
  };
  const addCapped = (c: CappedOnDay) => {
    const key = `${c.ruleId} ${c.on}`;
    capped.set(key, { ...c, units: c.units + (capped.get(key)?.units ?? 0) });
  };
  const addIncident = (i: IncidentDrawn) => incidents.set(`${i.allowanceId} ${i.ticketId}`, i);
  before.draws.forEach(addDraw);
  before.capped.forEach(addCapped);
  before.incidents.forEach(addIncident);
  const measures = new Map<string, string>(allowances.map((a) => [a.id, a.measure]));
  for (const { on, ticketId, stretches } of work)
    for (const stretch of stretches) {
      for (const draw of stretch.draws) {
        addDraw({ ...draw, on });
        if (measures.get(draw.allowanceId) === 'incidents' && ticketId !== null) addIncident({ allowanceId: draw.allowanceId, ticketId });
      }
      const rule = rules.find((r) => r.id === stretch.ruleId);
      if (!rule || rule.cap === null) continue;
      const isMoney = measures.get(rule.allowanceId ?? '') === 'money';
      addCapped({ ruleId: rule.id, on, units: isMoney ? stretch.covered.minor : stretch.coveredMinutes });
    }
  return { draws: [...draws.values()], capped: [...capped.values()], incidents: [...incidents.values()] };
}
