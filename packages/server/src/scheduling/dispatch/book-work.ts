import { randomUUID } from 'node:crypto';
import { repeatDays, type BookForm } from '@core/scheduling';
import {
  dateOf,
  type Id,
  instantAt,
  type Interval,
  isRefusal,
  type Outcome,
  plusSeconds,
  type Refusal,
  refuse,
  wallMinuteOf,
} from '@core/ground';
import type { Work } from '../../app/work';
import { rulesOf } from '../../app/work-rules';
import { readWorkFacts } from '../../ground';
import type { HouseBook } from '../../house';
import { insertBooking, spanOf, technicianName, type Slot } from './booking-store';

type Done = Outcome<{ id: Id<'booking'>; version: number }>;
/** A slot; others who come along, and how it repeats, where anything is said of that. */
export type AskedBooking = Slot & Partial<Pick<BookForm, 'withIds' | 'repeat' | 'times'>>;

/**
 * Books work, for several technicians at once and again and again where that is asked; all of it or nothing. A
 * booking that is sure makes a ticket booked and, where nobody was, assigns the technician.
 * @returns the first booking
 */
export async function bookWork(
  work: Work,
  book: HouseBook,
  { workId, asked }: { readonly workId: Id<'work'>; readonly asked: AskedBooking },
): Promise<Done> {
  const refused = await refuseUnbookable(work, workId);
  if (refused) return refused;
  const people = [asked.personId, ...(asked.withIds ?? []).filter((id) => id !== asked.personId)];
  const names: string[] = [];
  for (const personId of people) {
    const name = await technicianName(work, personId);
    if (isRefusal(name)) return name;
    names.push(name);
  }
  const spans = spansOf(book, asked);
  const seriesId = spans.length > 1 ? randomUUID() : null;
  let first: { id: Id<'booking'>; version: number } | undefined;
  for (const span of spans) {
    const crewId = people.length > 1 ? randomUUID() : null;
    for (const personId of people) {
      const row = await insertBooking(work, book, {
        workId,
        slot: { ...asked, personId },
        span,
        together: {
          crewId,
          seriesId,
        },
      });
      await work.tell('booking.made', row.id, {});
      first ??= row;
    }
  }
  if (!asked.tentative) await becomeBooked(work, workId, { personId: asked.personId, bookingId: first!.id });
  const told = { people: names, tentative: asked.tentative === true, times: spans.length };
  if ((await readWorkFacts(work.tx, workId))!.kind === 'ticket') await work.tell('ticket.booked', workId, told);
  return first!;
}

/** Why work cannot be booked as it is, if there is anything. */
export async function refuseUnbookable(work: Work, workId: Id<'work'>): Promise<Refusal | undefined> {
  const facts = await readWorkFacts(work.tx, workId);
  if (!facts) return refuse('not-found', 'There is no such work.');
  return rulesOf(facts.kind).refuseBooking?.(work, workId);
}

/** What a sure booking does to its work. */
export async function becomeBooked(
  work: Work,
  workId: Id<'work'>,
  { personId, bookingId }: { readonly personId: Id<'person'> | null; readonly bookingId: Id<'booking'> },
): Promise<void> {
  const { kind } = (await readWorkFacts(work.tx, workId))!;
  await rulesOf(kind).becomeBooked?.(work, workId, personId);
  await work.tell('booking.became-sure', bookingId, { workId });
}

/** The same local time on each of its dates, over changes of the clocks too. */
function spansOf(book: HouseBook, asked: AskedBooking): Interval[] {
  const first = spanOf(asked);
  const { zone } = book.house;
  const minute = wallMinuteOf(first.from, zone);
  return repeatDays(dateOf(first.from, zone), asked.repeat ?? 'no', asked.times ?? 1).map((day, n) => {
    const from = n === 0 ? first.from : instantAt(day, minute, zone);
    return { from, to: plusSeconds(from, asked.minutes * 60) };
  });
}
