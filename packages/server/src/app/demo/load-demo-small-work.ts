import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { CLOCK_NAMES, type ClockFact, closesAt, DEFAULT_PRIORITY_MATRIX, replayClock } from '@core/desk';
import { type Instant, plusSeconds } from '@core/ground';
import { clockRow } from '../../desk/clocks/ticket-clock-store';
import { ticketSecret } from '../../desk/tickets/open-ticket';
import type { HouseBook } from '../../house/house/house-book';
import { byContact, byPerson, whoColumns } from '../actor';
import { at } from '../database';
import { SMALL_TOPICS } from './demo-small-causes';
import { type Cast, fill, pickClientOf } from './demo-teller';
import type { DemoRandom } from './demo-random';
import { categoryOfTopic } from './load-demo-categories';

const MINUTE = 60;
const AT_ONCE = 500;

/** Small work that somebody did in one go, or in several: the ticket it was for came in a little before. */
export interface SmallWork {
  readonly person: { readonly id: string; readonly name: string };
  readonly from: Instant;
  readonly to: Instant;
  readonly number: number;
}

/** What of a client decides on its tickets. */
export interface ClientOf {
  readonly id: string;
  readonly division_id: string;
  readonly calendar_id: string | null;
}

export interface SmallTicket {
  readonly id: string;
  readonly clientId: string;
  readonly note: string;
}

/** A row as it goes in: what has a default may be left out. */
type Fresh = Record<string, unknown>;

/** What small work is made up from. */
interface SmallWorkFrom {
  readonly book: HouseBook;
  readonly cast: Cast;
  readonly clients: readonly ClientOf[];
  readonly story: Instant;
  readonly random: DemoRandom;
}

/** Tickets of small work in the past, each from its mail to its end, written all at once. */
export class SmallTickets {
  private readonly tickets: Fresh[] = [];
  private readonly messages: Fresh[] = [];
  private readonly events: Fresh[] = [];
  private readonly facts: Fresh[] = [];
  private readonly clocks: Fresh[] = [];

  constructor(private readonly from: SmallWorkFrom) {}

