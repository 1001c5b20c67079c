import type { Instant } from './instant';
import type { Zone } from './local-date';

const known = new Map<Zone, Intl.DateTimeFormat>();

/** An instant as a letter says it, in a zone: "Tuesday 24 November, 14:40". */
export function sayMoment(instant: Instant, zone: Zone): string {
  let format = known.get(zone);
  if (!format)
    known.set(
      zone,
      (format = new Intl.DateTimeFormat('en-IE', {
        timeZone: zone,
        hourCycle: 'h23',
        weekday: 'long',
        day: 'numeric',
        month: 'long',
        hour: '2-digit',
        minute: '2-digit',
      })),
    );
  const part = Object.fromEntries(format.formatToParts(instant * 1000).map((p) => [p.type, p.value]));
  return `${part['weekday']} ${part['day']} ${part['month']}, ${part['hour']}:${part['minute']}`;
}
