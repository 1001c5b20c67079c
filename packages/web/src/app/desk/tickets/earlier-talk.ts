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
  private messages: readonly MessageWire[] = [];
  private story: readonly StoryWire[] = [];
  /** Says how many events came before all that are known. */
  private head: StoryWire | undefined;

  /** The ticket with all that is known of it, in the order the server gives, and how many messages came before that. */
  with(t: TicketWire): TicketWire {
    if (t.id !== this.ticketId) this.begin(t);
    const happened = t.story.filter((line) => line.id !== null);
    this.messages = [...(t.earlierMessages ? before(this.messages, t.messages) : []), ...t.messages];
    this.story = [...(headOf(t) ? before(this.story, happened) : []), ...happened];
    if (!headOf(t) || this.story.length === happened.length) this.head = headOf(t);
    return {
      ...t,
      messages: [...this.messages],
      story: [...(this.head ? [this.head] : []), ...this.story],
      earlierMessages: t.earlierMessages - (this.messages.length - t.messages.length),
    };
  }

  /** @param part what came before all that is known */
  add(part: TalkPart): void {
    this.messages = [...part.messages, ...this.messages];
    this.story = [...part.story.filter((line) => line.id !== null), ...this.story];
    this.head = headOf(part);
  }

  private begin(t: TicketWire): void {
    this.ticketId = t.id;
    this.messages = [];
    this.story = [];
    this.head = headOf(t);
  }
}

/** Of what is known, what stands before the newest that were read. */
function before<T extends { readonly id: string | null }>(known: readonly T[], newest: readonly T[]): readonly T[] {
  const at = known.findIndex((one) => one.id === newest[0]?.id);
  return at >= 0 ? known.slice(0, at) : known.filter((one) => !newest.some((other) => other.id === one.id));
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
