import { dateOf, type Instant, plusDays, type WeeklyCalendar, workingIntervals } from '../../ground';

export interface Unanswered {
  /** When the client wrote. */
  readonly at: Instant;
  readonly priorityContact: boolean;
  /** Messages of the client since the last word of ours, this one too. */
  readonly messages: number;
}

export const OUT_OF_HOURS = 'a priority contact wrote outside working hours';

/** Why a message rings the on-call person, in words; undefined where it does not. */
export type Escalation = typeof OUT_OF_HOURS | `they wrote ${number} times without an answer`;

/**
 * Whether a client's message rings the on-call person: a priority contact outside working hours, or anybody who
 * writes again and again without an answer, at every so many messages.
 * @param afterMessages at how many unanswered messages, at least 2
 */
export function escalates(
  calendar: WeeklyCalendar,
  afterMessages: number,
  { at, priorityContact, messages }: Unanswered,
): Escalation | undefined {
  if (messages >= afterMessages && messages % afterMessages === 0) return `they wrote ${messages} times without an answer`;
  if (priorityContact && !isWorking(calendar, at)) return OUT_OF_HOURS;
  return undefined;
}

function isWorking(calendar: WeeklyCalendar, at: Instant): boolean {
  const today = dateOf(at, calendar.zone);
  return workingIntervals(calendar, today, plusDays(today, 1)).some((i) => i.from <= at && at < i.to);
}
