import type { DuePeriod, RecurringLine, Unit } from '../../contracts';
import { type LocalDate, plusDays } from '../../ground';
import { DETAILS_TEXT } from '../charges';

/**
 * Who or what was on a line in a period, as its document says it, each once with the days on which they came or went; of a
 * difference, only those who did. Null where there is nobody to name.
 */
export function namesOfPeriod({ units, from, to }: RecurringLine, { is, period }: Pick<DuePeriod, 'is' | 'period'>): string | null {
  const [start, end] = [from > period.from ? from : period.from, to !== null && to < period.to ? to : period.to];
  const inside = units.filter((u) => u.from < end && (u.to === null || (u.to > start && u.to > u.from)));
  const said = [...new Set(inside.map((u) => u.of))].flatMap((of) => {
    const mine = inside.filter((u) => u.of === of).sort((a, b) => (a.from < b.from ? -1 : 1));
    const days = sayDays(mine, start, end);
    return is === 'true-up' && !days ? [] : [`${mine[0]!.name}${days ? ` (${days})` : ''}`];
  });
  if (!said.length) return null;
  let text = '';
  for (const [n, name] of said.entries()) {
    const more = `${text && ', '}${name}`;
    if (text.length + more.length > DETAILS_TEXT - ROOM) return `${text} and ${said.length - n} more`;
    text += more;
  }
  return text;
}
const ROOM = 20;

function sayDays(spans: readonly Unit[], start: LocalDate, end: LocalDate): string {
  return spans
    .map((u) => [u.from > start && `from ${u.from}`, u.to !== null && u.to < end && `to ${plusDays(u.to, -1)}`].filter(Boolean).join(' '))
    .filter(Boolean)
    .join(', ');
}
