import { effectOfEntry } from '@core/time';
import { type ShareForm, draftCharges, taxOfCharge } from '@core/billing';
import { dateOf, formatMinutes, type Id, type Outcome, refuse } from '@core/ground';
import type { Joined, Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { isFrozen, readRateBooks } from '../../time';
import { lookAtCharges } from './look-at-charges';
import { type WantedCharge, storeCharges } from './store-charges';

/**
 * Shares the time of an umbrella over several clients out by hand: each part becomes proposed charges of its
 * member's client, at that client's own rates and to the minute. Done again, it replaces what was proposed.
 */
export async function shareEntry(
  work: Work,
  book: HouseBook,
  { entryId, body: { parts } }: { readonly entryId: Id<'time_entry'>; readonly body: ShareForm },
): Promise<Outcome<{ id: Id<'time_entry'>; charges: number }>> {
  const { tx } = work;
  const entry = await tx('time_entry as e')
    .join('ticket as t', 't.id', 'e.ticket_id')
    .join('person as p', 'p.id', 'e.person_id')
    .where('e.id', entryId)
    .whereNull('e.removed_at')
    .first('e.*', 't.is_umbrella', 't.subject', 't.number', 't.client_id as umbrella_client', 'p.name as person');
  if (!entry) return refuse('not-found', 'There is no such time entry.');
  if (!entry.is_umbrella || entry.umbrella_client)
    return refuse('not-possible-now', 'Only time on an umbrella over several clients is shared out.');
  if (await isFrozen(work, entryId))
    return refuse('not-possible-now', 'A share of it was decided on already. Take that decision back first.');
  const sum = parts.reduce((a, p) => a + p.minutes, 0);
  if (sum > entry.minutes)
    return refuse('invalid', `The parts come to ${formatMinutes(sum)}, the entry has ${formatMinutes(entry.minutes)}.`, {
      parts: `at most ${formatMinutes(entry.minutes)} in all`,
    });
  const activity = book.activity(entry.activity_id)!;
  const members: (Row<'ticket', 'id' | 'division_id' | 'client_id'> & Joined<'client', 'tax_exempt'>)[] = await tx('membership as m')
    .join('ticket as t', 't.id', 'm.ticket_id')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where({ 'm.umbrella_id': entry.ticket_id })
    .whereIn(
      't.id',
      parts.map((p) => p.ticketId),
    )
    .select('t.id', 't.division_id', 't.client_id', 'c.tax_exempt');
  const rates = await readRateBooks(
    tx,
    book,
    members.map((m) => m.client_id),
  );
  const wanted: WantedCharge[] = [];
  for (const [nth, part] of parts.entries()) {
    const member = members.find((m) => m.id === part.ticketId);
    if (!member?.client_id)
      return refuse('invalid', 'A part is of no member with a client.', { [`parts[${nth}].ticketId`]: 'choose a member' });
    const effect = effectOfEntry(
      {
        from: entry.starts_at,
        to: entry.ends_at,
        minutes: part.minutes,
        gradeId: entry.grade_id,
        activity,
        billable: true,
        clientId: member.client_id,
        ticketKind: null,
        exact: true,
      },
      rates(member.client_id),
    );
    const owner = {
      divisionId: member.division_id,
      clientId: member.client_id,
      ticketId: member.id,
      personId: entry.person_id,
      on: dateOf(entry.starts_at, book.house.zone),
      tax: taxOfCharge(book.division(member.division_id).labourTax, member.tax_exempt ?? false),
    };
    const share = { person: entry.person, activity: activity.name, minutes: part.minutes, of: entry.minutes, sharedBy: work.actor.name };
    for (const draft of draftCharges({ is: 'share', ...share, effect, nth })) wanted.push({ draft, owner });
    await work.tell('ticket.time-taken', member.id, { entryId, minutes: part.minutes });
  }
  await work.tell('ticket.time-shared-out', entry.ticket_id, { entryId, minutes: sum, person: entry.person, members: parts.length });
  await storeCharges(work, { shared_from: entryId }, wanted);
  await lookAtCharges(work, { ticketIds: [...new Set(wanted.flatMap((w) => w.owner.ticketId ?? []))] });
  return { id: entryId, charges: wanted.length };
}
