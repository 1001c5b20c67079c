import { plusSeconds, formatInstant, instantAt, type LocalDate } from '@core/ground';
import { bookWork } from '../../scheduling/dispatch/book-work';
import { setBookingState } from '../../scheduling/dispatch/change-booking';
import { assignTicket } from '../../desk/tickets/move-ticket';
import { triageTicket } from '../../desk/tickets/triage-ticket';
import { addEntry } from '../../time/time-entries/record-time';
import { startTimer } from '../../time/time-entries/timers';
import { at } from '../database';
import { NEARLY_MISSED, OVER, UNSORTED } from './demo-story';
import { tellHarbourLink } from './load-demo-umbrella';
import { as, clientWrites, must, open, type Teller } from './demo-teller';

/** Bookings of the day that are visits. */
const ON_SITE = ['Marisol Quintero 480', 'Marisol Quintero 795', 'Ines Valadares 570', 'Ines Valadares 795', 'Fionn Hartigan 810'];

/** The morning of the story: what lies unsorted, what is owed, and who is on which booking. */
export async function tellToday(teller: Teller, today: LocalDate): Promise<void> {
  const { book, story, cast, tx } = teller;
  const clock = (minute: number) => instantAt(today, minute, book.house.zone);
  for (const message of UNSORTED) {
    const client = cast.clients.find((c) => c.name === message.client) ?? null;
    const contact = client?.contacts.find((k) => k.name === `${message.first} ${message.last}`) ?? {
      id: '',
      name: 'hall tablet',
      email: `${message.first}@${message.last}`,
      site: '',
    };
    await open(teller, {
      client,
      contact,
      now: plusSeconds(story, -60 * message.minutesAgo),
      subject: message.subject,
      text: message.text,
    });
  }
  for (const late of NEARLY_MISSED) await tellNearlyMissed(teller, late);
  await tellHarbourLink(teller, today);
  const openTickets = await tx('ticket')
    .whereIn('status', ['queued'])
    .whereNot('kind', 'unsorted')
    .where('changed_at', '<', at(clock(7 * 60 + 50)))
    .orderBy('number', 'desc')
    .limit(60)
    .select('id', 'number', 'secret', 'subject', 'contact_id');
  const plan: [string, number, number][] = [
    ['Deepa Raghunathan', 8 * 60 + 30, 60],
    ['Deepa Raghunathan', 11 * 60 + 30, 75],
    ['Deepa Raghunathan', 14 * 60, 90],
    ['Marisol Quintero', 8 * 60, 120],
    ['Marisol Quintero', 11 * 60, 90],
    ['Marisol Quintero', 13 * 60 + 15, 105],
    ['Marisol Quintero', 15 * 60 + 30, 90],
    ['Fionn Hartigan', 10 * 60, 90],
    ['Fionn Hartigan', 13 * 60 + 30, 90],
    ['Yusuf Demirel', 8 * 60 + 30, 105],
    ['Yusuf Demirel', 10 * 60 + 45, 90],
    ['Yusuf Demirel', 13 * 60 + 30, 120],
    ['Ines Valadares', 8 * 60, 75],
    ['Ines Valadares', 9 * 60 + 30, 150],
    ['Ines Valadares', 13 * 60 + 15, 90],
    ['Ines Valadares', 15 * 60 + 15, 120],
    ['Sora Minegishi', 9 * 60, 60],
    ['Sora Minegishi', 11 * 60, 60],
    ['Piotr Zaleski', 9 * 60 + 15, 90],
    ['Piotr Zaleski', 14 * 60 + 30, 60],
    ['Odalys Figueroa', 8 * 60 + 45, 45],
  ];
  for (const [i, [name, minute, length]] of plan.entries()) {
    const ticket = openTickets[i];
    if (!ticket) break;
    const person = cast.people.find((p) => p.name === name)!;
    const booking = must(
      await bookWork(as(teller, 'Tomasz Wieland', clock(7 * 60 + 50)), book, {
        workId: ticket.id,
        asked: {
          personId: person.id,
          startsAt: formatInstant(clock(minute)),
          minutes: length,
          onSite: ON_SITE.includes(`${name} ${minute}`),
        },
      }),
    );
    const ended = minute + length < 10 * 60 + 40;
    if (!ended) continue;
    if (name === OVER.technician) {
      must(await startTimer(as(teller, name, clock(OVER.sinceMinute)), ticket.id));
      continue;
    }
    const worked = name === 'Deepa Raghunathan' ? length - 20 : length;
    const remote = cast.activities.find((a) => a.name === (name === 'Marisol Quintero' ? 'on site' : 'remote'))!;
    must(
      await addEntry(as(teller, name, clock(minute + worked)), book, {
        workId: ticket.id,
        startsAt: formatInstant(clock(minute)),
        duration: String(worked),
        activityId: remote.id,
        note: `Worked on: ${ticket.subject}`,
        billable: true,
        reason: null,
      }),
    );
    must(
      await setBookingState(as(teller, name, clock(minute + worked)), book, {
        bookingId: booking.id,
        version: booking.version,
        to: 'done',
      }),
    );
  }
  for (const [i, ticket] of openTickets.slice(plan.length, plan.length + 1).entries()) {
    const contact = cast.clients.flatMap((c) => c.contacts).find((k) => k.id === ticket.contact_id)!;
    const when = clock(9 * 60 + 5 + i * 23);
    await clientWrites(teller, {
      ticketId: ticket.id,
      contact,
      now: when,
      subject: `Re: ${ticket.subject}`,
      text: [
        'Any news on this? I am here until two.',
        'Hello again, it has just happened once more, at ten past nine.',
        'Could somebody ring me before lunch, please?',
      ][i]!,
    });
    await tx('ticket')
      .where({ id: ticket.id })
      .update({ reply_owed_since: at(when), reply_owed_by: contact.name });
    if (i === 0)
      must(
        await assignTicket(as(teller, 'Aoife Brannigan', when), {
          ticketId: ticket.id,
          version: undefined,
          personId: cast.people.find((p) => p.name === 'Deepa Raghunathan')!.id,
        }),
      );
  }
}

/** A ticket that was sorted at once and then forgotten, so that its response is due in a few minutes. */
async function tellNearlyMissed(teller: Teller, late: (typeof NEARLY_MISSED)[number]): Promise<void> {
  const { story, cast, book } = teller;
  const client = cast.clients.find((c) => c.name === late.client)!;
  const contact = client.contacts[7]!;
  const receivedAt = plusSeconds(story, 60 * (late.dueInMinutes - late.responseMinutes));
  const ticket = await open(teller, {
    client,
    contact,
    now: receivedAt,
    subject: late.subject,
    text: `${late.text}\n${contact.name.split(' ')[0]}`,
  });
  const triage = {
    kind: 'incident',
    impact: late.impact,
    urgency: late.urgency,
    deskId: cast.desks.find((d) => d.name === 'Support')!.id,
    line: 'first',
    categoryId: cast.categories.find((c) => c.name === late.category)!.id,
    clientId: client.id,
    contactId: contact.id,
    assetId: null,
    assigneeId: cast.people.find((p) => p.name === late.technician)!.id,
  } as const;
  must(
    await triageTicket(as(teller, 'Aoife Brannigan', plusSeconds(receivedAt, 180)), book, {
      ticketId: ticket.id,
      version: undefined,
      triage,
    }),
  );
}
