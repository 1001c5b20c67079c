import { type Explanation, formatMinutes, step } from '../../ground';

/** How routing to a desk's line assigns. */
export const ASSIGNS = ['nobody', 'least loaded', 'usual technician'] as const;
export type Assigns = (typeof ASSIGNS)[number];

export interface Candidate {
  readonly id: string;
  readonly name: string;
  readonly atWork: boolean;
  /** Has what the category asks for; true where it asks for nothing. */
  readonly skilled: boolean;
  /** Minutes of booked work from now on, and of open work that is not booked. */
  readonly bookedMinutes: number;
  readonly openMinutes: number;
  /** How many tickets of the client they worked on lately. */
  readonly ticketsOfClient: number;
}

export interface Chosen {
  readonly id: string | null;
  readonly explanation: Explanation;
}

/** Somebody who worked on fewer tickets of a client than this is nobody's usual technician. */
const USUAL_TICKETS = 3;

/**
 * Whom a ticket goes to: nobody, the least loaded by booked and open work among those with the skill and at
 * work, or the client's usual technician while they are at work, else the least loaded.
 */
export function chooseTechnician(assigns: Assigns, candidates: readonly Candidate[]): Chosen {
  if (assigns === 'nobody') return { id: null, explanation: [step('this line assigns nobody')] };
  const fit = candidates.filter((c) => c.atWork && c.skilled);
  const left = step(`at work and with the skill: ${fit.length} of ${candidates.length}`);
  if (!fit.length) return { id: null, explanation: [left, step('so nobody')] };
  if (assigns === 'usual technician') {
    const [usual] = [...fit].sort((a, b) => b.ticketsOfClient - a.ticketsOfClient || byLoad(a, b));
    if (usual!.ticketsOfClient >= USUAL_TICKETS)
      return {
        id: usual!.id,
        explanation: [left, step(`${usual!.name} worked on ${usual!.ticketsOfClient} tickets of the client lately`)],
      };
  }
  const [least] = [...fit].sort(byLoad);
  return {
    id: least!.id,
    explanation: [
      left,
      ...(assigns === 'usual technician' ? [step('none of them is usual for the client')] : []),
      step(`${least!.name} has booked`, formatMinutes(least!.bookedMinutes)),
      step('and open work of', formatMinutes(least!.openMinutes)),
      step('which is the least'),
    ],
  };
}

function byLoad(a: Candidate, b: Candidate): number {
  return a.bookedMinutes + a.openMinutes - (b.bookedMinutes + b.openMinutes) || (a.name < b.name ? -1 : 1);
}
