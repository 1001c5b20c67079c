import {
  amount,
  anyId,
  count,
  currency,
  date,
  decimal,
  defineRoutes,
  id,
  list,
  listOf,
  oneOf,
  optionalDate,
  record,
  text,
  type Wire,
} from '../../ground';
import { LINE_FREQUENCIES } from '../recurring';
import { SEAT_STATES } from './seat-state';

export const SEAT_KINDS = ['seat', 'asset'] as const;
/** What the grid shows: people or assets. */
export type SeatKind = (typeof SEAT_KINDS)[number];

/** The most seats that one command changes. */
export const MOST_CHANGED = 2000;

const putSchema = record({ lineId: id('contract_line'), unitId: anyId().defined(), startsOn: date(), lastDay: optionalDate() });
const endSchema = record({ seatId: id('contract_seat'), lastDay: optionalDate() });
export const seatsChangeSchema = record({
  /** People or assets of the client that are put on lines. */
  put: listOf(putSchema, MOST_CHANGED),
  /** Those who get another last day, or none. */
  end: listOf(endSchema, MOST_CHANGED),
  /** Those who are taken off as if they had never been there. */
  takeOff: listOf(id('contract_seat').defined(), MOST_CHANGED),
});
export type SeatsChangeWire = Wire<typeof seatsChangeSchema>;

export const seatLineSchema = record({
  id: id('contract_line'),
  name: text(),
  contractId: id('contract'),
  contract: count(),
  /** Of one today, net. */
  price: decimal(),
  frequency: oneOf(LINE_FREQUENCIES),
});
export type SeatLineWire = Wire<typeof seatLineSchema>;
export const seatRowSchema = record({
  unitId: anyId().defined(),
  name: text(),
  /** The mail address of a person, the name of an asset. */
  also: text(),
  state: oneOf(SEAT_STATES),
  seats: list(record({ seatId: id('contract_seat'), lineId: id('contract_line'), startsOn: date(), lastDay: optionalDate() })),
  /** What their seats of today come to in a month, net. */
  monthly: amount(),
});
export type SeatRowWire = Wire<typeof seatRowSchema>;
export const clientSeatsSchema = record({
  clientId: id('client'),
  client: text(),
  today: date(),
  currency: currency(),
  lines: list(seatLineSchema),
  rows: list(seatRowSchema),
  figures: list(record({ state: oneOf(SEAT_STATES), count: count(), monthly: amount() })),
});
export type ClientSeatsWire = Wire<typeof clientSeatsSchema>;

export const seatRoutes = defineRoutes({
  getClientSeats: {
    method: 'GET',
    path: '/clients/:clientId/seats',
    summary: 'All people or assets of a client with the lines that they are on, who is billed for nothing, and who is on no line',
    permission: 'contracts.read',
    query: record({ counted: oneOf(SEAT_KINDS) }),
    answer: clientSeatsSchema,
  },
  changeSeats: {
    method: 'POST',
    path: '/clients/:clientId/seats',
    summary: 'Put many on lines, end their seats or take them off, all or none; answers what undoes it',
    permission: 'contracts.edit',
    body: seatsChangeSchema,
    answer: record({ changed: count(), undo: seatsChangeSchema }),
  },
  getUnitSeats: {
    method: 'GET',
    path: '/seats/:unitId',
    summary: 'What a person or an asset is billed for today, and from when',
    permission: 'contracts.read',
    answer: record({
      seats: list(
        record({
          contractId: id('contract'),
          contract: count(),
          line: text(),
          startsOn: date(),
          lastDay: optionalDate(),
          price: decimal(),
          frequency: oneOf(LINE_FREQUENCIES),
        }),
      ),
      currency: currency(),
    }),
  },
});
