const WAIT_MS = 10_000;
const MOST_BYTES = 5_000_000;

/** What a calendar's address gave: new text, or word that nothing changed. */
export type Fetched = { readonly text: string; readonly etag: string | null } | 'unchanged';

/**
 * Reads a calendar over HTTP; asks only for what changed where the server marks its answers.
 * @throws Error in words for the calendar's owner: not reached, the status it answered, too large
 */
export async function fetchCalendar(address: string, etag: string | null): Promise<Fetched> {
  const url = address.replace(/^webcal:/i, 'https:');
  const response = await fetch(url, {
    signal: AbortSignal.timeout(WAIT_MS),
    headers: { accept: 'text/calendar, text/plain;q=0.5', ...(etag ? { 'if-none-match': etag } : {}) },
  }).catch((fault: unknown) => {
    const slow = fault instanceof Error && fault.name === 'TimeoutError';
    throw new Error(slow ? `The address did not answer within ${WAIT_MS / 1000} seconds.` : 'The address could not be reached.');
  });
  if (response.status === 304) return 'unchanged';
  if (!response.ok) throw new Error(`The address answered ${response.status} ${response.statusText}`.trim() + '.');
  return { text: await readText(response), etag: response.headers.get('etag') };
}

async function readText(response: Response): Promise<string> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  const reader = response.body?.getReader();
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    const chunk = part.value;
    bytes += chunk.length;
    if (bytes > MOST_BYTES) throw new Error(`The calendar is larger than ${MOST_BYTES / 1_000_000} MB.`);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}
