import type { RunInvoiceWire } from '@core/billing';
import { type ClientSeatsWire, type SeatState, SEAT_KINDS } from '@core/contracts';
import { type Currency, type Id, isRefusal, type LocalDate, plusDays, sumMoney } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { readClientSeats } from '../../contracts';
import type { HouseBook } from '../../house';
import { readDecided } from '../../time';

interface OfClient {
  readonly clientId: Id<'client'>;
  readonly today: LocalDate;
}

/** Which contracts of a client are closed with its invoice, and which are not as work of theirs waits. */
export async function readCloses(
  db: Db,
  book: HouseBook,
  { clientId, by, today }: OfClient & { readonly by: LocalDate },
): Promise<RunInvoiceWire['closes']> {
  const contracts: Row<'contract', 'id' | 'number' | 'name'>[] = await db('contract')
    .where({ client_id: clientId })
    .whereNotNull('agreed_at')
    .orderBy('number')
    .select('id', 'number', 'name');
  const closes: RunInvoiceWire['closes'] = [];
  for (const { id: contractId, number, name } of contracts) {
    const found = await readDecided(db, book, { contractId, by, today });
    if (isRefusal(found) || (found.to === null && !found.waiting)) continue;
    const { to, entries, waiting } = found;
    closes.push({ contractId, number, name, lastDay: to && plusDays(to, -1), entries, waiting });
  }
  return closes;
}

/** What is worth a look before a client is billed, by how it stands to its lines. */
const LOOKED_FOR: readonly SeatState[] = ['on no line', 'left, still billed', 'billed for nothing'];

/** People and assets of a client that are on no line, or billed without need, with what that comes to in a month. */
export async function readFound(
  db: Db,
  { clientId, today, currency }: OfClient & { readonly currency: Currency },
): Promise<RunInvoiceWire['found']> {
  const figures: ClientSeatsWire['figures'] = [];
  for (const counted of SEAT_KINDS) {
    const seats = await readClientSeats(db, { clientId, counted, today, currency });
    if (!isRefusal(seats)) figures.push(...seats.figures);
  }
  return LOOKED_FOR.map((state) => {
    const mine = figures.filter((f) => f.state === state);
    return {
      state,
      count: mine.reduce((sum, f) => sum + f.count, 0),
      monthly: sumMoney(
        mine.map((f) => f.monthly),
        currency,
      ),
    };
  }).filter((f) => f.count > 0);
}
