import { type BillingEvents, billingWords } from '../billing';
import { type ClientEvents, clientWords } from '../clients';
import { type ContractEvents, contractWords } from '../contracts';
import {
  type DeskSetupEvents,
  deskSetupWords,
  type MessageEvents,
  messageWords,
  type TalkEvents,
  talkWords,
  type TicketEvents,
  ticketWords,
} from '../desk';
import { type GoodsEvents, goodsWords } from '../goods';
import { type CalendarEvents, calendarWords, type WordsOf } from '../ground';
import { type HouseEvents, houseWords, type PersonEvents, personWords } from '../house';
import { type BookingEvents, bookingWords } from '../scheduling';
import { type TimeEvents, timeWords } from '../time';

/** All that can happen, by type, each with its data. A type is `record.what-happened`. */
export type Happenings = CalendarEvents &
  HouseEvents &
  PersonEvents &
  GoodsEvents &
  ClientEvents &
  ContractEvents &
  DeskSetupEvents &
  MessageEvents &
  TalkEvents &
  TicketEvents &
  BookingEvents &
  TimeEvents &
  BillingEvents;

export type EventType = keyof Happenings;

/** One thing that can happen. */
export type Happening = { readonly [Type in EventType]: { readonly type: Type; readonly data: Happenings[Type] } }[EventType];

export const WORDS: WordsOf<Happenings> = {
  ...calendarWords,
  ...houseWords,
  ...personWords,
  ...goodsWords,
  ...clientWords,
  ...contractWords,
  ...deskSetupWords,
  ...messageWords,
  ...talkWords,
  ...ticketWords,
  ...bookingWords,
  ...timeWords,
  ...billingWords,
};

export const EVENT_TYPES = Object.keys(WORDS) as readonly EventType[];

/**
 * The version of an event's shape where it is not the first. Who changes a shape raises it here and says in OLDER how what
 * was written before is read.
 */
export const LATER_VERSIONS: Readonly<Partial<Record<EventType, number>>> = {};

/** How data of an older version becomes that of the next, by type and the version it has. */
export const OLDER: Readonly<Partial<Record<EventType, Readonly<Record<number, (data: never) => unknown>>>>> = {};

export function versionOf(type: EventType): number {
  return LATER_VERSIONS[type] ?? 1;
}

/** Records that have a story of their own. */
const RECORDS = [
  'ticket',
  'client',
  'contact',
  'contract',
  'asset',
  'item',
  'charge',
  'invoice',
  'payment',
  'run',
  'statement',
  'booking',
  'timer',
  'entry',
  'expense',
  'absence',
  'person',
] as const;

/** To what an event happened: a record with a story of its own, else something of Setup. */
export type EventSubject = (typeof RECORDS)[number] | 'house';

export function subjectOf(type: EventType): EventSubject {
  const prefix = type.slice(0, type.indexOf('.'));
  return RECORDS.find((record) => record === prefix) ?? 'house';
}
