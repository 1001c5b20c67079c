import { effectOfEntry } from '@core/time';
import { type ShareForm, taxOfCharge } from '@core/billing';
import { dateOf, formatMinutes, type Outcome, refuse, step } from '@core/ground';
import type { Work } from '../../app/work';
import { isFrozen } from '../../time/time-entries/is-frozen';
import type { HouseBook } from '../../house/house/house-book';
import { readRateBooks } from '../../time/time-entries/rate-books';

/**
 * Shares the time of an umbrella over several clients out by hand: each part becomes proposed charges of its
 * member's client, at that client's own rates and to the minute. Done again, it replaces what was proposed.
 */
export async function shareEntry(
  work: Work,
  book: HouseBook,
  entryId: string,
  { parts }: ShareForm,
): Promise<Outcome<{ id: string; charges: number }>> {
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
  await tx('charge').where({ shared_from: entryId, state: 'proposed' }).delete();
  const activity = book.activity(entry.activity_id)!;
  let charges = 0;
  for (const [i, part] of parts.entries()) {
    const member = await tx('membership as m')
      .join('ticket as t', 't.id', 'm.ticket_id')
      .leftJoin('client as c', 'c.id', 't.client_id')
      .where({ 'm.umbrella_id': entry.ticket_id, 't.id': part.ticketId })
      .first('t.id', 't.number', 't.division_id', 't.client_id', 'c.tax_exempt');
    if (!member?.client_id)
      return refuse('invalid', 'A part is of no member with a client.', { [`parts[${i}].ticketId`]: 'choose a member' });
    const rates = await readRateBooks(tx, book, [member.client_id]);
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
    const tax = taxOfCharge(book.house.labourTax, member.tax_exempt);
    const rows = effect.parts.map((rated, k) => ({
      division_id: member.division_id,
      client_id: member.client_id,
      ticket_id: member.id,
      shared_from: entryId,
      person_id: entry.person_id,
      kind: 'labour',
      part: k,
      on_date: dateOf(entry.starts_at, book.house.zone),
      // The umbrella's own subject and note may name others, so a client reads neither.
      description: `${entry.person}, ${activity.name}, ${rated.band}: share of work on a common cause`,
      quantity: rated.minutes,
      unit: 'MIN',
      unit_price: rated.rate,
      net_minor: rated.net.minor,
      currency: book.house.currency,
      tax_category: tax.category,
      tax_percent: tax.percent,
      odd: [],
      explanation: JSON.stringify([
        step(`shared out by ${work.actor.name}`, `${formatMinutes(part.minutes)} of ${formatMinutes(entry.minutes)}`),
        ...effect.why,
      ]),
    }));
    if (rows.length) await tx('charge').insert(rows);
    charges += rows.length;
    await work.tell('ticket.time-taken', member.id, { entryId, minutes: part.minutes });
  }
  await work.tell('ticket.time-shared-out', entry.ticket_id, { entryId, minutes: sum, person: entry.person, members: parts.length });
  await work.emit('charge', null);
  return { id: entryId, charges };
}
