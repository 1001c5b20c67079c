import { fetchOutside, NotRead } from '../outside/fetch-outside';

const WAIT_MS = 10_000;
const MOST_BYTES = 5_000_000;
const NOT_MODIFIED = 304;

/** What a calendar's address gave: new text, or word that nothing changed. */
export type Fetched = { readonly text: string; readonly etag: string | null } | 'unchanged';

/**
 * Reads a calendar over HTTP; asks only for what changed where the server marks its answers.
 * @throws NotRead in words for the calendar's owner
 */
export async function fetchCalendar(address: string, etag: string | null, allowed: readonly string[]): Promise<Fetched> {
  const answer = await fetchOutside(address.replace(/^webcal:/i, 'https:'), {
    headers: { accept: 'text/calendar, text/plain;q=0.5', ...(etag ? { 'if-none-match': etag } : {}) },
    waitMs: WAIT_MS,
    mostBytes: MOST_BYTES,
    allowed,
  });
  if (answer.status === NOT_MODIFIED) return 'unchanged';
  if (answer.status < 200 || answer.status > 299) throw new NotRead(`The address answered ${answer.status}, and no calendar.`);
  return { text: answer.body.toString('utf8'), etag: answer.etag };
}
