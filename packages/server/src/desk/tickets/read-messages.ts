import type { Delivery, MessageWire } from '@core/desk';
import { formatInstant, type Id, type StoryWire } from '@core/ground';
import { type Db, wireAt } from '../../app/database';
import type { Row } from '../../app/rows';
import { readStory } from '../../app/read-story';

/** The newest are shown; how many came before them is said. */
const MOST_MESSAGES = 1000;

/**
 * @param inside whether what is for the desk's own team is among them
 * @param before the message before which to read on
 */
export async function readMessages(
  db: Db,
  ticketId: Id<'ticket'>,
  { inside, before }: { readonly inside: boolean; readonly before?: string },
): Promise<{ messages: MessageWire[]; earlierMessages: number }> {
  const rows: (Row<'message'> & { readonly all_messages: number })[] = await db('message')
    .where({ ticket_id: ticketId })
    .modify((q) => !inside && void q.whereNot('direction', 'note'))
    .modify(
      (q) => before && void q.whereRaw('(at, seq) < (select at, seq from message where id = ? and ticket_id = ?)', [before, ticketId]),
    )
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'seq', order: 'desc' },
    ])
    .limit(MOST_MESSAGES)
    .select('*', db.raw('(count(*) over ())::int as all_messages'));
  rows.reverse();
  const attachments = await db('attachment')
    .whereIn(
      'message_id',
      rows.map((m) => m.id),
    )
    .select('id', 'message_id', 'name', 'media_type', 'bytes');
  const messages = rows.map((m): MessageWire => ({
    id: m.id,
    at: formatInstant(m.at),
    direction: m.direction,
    visibility: m.visibility,
    author: m.author_name,
    fromClient: m.direction === 'in' && m.via !== 'call' && m.third_party === null,
    thirdParty: m.third_party,
    automatic: m.automatic,
    callOutcome: m.call_outcome,
    thanks: m.thanks,
    to: [...m.to_addresses, ...m.cc_addresses],
    text: m.text,
    html: m.html,
    hasSource: inside && m.source_id !== null,
    attachments: attachments
      .filter((a) => a.message_id === m.id)
      .map((a) => ({ id: a.id, name: a.name, mediaType: a.media_type, bytes: a.bytes })),
    leavesAt: m.left_at === null && m.taken_back_at === null ? wireAt(m.leaves_at) : null,
    takenBack: m.taken_back_at !== null,
    trouble: m.trouble,
    deliveries: (m.deliveries as Delivery[]).map(({ address, became, code, why }) => ({ address, became, code, why })),
    notice: m.notice,
    leftOut: m.left_out,
  }));
  return { messages, earlierMessages: Math.max(0, (rows[0]?.all_messages ?? 0) - rows.length) };
}

/** What was written and what happened before what is known of a ticket. */
export async function readEarlier(
  db: Db,
  ticketId: Id<'ticket'>,
  { message, event, inside }: { readonly message: string; readonly event?: string | undefined; readonly inside: boolean },
): Promise<{ messages: MessageWire[]; story: StoryWire[] }> {
  const [{ messages }, story] = await Promise.all([
    readMessages(db, ticketId, { inside, before: message }),
    event ? readStory(db, { subject: 'ticket', id: ticketId, before: event }) : [],
  ]);
  return { messages, story };
}
