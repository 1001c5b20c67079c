import type { MessageWire } from '@core/desk';
import { plainDate } from '../../ui/time-format';

type Delivery = MessageWire['deliveries'][number];
type Notice = NonNullable<MessageWire['notice']>;

/** What became of a mail of ours on its way to one address. */
export function sayDelivery({ became, address, why, code }: Delivery): string {
  if (became === 'delivered') return `Reached ${address}.`;
  const kind = became === 'failed' ? 'Not delivered' : 'Delayed';
  return `${kind} to ${address}: ${why}${code ? ` (${code})` : ''}.`;
}

/** That somebody is away, with the dates that they gave. */
export function sayAway({ from, back }: Notice): string {
  const days = [from ? `from ${plainDate(from)}` : '', back ? `back ${plainDate(back)}` : ''].filter(Boolean).join(', ');
  return days ? `is away: ${days}` : 'is away';
}

const PARTS: Readonly<Record<MessageWire['leftOut'][number], string>> = {
  html: 'Its layout was too much to show',
  text: 'Its text was too long and is cut',
  files: 'It has more files than are shown',
  form: 'Its form could not be read in time; this is its beginning',
};

/** What is not shown of a mail, and where it is. */
export function sayLeftOut({ leftOut }: MessageWire): string {
  return `${leftOut.map((part) => PARTS[part]).join('. ')}. All of it is in the source.`;
}

/** Which way a message went, and who sees it. */
export function sayHow(m: MessageWire): string {
  if (m.callOutcome)
    return { spoke: 'on the phone with the client', 'left a message': 'rang and left a message', nobody: 'rang and reached nobody' }[
      m.callOutcome
    ];
  if (m.visibility === 'inside') return 'inside note, the client never sees this';
  if (m.thirdParty) return `${m.thirdParty} wrote, who is no client`;
  if (!m.fromClient) return 'to the client';
  if (m.notice) return m.notice.is === 'away' ? sayAway(m.notice) : 'a report on our mail';
  return m.automatic ? 'sent by a machine' : m.thanks ? 'wrote thanks' : 'wrote';
}
