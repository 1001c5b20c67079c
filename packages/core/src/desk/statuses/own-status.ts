import { CLOCK_EFFECT, HOLD_REASONS, STATUSES } from '../tickets';

/** The statuses that a house may give names of its own; the others come about by facts. */
export const NAMED_STATUSES = STATUSES.filter((s): s is 'queued' | 'underway' | 'on hold' => ['queued', 'underway', 'on hold'].includes(s));
export type NamedStatus = (typeof NAMED_STATUSES)[number];
/** What a person can put a ticket on hold for; an umbrella holds by itself. */
export const WAITS_FOR = HOLD_REASONS.filter((r): r is 'client' | 'supplier' | 'change window' => r !== 'umbrella');
export type WaitsFor = (typeof WAITS_FOR)[number];

/** A status under the house's own name: "parts ordered" is on hold for the supplier. */
export interface OwnStatus {
  readonly id: string;
  readonly name: string;
  readonly standsFor: NamedStatus;
  readonly waitsFor: WaitsFor | null;
}

/** What a status does to the clocks, in words. */
export function clockEffectWords(status: OwnStatus['standsFor']): string {
  return CLOCK_EFFECT[status] === 'holds' ? 'resolution and update hold' : 'all clocks run';
}
