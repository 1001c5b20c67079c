import type { Id } from '../../ground';
/** Why time is charged to nobody by its length, each as it is said. Source: docs/calculations.md, What charges nothing. */
export const NOT_CHARGED = {
  internal: 'internal, no charge',
  'internal ticket': 'internal ticket, no charge',
  'flat fee': 'flat fee, no charge for time',
  'not billable': 'not billable, no charge',
  'with what it corrects': 'counted with the time it corrects, under its contract',
  'unknown activity': 'unknown activity, no charge',
} as const;
export type NotCharged = keyof typeof NOT_CHARGED;

/** What decides whether time charges anything. */
export interface ChargeableTime {
  readonly billable: boolean;
  /** null where it is for nobody. */
  readonly clientId: Id<'client'> | null;
  /** null where it is on no ticket. */
  readonly ticketKind: string | null;
}

/** The first reason that time is not charged to a client by its length; undefined where it is. */
export function whyNotCharged({ billable, clientId, ticketKind }: ChargeableTime): NotCharged | undefined {
  if (clientId === null) return 'internal';
  if (ticketKind === 'internal') return 'internal ticket';
  if (ticketKind === 'flat-fee job') return 'flat fee';
  return billable ? undefined : 'not billable';
}

export function isChargedByTime(time: ChargeableTime): boolean {
  return whyNotCharged(time) === undefined;
}
