import { plusSeconds, type Instant } from '../../ground';

/** An opening can be taken until so many seconds before it begins; the technician has to know of it by then. */
export const LAST_CALL_SECONDS = 30 * 60;

/** Until when one opening of a set is held: as long as the set, but no longer than its own last call. */
export function heldUntil(setHeldUntil: Instant, begins: Instant): Instant {
  const lastCall = plusSeconds(begins, -LAST_CALL_SECONDS);
  return setHeldUntil < lastCall ? setHeldUntil : lastCall;
}

/** Whether an opening can still be taken; at the very instant it is held until, it can. */
export function canBeTaken(setHeldUntil: Instant, begins: Instant, now: Instant): boolean {
  return now <= heldUntil(setHeldUntil, begins);
}
