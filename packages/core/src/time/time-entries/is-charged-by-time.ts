/** Kinds of ticket whose time charges nothing: the house's own work, and jobs at a flat fee. Source: docs/calculations.md, What charges nothing. */
const UNCHARGED_KINDS: readonly string[] = ['internal', 'flat-fee job'];

/** What decides whether time charges anything. */
export interface ChargeableTime {
  readonly billable: boolean;
  /** null where it is for nobody. */
  readonly clientId: string | null;
  /** null where it is on no ticket. */
  readonly ticketKind: string | null;
}

/** Whether time is charged to a client by its length. */
export function isChargedByTime({ billable, clientId, ticketKind }: ChargeableTime): boolean {
  return billable && clientId !== null && !UNCHARGED_KINDS.includes(ticketKind ?? '');
}
