import { sayOddity, type ChargeWire, type Oddity } from '@core/billing';
import { plainMoney } from '@core/ground';
import { howMuch } from './how-much';

export function sayOdd(oddity: Oddity, c: ChargeWire): string {
  return sayOddity(oddity, { unit: c.unit, currency: c.net.currency });
}

/** Who decided what last, and why; of one that is to review again, why alone. */
export function decidedWords({ state, decidedBy, reason, heldUntil }: ChargeWire): string {
  // Why it is held stands beside it.
  if (heldUntil) return '';
  if (!decidedBy || (state === 'proposed' && !reason)) return '';
  const what = state === 'proposed' ? decidedBy : `${state === 'waived' ? 'waived' : 'approved'} by ${decidedBy}`;
  return reason ? `${what}: ${reason}` : what;
}

/** What it was before somebody adjusted it, where that shows. */
export function originalWords({ original, description, unit, net }: ChargeWire): string {
  if (!original) return '';
  const was = `was ${howMuch({ ...original, unit }, net.currency)}`;
  return original.description === description ? was : `${was}, “${original.description}”`;
}

export const CSV_HEAD = ['date', 'client', 'ticket', 'person', 'description', 'quantity', 'unit', 'unit price', 'net', 'state', 'odd'];

export function csvRow(c: ChargeWire): string[] {
  const ticket = String(c.ticketNumber ?? '');
  const odd = c.odd.map((o) => sayOdd(o, c)).join('; ');
  return [c.on, c.client, ticket, c.person ?? '', c.description, c.quantity, c.unit, c.unitPrice, plainMoney(c.net), c.state, odd];
}