  add({ person, from, to, number }: SmallWork): SmallTicket {
    const { random, book, cast } = this.from;
    const client = pickClientOf(cast, random);
    const topic = random.pick(SMALL_TOPICS);
    const [contact, asset] = [random.pick(client.contacts), random.pick(client.assets)];
    const words = (text: string) => fill(text, contact, asset);
    const id = randomUUID();
    const [subject, categoryId] = [words(topic.subjects[0]!), categoryOfTopic(cast.categories, topic.subjects[0]!)];
    const receivedAt = plusSeconds(from, -MINUTE * random.whole(14, 140));
    const routedAt = plusSeconds(receivedAt, MINUTE * random.whole(2, 9));
    const answeredAt = Math.max(routedAt + MINUTE, from - MINUTE * random.whole(1, 5)) as Instant;
    const closes = closesAt(book.house.calendar, to, book.house.tickets.closeAfterDates)!;
    const closedAt = closes < this.from.story ? closes : null;
    const priority = DEFAULT_PRIORITY_MATRIX[topic.impact][topic.urgency];
    const desk = cast.desks.find((d) => d.name === 'Support')!;
    const divisionId = this.from.clients.find((c) => c.id === client.id)!.division_id;
    const ended = { outcome: 'solved', resolved_at: at(to), closed_at: closedAt && at(closedAt), closes_at: closedAt ? null : at(closes) };
    this.tickets.push({
      id,
      division_id: divisionId,
      number,
      secret: ticketSecret(),
      subject,
      kind: topic.kind,
      status: closedAt ? 'closed' : 'resolved',
      impact: topic.impact,
      urgency: topic.urgency,
      priority,
      client_id: client.id,
      contact_id: contact.id,
      asset_id: random.chance(35) ? asset.id : null,
      desk_id: desk.id,
      line: 'first',
      category_id: categoryId,
      assignee_id: person.id,
      sender_email: contact.email,
      sender_name: contact.name,
      threading_why: JSON.stringify([{ rule: 'no message or token of ours: a new ticket' }]),
      promise_version_id: book.house.promiseVersionId,
      received_at: at(receivedAt),
      changed_at: at(closedAt ?? to),
      resolution: topic.note,
      ...ended,
    });
    this.keepClocks(id, client.id, [
      { at: receivedAt, is: 'received' },
      { at: routedAt, is: 'priority', priority },
      { at: routedAt, is: 'routed' },
      { at: answeredAt, is: 'public-contact' },
      { at: to, is: 'public-contact' },
      { at: to, is: 'resolved' },
    ]);
    const mail = ({
      n,
      when,
      text,
      own,
    }: {
      readonly n: number;
      readonly when: Instant;
      readonly text: string;
      readonly own: boolean;
    }) => ({
      ticket_id: id,
      at: at(when),
      direction: own ? 'out' : 'in',
      visibility: 'public',
      author_contact_id: own ? null : contact.id,
      author_person_id: own ? person.id : null,
      author_name: own ? person.name : contact.name,
      author_email: own ? null : contact.email,
      to_addresses: [own ? contact.email : book.house.mailFrom],
      subject,
      text: words(text),
      message_id: `<small.${number}.${n}@pellworth.example>`,
      left_at: own ? at(when) : null,
    });
    this.messages.push(
      mail({ n: 0, when: receivedAt, text: random.pick(topic.asks), own: false }),
      mail({ n: 1, when: to, text: topic.ends, own: true }),
    );
    if (random.chance(60)) this.messages.splice(-1, 0, mail({ n: 2, when: answeredAt, text: random.pick(topic.answers), own: true }));
    const [them, aoife] = [byContact(contact, 'mail'), cast.people.find((p) => p.name === 'Aoife Brannigan')!];
    const by = byPerson({ id: person.id, name: person.name, role: 'technician' }, 'web');
    const told = ({
      when,
      actor,
      type,
      data,
    }: {
      readonly when: Instant;
      readonly actor: ReturnType<typeof byPerson>;
      readonly type: string;
      readonly data: object;
    }) =>
      this.events.push({
        type,
        version: 1,
        data: JSON.stringify(data),
        subject: 'ticket',
        subject_id: id,
        ticket_id: id,
        client_id: client.id,
        division_id: divisionId,
        happened_at: at(when),
        ...whoColumns(actor),
        via: actor.via,
      });
    told({ when: receivedAt, actor: them, type: 'ticket.message-received', data: {} });
    told({
      when: routedAt,
      actor: byPerson({ id: aoife.id, name: aoife.name, role: 'service manager' }, 'web'),
      type: 'ticket.routed',
      data: {
        why: [],
        kind: topic.kind,
        ownKind: null,
        desk: desk.name,
        deskId: desk.id,
        category: cast.categories.find((c) => c.id === categoryId)!.name,
        categoryId,
        priority: [null, priority],
        assignee: person.name,
        assigneeId: person.id,
      },
    });
    told({ when: to, actor: by, type: 'ticket.message-sent', data: { to: [contact.email], updateId: null } });
    const moved = (status: [string, string], before: object) => ({ status, before, holdReason: null, ownStatus: null, ownStatusId: null });
    const nothing = { factIds: [], outcome: null, closedAt: null, closesAt: null, holdReason: null, resolvedAt: null, ownStatusId: null };
    told({ when: to, actor: by, type: 'ticket.moved', data: moved(['queued', 'resolved'], nothing) });
    if (closedAt)
      told({
        when: closedAt,
        actor: by,
        type: 'ticket.moved',
        data: moved(['resolved', 'closed'], { ...nothing, outcome: 'solved', resolvedAt: at(to), closesAt: at(closes) }),
      });
    return { id, clientId: client.id, note: topic.note };
  }

  private keepClocks(ticketId: string, clientId: string, facts: readonly ClockFact[]): void {
    for (const { at: when, is, ...detail } of facts)
      this.facts.push({ ticket_id: ticketId, at: at(when), fact: is, detail: JSON.stringify(detail), written_at: at(when) });
    const promise = this.from.book.promise(
      this.from.book.house.promiseVersionId,
      this.from.clients.find((c) => c.id === clientId)!.calendar_id,
    );
    for (const name of CLOCK_NAMES) {
      const reading = replayClock({ clock: name, promise, facts, now: this.from.story });
      if (reading) this.clocks.push(clockRow(ticketId, reading));
    }
  }

  async write(tx: Knex.Transaction): Promise<void> {
    await tx.batchInsert('ticket', this.tickets as Record<string, string>[], AT_ONCE);
    await tx.batchInsert('message', this.messages as Record<string, string>[], AT_ONCE);
    await tx.batchInsert('ticket_fact', this.facts as Record<string, string>[], AT_ONCE);
    await tx.batchInsert('ticket_clock', this.clocks as Record<string, string>[], AT_ONCE);
    await tx.batchInsert('event', this.events as Record<string, string>[], AT_ONCE);
  }
}
