import { formatMinutes, type Id, plural, type Was, type WordsOf } from '../../ground';

type Nothing = Record<never, never>;

/** The contract by number and name; null is by the hour. */
interface ChosenContractFor {
  readonly by: 'hand' | 'itself';
  readonly contract: string | null;
}

export interface TimeEvents {
  'entry.recorded': { readonly minutes: number; readonly note: string | null };
  'entry.changed': { readonly minutes: Was<number>; readonly personId: Id<'person'>; readonly workId: Was<Id<'work'>> };
  'entry.removed': { readonly minutes: number };
  /** What stands is another entry, which says how many minutes more or fewer. */
  'entry.corrected': { readonly minutes: Was<number>; readonly reason: string; readonly byEntryId: string };
  'entry.booking-named': { readonly bookingId: Id<'booking'> };
  'entry.distance-paid-back': { readonly on: string };
  'entry.approved': { readonly remark: string | null };
  'entry.returned': { readonly remark: string | null };
  'entry.approval-taken-back': { readonly remark: string | null };
  /** Which contract somebody said it is for; by itself it finds one. */
  'entry.contract-chosen': ChosenContractFor;
  'ticket.contract-chosen': ChosenContractFor;
  /** What was worked on a common cause, divided among the umbrella's members. */
  'ticket.time-shared-out': {
    readonly entryId: Id<'time_entry'>;
    readonly minutes: number;
    readonly person: string;
    readonly members: number;
  };
  'ticket.time-taken': { readonly entryId: Id<'time_entry'>; readonly minutes: number };
  'expense.added': Nothing;
  'expense.changed': Nothing;
  'expense.removed': Nothing;
  'expense.receipt-put': Nothing;
  'expense.paid-back': { readonly on: string };
  'expense.approved': { readonly remark: string | null };
  'expense.returned': { readonly remark: string | null };
  'expense.approval-taken-back': { readonly remark: string | null };
  'absence.moved': {
    readonly personId: Id<'person'>;
    readonly move: 'asked for' | 'wrote down' | 'approved' | 'refused' | 'took back the decision on' | 'withdrew';
    readonly kind: string;
    readonly from: string;
    readonly to: string;
    /** Its length, as it is said; given when it is new. */
    readonly length: string | null;
  };
  'person.day-closed': { readonly day: string };
  'person.day-opened': { readonly day: string };
  'person.time-declared': { readonly upTo: string | null };
  'setup.absence-grants-set': { readonly kind: string; readonly year: number; readonly people: number };
  'setup.long-time-set': { readonly minutes: number };
  'setup.distances-set': { readonly rate: string; readonly paidBack: string; readonly unit: string };
}

const choseContract = ({ by, contract }: ChosenContractFor) =>
  by === 'itself'
    ? 'let it find its contract by itself'
    : contract === null
      ? 'chose no contract for it: by the hour'
      : `chose the contract ${contract} for it`;
const judged = (what: string, { remark }: { readonly remark: string | null }, seen: 'own' | 'ticket') =>
  seen === 'own' ? { what, detail: remark } : null;
const own = (what: string, seen: 'own' | 'ticket') => (seen === 'own' ? what : null);

export const timeWords: WordsOf<TimeEvents> = {
  'entry.recorded': ({ minutes, note }, seen) => ({ what: `recorded ${minutes} min`, detail: seen === 'ticket' ? note : null }),
  'entry.changed': ({ minutes: [, is] }, seen) => own(`changed to ${is} min`, seen),
  'entry.removed': ({ minutes }, seen) => (seen === 'ticket' ? `removed ${minutes} min` : 'removed'),
  'entry.corrected': ({ minutes: [was, is], reason }) => ({ what: `corrected ${was} min to ${is} min`, detail: reason }),
  'entry.contract-chosen': choseContract,
  'ticket.contract-chosen': choseContract,
  'entry.booking-named': (_, seen) => own('said which booking it belongs to', seen),
  'entry.distance-paid-back': ({ on }, seen) => own(`distance paid back on ${on}`, seen),
  'entry.approved': (data, seen) => judged('approved it', data, seen),
  'entry.returned': (data, seen) => judged('returned it', data, seen),
  'entry.approval-taken-back': (data, seen) => judged('took the approval back', data, seen),
  'ticket.time-shared-out': ({ minutes, person, members }) => `shared ${formatMinutes(minutes)} of ${person} out among ${members} members`,
  'ticket.time-taken': ({ minutes }) => `took ${formatMinutes(minutes)} of the work on a common cause`,
  'expense.added': (_, seen) => own('wrote an expense down', seen),
  'expense.changed': (_, seen) => own('changed the expense', seen),
  'expense.removed': (_, seen) => own('removed the expense', seen),
  'expense.receipt-put': (_, seen) => own('put a receipt to the expense', seen),
  'expense.paid-back': ({ on }, seen) => own(`paid back on ${on}`, seen),
  'expense.approved': (data, seen) => judged('approved it', data, seen),
  'expense.returned': (data, seen) => judged('returned it', data, seen),
  'expense.approval-taken-back': (data, seen) => judged('took the approval back', data, seen),
  'absence.moved': ({ move, kind, from, to, length }) =>
    length === null ? `${move} ${kind} of ${from} to ${to}` : `${move} ${kind}, ${from} to ${to}, ${length}`,
  'person.day-closed': ({ day }) => `closed ${day}`,
  'person.day-opened': ({ day }) => `opened ${day} again`,
  'person.time-declared': ({ upTo }) => (upTo ? `declared time complete up to ${upTo}` : 'took back that time is complete'),
  'setup.absence-grants-set': ({ kind, year, people }) => `set ${kind} of ${year} for ${plural(people, 'person', 'people')}`,
  'setup.long-time-set': ({ minutes }) => `time over ${formatMinutes(minutes)} is long`,
  'setup.distances-set': ({ rate, paidBack, unit }) => `set distances to ${rate} and ${paidBack} for one of ${unit}`,
};
