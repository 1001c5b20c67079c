import type { MessageWire, TicketWire } from '@core/desk';
import { isoDay } from '../../ui/time-format';

/** A message, or what happened between two; `day` is set on the first of each day. */
export interface ConversationLine {
  readonly at: string;
  readonly day: string | undefined;
  readonly message?: MessageWire;
  readonly story?: TicketWire['story'][number];
}

/** Messages, and between them what happened where that is shown, by day. @param zone whose days they are */
export function conversationLines(t: TicketWire, showStory: boolean, zone: string): ConversationLine[] {
  const all = [
    ...t.messages.map((message) => ({ at: message.at, message })),
    ...(showStory ? t.story.map((story) => ({ at: story.at, story })) : []),
  ].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  let last = '';
  return all.map((line) => {
    const day = isoDay(Date.parse(line.at), zone);
    const first = day !== last;
    last = day;
    return { ...line, day: first ? line.at : undefined };
  });
}
