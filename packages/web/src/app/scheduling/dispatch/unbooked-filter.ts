import { dateOf, formatInstant, instantAt, instantOfMillis, type Zone } from '@core/ground';
import type { UnbookedFilter } from './dispatch.state';

/** The quick choices of unbooked work; skills, desks, sites and kept views of tickets follow them. */
export const ONLY_CHOICES = [
  { value: '', label: 'waiting for nobody' },
  { value: 'client', label: 'waiting for the client' },
  { value: 'today', label: 'due today' },
  { value: 'visit', label: 'needs a visit' },
  { value: 'all', label: 'all without a booking' },
] as const;

/** The words of a ticket list's address that narrow the work itself and not the page of it. */
const NOT_OF_WORK = ['columns', 'as', 'most', 'after', 'state', 'booked'];

/**
 * The filter of tickets behind a choice: one of the quick ones, "skill:…", "desk:…", "site:…", or "view:" with the address of
 * a kept view of tickets.
 */
export function unbookedFilter({
  only,
  q,
  now,
  zone,
}: {
  readonly only: string | undefined;
  readonly q: string | undefined;
  readonly now: number;
  readonly zone: Zone;
}): UnbookedFilter {
  const words = q ? { q } : {};
  if (!only) return { ...words, notHeld: 'yes' };
  if (only === 'client') return { ...words, status: 'on hold', holdReason: 'client' };
  if (only === 'visit') return { ...words, visit: 'yes' };
  if (only === 'today') {
    const tomorrow = instantAt(dateOf(instantOfMillis(now), zone), 1440, zone);
    return { ...words, dueTo: formatInstant(tomorrow) };
  }
  const [what, rest] = [only.slice(0, only.indexOf(':')), only.slice(only.indexOf(':') + 1)];
  if (what === 'skill') return { ...words, skillId: rest };
  if (what === 'desk') return { ...words, deskId: rest };
  if (what === 'site') return { ...words, siteId: rest };
  if (what === 'view') return { ...Object.fromEntries([...new URLSearchParams(rest)].filter(([k]) => !NOT_OF_WORK.includes(k))), ...words };
  return words;
}
