import type { MessageWire, TicketWire } from '@core/desk';
import type { StoryWire } from '@core/ground';

/** Some of what was written on a ticket and happened to it. */
export interface TalkPart {
  readonly messages: readonly MessageWire[];
  readonly story: readonly StoryWire[];
}

/**
 * What is known of a ticket's talk beyond the newest, which are all that it is read with: what was asked for, and what newer
 * ones have pushed out since.
 */
export class EarlierTalk {
  private ticketId = '';
  private messages = new Map<string, MessageWire>();
  private story = new Map<string, StoryWire>();
  /** Says how many events came before all that are known. */
  private head: StoryWire | undefined;

  /** The ticket with all that is known of it, and how many messages came before that. */
  with(t: TicketWire): TicketWire {
    if (t.id !== this.ticketId) this.begin(t);
    this.keep(t);
    const messages = [...this.messages.values()].sort(byTime);
    const story = [...(this.head ? [this.head] : []), ...[...this.story.values()].sort(byTime)];
    return { ...t, messages, story, earlierMessages: t.earlierMessages - (messages.length - t.messages.length) };
  }

  /** @param part what came before all that is known */
  add(part: TalkPart): void {
    this.keep(part);
    this.head = headOf(part);
  }

  private begin(t: TicketWire): void {
    this.ticketId = t.id;
    this.messages = new Map();
    this.story = new Map();
    this.head = headOf(t);
  }

  private keep({ messages, story }: TalkPart): void {
    for (const message of messages) this.messages.set(message.id, message);
    for (const line of story) if (line.id !== null) this.story.set(line.id, line);
  }
}

/** Whether more was written or happened before what is shown. */
export function hasEarlier(t: TicketWire): boolean {
  return t.messages.length > 0 && (t.earlierMessages > 0 || headOf(t) !== undefined);
}

/** Where to read on: before the first message and event that are shown. */
export function beforeAll(t: TicketWire): { message: string; event?: string } {
  const event = t.story.find((line) => line.id !== null)?.id;
  return { message: t.messages[0]!.id, ...(event ? { event } : {}) };
}

const headOf = ({ story }: TalkPart): StoryWire | undefined => story.find((line) => line.id === null);

/** Ids rise with time, and settle what happened at one instant. */
function byTime(a: { readonly at: string; readonly id: string | null }, b: { readonly at: string; readonly id: string | null }): number {
  if (a.at !== b.at) return a.at < b.at ? -1 : 1;
  return (a.id ?? '') < (b.id ?? '') ? -1 : 1;
}
