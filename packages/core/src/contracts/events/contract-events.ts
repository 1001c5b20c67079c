import type { Changes, Id, LocalDate, WordsOf } from '../../ground';
import { plural, plusDays, sayChanges } from '../../ground';
import type { Preset } from '../contracts';
import { type Rise, sayRise } from '../prices';

/** From a day to the first day without. */
interface Span {
  readonly from: LocalDate;
  readonly to: LocalDate | null;
}

export interface ContractEvents {
  'contract.drawn-up': { readonly name: string; readonly preset: Preset };
  'contract.changed': { readonly changes: Changes };
  'contract.agreed': { readonly from: LocalDate };
  'contract.went-on': { readonly to: LocalDate };
  'contract.allowance-added': { readonly name: string; readonly says: string };
  'contract.allowance-changed': { readonly name: string; readonly says: string };
  'contract.grant-set': { readonly name: string; readonly says: string; readonly from: LocalDate };
  'contract.grant-taken-away': { readonly name: string; readonly from: LocalDate };
  'contract.block-added': { readonly name: string; readonly says: string; readonly from: LocalDate };
  'contract.readings-added': { readonly line: string; readonly added: number };
  'contract.closed': { readonly to: LocalDate; readonly entries: number };
  'contract.cover-set': { readonly rules: number };
  'contract.meant-for-set': { readonly names: readonly string[] };
  'contract.rates-set': { readonly rates: readonly string[] };
  'contract.roundings-set': { readonly roundings: readonly string[] };
  'contract.line-added': { readonly name: string };
  'contract.line-taken-away': { readonly name: string; readonly lineId: Id<'contract_line'> };
  'contract.line-given-back': { readonly name: string };
  'contract.price-set': { readonly line: string; readonly price: string; readonly from: LocalDate };
  'contract.discount-given': Span & { readonly line: string; readonly off: string };
  'contract.discount-taken-away': { readonly line: string };
  'contract.price-taken-away': { readonly line: string; readonly from: LocalDate };
  'contract.prices-raised': { readonly rise: Rise; readonly from: LocalDate; readonly lines: number };
  'contract.line-ended': { readonly line: string; readonly to: LocalDate | null };
  'contract.seats-added': Span & {
    readonly line: string;
    readonly names: readonly string[];
    readonly seatIds: readonly Id<'contract_seat'>[];
  };
  'contract.seats-taken-off': { readonly names: readonly string[] };
  'contract.seats-ended': { readonly line: string; readonly names: readonly string[]; readonly to: LocalDate | null };
  'contract.seat-ended': { readonly line: string; readonly name: string; readonly to: LocalDate | null };
}

const LABELS = {
  name: 'name',
  starts_on: 'start',
  is_preferred: 'preferred',
  ends_on: 'first day without',
  purchase_order: 'purchase order',
  overage_factor: 'factor on overage',
  renewal: 'renewal',
  term_months: 'term',
  notice_days: 'days of notice',
};
const NAMED = 3;
const several = (names: readonly string[]) =>
  `${names.slice(0, NAMED).join(', ')}${names.length > NAMED ? ` and ${names.length - NAMED} more` : ''}`;
const lastDay = (to: LocalDate | null) => (to === null ? 'without an end' : `until ${plusDays(to, -1)}`);

export const contractWords: WordsOf<ContractEvents> = {
  'contract.drawn-up': ({ name, preset }) => `drew up ${name}: ${preset}`,
  'contract.changed': ({ changes }) => `changed ${sayChanges(changes, LABELS) || 'nothing'}`,
  'contract.went-on': ({ to }) => `went on by itself ${lastDay(to)}`,
  'contract.agreed': ({ from }) => `agreed, from ${from}`,
  'contract.allowance-added': ({ name, says }) => `added ${name}: ${says}`,
  'contract.allowance-changed': ({ name, says }) => `changed ${name} to ${says}`,
  'contract.grant-set': ({ name, says, from }) => `amended ${name} to ${says} from ${from}`,
  'contract.grant-taken-away': ({ name, from }) => `took the amendment of ${name} from ${from} away`,
  'contract.block-added': ({ name, says, from }) => `sold a block of ${name}: ${says} from ${from}`,
  'contract.readings-added': ({ line, added }) => `recorded ${plural(added, 'reading', 'readings')} of ${line}`,
  'contract.closed': ({ to, entries }) => `closed it until ${plusDays(to, -1)}: ${plural(entries, 'entry', 'entries')}`,
  'contract.cover-set': ({ rules }) => (rules === 1 ? 'set what it covers, by one rule' : `set what it covers, by ${rules} rules`),
  'contract.meant-for-set': ({ names }) => (names.length ? `made it for ${several(names)}` : 'made it for all work of its client'),
  'contract.rates-set': ({ rates }) => (rates.length ? `set its own rates: ${several(rates)}` : 'took its own rates away'),
  'contract.roundings-set': ({ roundings }) =>
    roundings.length ? `set its rounding: ${several(roundings)}` : 'took its own rounding away',
  'contract.line-added': ({ name }) => `added the line ${name}`,
  'contract.line-taken-away': ({ name }) => `took the line ${name} away`,
  'contract.line-given-back': ({ name }) => `gave the line ${name} back`,
  'contract.price-set': ({ line, price, from }) => `set the price of ${line} to ${price} from ${from}`,
  'contract.discount-given': ({ line, off, from, to }) => `gave ${off} off ${line} from ${from}${to === null ? '' : ` ${lastDay(to)}`}`,
  'contract.discount-taken-away': ({ line }) => `took a discount on ${line} away`,
  'contract.price-taken-away': ({ line, from }) => `took the price of ${line} from ${from} away`,
  'contract.prices-raised': ({ rise, from, lines }) =>
    `raised ${plural(lines, 'price', 'prices')} ${'percent' in rise ? 'by ' : ''}${sayRise(rise)} from ${from}`,
  'contract.line-ended': ({ line, to }) => `${line} now goes on ${lastDay(to)}`,
  'contract.seats-added': ({ line, names, from, to }) =>
    `put ${several(names)} on ${line} from ${from}${to === null ? '' : ` ${lastDay(to)}`}`,
  'contract.seats-taken-off': ({ names }) => `took ${several(names)} off, as if never on it`,
  'contract.seats-ended': ({ line, names, to }) => `${several(names)} on ${line} ${lastDay(to)}`,
  'contract.seat-ended': ({ line, name, to }) => `${name} is on ${line} ${lastDay(to)}`,
};
