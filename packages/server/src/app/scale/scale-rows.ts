import { randomUUID } from 'node:crypto';
import type { ClockFact, Kind, Status } from '@core/desk';
import { plusSeconds, type Instant } from '@core/ground';
import type { DemoRandom } from '../demo/demo-random';
import { DEMO_TOPICS, type DemoTopic } from '../demo/demo-topics';

/** What rows are made of: everything that is there already and that they refer to. */
export interface ScaleCast {
  readonly now: Instant;
  readonly divisionId: string;
  readonly promiseVersionId: string;
  readonly clients: readonly { id: string; calendarId: string | null; contacts: readonly { id: string; name: string; email: string }[] }[];
  readonly desks: readonly string[];
  readonly people: readonly string[];
  readonly categoryOf: (topic: DemoTopic) => string;
  readonly priorityOf: (topic: DemoTopic) => 'P1' | 'P2' | 'P3' | 'P4';
}

export interface ScaleTicket {
  readonly id: string;
  readonly number: number;
  readonly subject: string;
  readonly kind: Kind;
  readonly status: Status;
  readonly priority: string;
  readonly impact: string;
  readonly urgency: string;
  readonly categoryId: string;
  readonly client: ScaleCast['clients'][number];
  readonly contact: ScaleCast['clients'][number]['contacts'][number];
  readonly deskId: string;
  readonly assigneeId: string | null;
  readonly receivedAt: Instant;
  readonly changedAt: Instant;
  readonly resolvedAt: Instant | null;
  readonly owedSince: Instant | null;
  /** What happened, of an open ticket. */
  readonly facts: readonly ClockFact[];
  readonly messages: readonly { at: Instant; out: boolean; text: string }[];
}

const YEARS_SECONDS = 3 * 365 * 86_400;
const OPEN_SECONDS = 40 * 86_400;
const OPEN_STATUSES: readonly Status[] = ['queued', 'queued', 'queued', 'booked', 'underway', 'on hold'];

/** One made-up ticket of the past three years; those that are open came in the last forty days. */
export function scaleTicket({
  random,
  cast,
  number,
  open,
}: {
  readonly random: DemoRandom;
  readonly cast: ScaleCast;
  readonly number: number;
  readonly open: boolean;
}): ScaleTicket {
  const topic = random.pick(DEMO_TOPICS);
  const client = random.pick(cast.clients);
  const contact = random.pick(client.contacts);
  const age = random.whole(600, open ? OPEN_SECONDS : YEARS_SECONDS);
  const receivedAt = plusSeconds(cast.now, -age);
  const answeredAt = plusSeconds(receivedAt, Math.min(age - 300, random.whole(300, 14_400)));
  const backAt = plusSeconds(receivedAt, Math.min(age - 60, random.whole(14_400, 90_000)));
  const status = open ? random.pick(OPEN_STATUSES) : 'closed';
  const owed = open && random.chance(8);
  const priority = cast.priorityOf(topic);
  const facts: ClockFact[] = [
    { at: receivedAt, is: 'received' },
    { at: plusSeconds(receivedAt, 240), is: 'priority', priority },
    { at: plusSeconds(receivedAt, 240), is: 'routed' },
    { at: answeredAt, is: 'public-contact' },
  ];
  if (status === 'on hold') facts.push({ at: answeredAt, is: 'held', reason: 'client' });
  const subject = `${fill(random.pick(topic.subjects), contact)} (${number % 9973})`;
  return {
    id: randomUUID(),
    number,
    subject,
    kind: topic.kind,
    status,
    priority,
    impact: topic.impact,
    urgency: topic.urgency,
    categoryId: cast.categoryOf(topic),
    client,
    contact,
    deskId: random.pick(cast.desks),
    assigneeId: random.chance(85) ? random.pick(cast.people) : null,
    receivedAt,
    changedAt: backAt > answeredAt ? backAt : answeredAt,
    resolvedAt: open ? null : (Math.min(backAt + 3600, cast.now) as Instant),
    owedSince: owed ? backAt : null,
    facts: open ? facts : [],
    messages: [
      { at: receivedAt, out: false, text: fill(random.pick(topic.asks), contact) },
      { at: answeredAt, out: true, text: fill(random.pick(topic.answers), contact) },
      { at: backAt, out: !owed, text: fill(owed ? (topic.back ?? topic.asks[0]!) : topic.ends, contact) },
    ],
  };
}

function fill(text: string, contact: { name: string }): string {
  return text.replaceAll('{first}', contact.name.split(' ')[0]!).replaceAll('{asset}', 'the machine').replaceAll('{site}', 'the office');
}
