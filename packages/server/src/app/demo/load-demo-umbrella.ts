import { randomUUID } from 'node:crypto';
import { instantAt, plusSeconds, type Instant, type LocalDate } from '@core/ground';
import { assignTicket, setStatus } from '../../desk/tickets/move-ticket';
import { triageTicket } from '../../desk/tickets/triage-ticket';
import { addNote } from '../../desk/messages/write-messages';
import { addFacts, storeClocks } from '../../desk/clocks/ticket-clock-store';
import { openUmbrella } from '../../desk/umbrellas/open-umbrella';
import { joinUmbrella } from '../../desk/umbrellas/join-umbrella';
import { at } from '../database';
import { HARBOUR_LINK } from './demo-harbour-link';
import { as, must, open, personReplies, type Contact, type Teller } from './demo-teller';

const MANAGER = 'Aoife Brannigan';

interface Member {
  readonly ticket: { id: string; number: number; secret: string };
  readonly contact: Contact;
  readonly subject: string;
}

/** The morning the harbour link went down: nine reports of five clients, and one umbrella over them. */
export async function tellHarbourLink(teller: Teller, today: LocalDate): Promise<void> {
  const { book, cast } = teller;
  const clock = (minute: number) => instantAt(today, minute, book.house.zone);
  const members: Member[] = [];
  for (const report of HARBOUR_LINK.reports) {
    const client = cast.clients.find((c) => c.name === report.client)!;
    const contact = client.contacts[report.contact]!;
    const when = clock(8 * 60 + report.minute);
    const text = `${report.text}\n\n${contact.name.split(' ')[0]}`;
    members.push({
      ticket: await open(teller, { client, contact, now: when, subject: report.subject, text }),
      contact,
      subject: report.subject,
    });
  }
  const support = cast.desks.find((d) => d.name === 'Support')!.id;
  const [first] = members;
  const contactOf = (id: string) => cast.clients.find((c) => c.contacts.some((k) => k.id === id))!.id;
  const triage = {
    kind: 'incident',
    impact: 'everyone',
    urgency: 'stopped',
    deskId: support,
    line: 'first',
    assetId: null,
    assigneeId: null,
  } as const;
  must(
    await triageTicket(as(teller, MANAGER, clock(8 * 60 + 12)), book, {
      ticketId: first!.ticket.id,
      version: undefined,
      triage: {
        ...triage,
        categoryId: cast.categories.find((c) => c.name === 'Connections')!.id,
        clientId: contactOf(first!.contact.id),
        contactId: first!.contact.id,
      },
    }),
  );
  const opened = clock(8 * 60 + HARBOUR_LINK.openedMinute);
  const early = members.filter((_, i) => HARBOUR_LINK.reports[i]!.minute < HARBOUR_LINK.openedMinute);
  const ids = (of: typeof members) => of.map((m) => m.ticket.id);
  const umbrella = must(
    await openUmbrella(as(teller, MANAGER, opened), book, {
      subject: HARBOUR_LINK.subject,
      kind: 'incident',
      impact: 'everyone',
      urgency: 'stopped',
      deskId: support,
      memberIds: ids(early),
      moveWork: true,
    }),
  );
  const odalys = cast.people.find((p) => p.name === HARBOUR_LINK.technician)!.id;
  must(await assignTicket(as(teller, MANAGER, plusSeconds(opened, 60)), { ticketId: umbrella.id, version: undefined, personId: odalys }));
  await tellAll(teller, {
    umbrellaId: umbrella.id,
    members: early,
    now: clock(8 * 60 + HARBOUR_LINK.firstUpdate.minute),
    text: HARBOUR_LINK.firstUpdate.text,
  });
  const late = members.filter((m) => !early.includes(m));
  must(
    await joinUmbrella(as(teller, MANAGER, clock(8 * 60 + 48)), book, {
      umbrellaId: umbrella.id,
      form: { memberIds: ids(late), moveWork: true },
    }),
  );
  must(await addNote(as(teller, HARBOUR_LINK.technician, clock(9 * 60 + 20)), { ticketId: umbrella.id, text: HARBOUR_LINK.note }));
  must(
    await setStatus(as(teller, HARBOUR_LINK.technician, clock(9 * 60 + 25)), book, {
      ticketId: umbrella.id,
      version: undefined,
      to: 'underway',
      holdReason: null,
    }),
  );
  await tellAll(teller, {
    umbrellaId: umbrella.id,
    members,
    now: clock(8 * 60 + HARBOUR_LINK.secondUpdate.minute),
    text: HARBOUR_LINK.secondUpdate.text,
  });
}

/** An update that left at `now`, to each in their own thread. */
async function tellAll(
  teller: Teller,
  {
    umbrellaId,
    members,
    now,
    text,
  }: { readonly umbrellaId: string; readonly members: readonly Member[]; readonly now: Instant; readonly text: (first: string) => string },
) {
  const { tx, cast } = teller;
  const work = as(teller, HARBOUR_LINK.technician, now);
  const id = randomUUID();
  await tx('member_update').insert({
    id,
    umbrella_id: umbrellaId,
    at: at(now),
    person_id: cast.people.find((p) => p.name === HARBOUR_LINK.technician)!.id,
    text: text('{first name}'),
    asks: false,
  });
  for (const { ticket, contact, subject } of members) {
    const first = contact.name.split(' ')[0]!;
    await personReplies(teller, { ticket, contact, who: HARBOUR_LINK.technician, now, subject, text: text(first) });
    await tx('message').where({ ticket_id: ticket.id, direction: 'out' }).where('at', at(now)).update({ update_id: id });
  }
  await addFacts(work, umbrellaId, [{ at: now, is: 'public-contact' }]);
  await storeClocks(work, teller.book, { ticketId: umbrellaId });
  await work.tell('ticket.members-written-to', umbrellaId, { mails: members.length, asks: false, text: text('{first name}') });
}
