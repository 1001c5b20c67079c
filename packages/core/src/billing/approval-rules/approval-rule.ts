import { daysBetween, type LocalDate } from '../../ground';
import type { ChargeKind, Oddity } from '../charges';

/** Which charges are approved without anybody pressing. */
export interface ApprovalRule {
  readonly id: string;
  /** Null is every client that has none of its own for the kind. */
  readonly clientId: string | null;
  readonly kind: ChargeKind;
  /** Whole days after the charge's day, so that there is time to put it right; null is never, though the house's rule would. */
  readonly afterDays: number | null;
}

export interface ChargeToApprove {
  readonly clientId: string;
  readonly kind: ChargeKind;
  readonly on: LocalDate;
  readonly oddities: readonly Oddity[];
  /** Whether somebody decided on it before: what a person took back waits for a person. */
  readonly wasDecidedOn: boolean;
  readonly isHeld: boolean;
}

/** The rule for a charge: its client's own, else the house's. */
export function ruleFor(
  rules: readonly ApprovalRule[],
  { clientId, kind }: Pick<ChargeToApprove, 'clientId' | 'kind'>,
): ApprovalRule | undefined {
  const ofKind = rules.filter((r) => r.kind === kind);
  return ofKind.find((r) => r.clientId === clientId) ?? ofKind.find((r) => r.clientId === null);
}

/** The rule that approves a charge on a day, where one does. Source: docs/calculations.md, What is odd about a charge. */
export function approvedBy(
  charge: ChargeToApprove,
  { rules, today }: { readonly rules: readonly ApprovalRule[]; readonly today: LocalDate },
) {
  if (charge.isHeld || charge.wasDecidedOn || charge.oddities.length) return undefined;
  const rule = ruleFor(rules, charge);
  return rule && rule.afterDays !== null && daysBetween(charge.on, today) >= rule.afterDays ? rule : undefined;
}
