import { string } from 'yup';
import {
  amount,
  anyId,
  count,
  currency,
  date,
  decimal,
  defineRoutes,
  done,
  earlierStory,
  id,
  list,
  listOf,
  nothing,
  oneOf,
  optionalDate,
  optionalDecimal,
  optionalId,
  optionalText,
  pageOf,
  pageQuery,
  positiveDecimal,
  record,
  storySchema,
  text,
  TIME_BANDS,
  whole,
  type Wire,
  yes,
} from '../../ground';
import { meantForFields } from '../choice';
import { readingSchema } from '../readings';
import { discountFields } from '../prices';
import { ownRateFields, ownRoundingFields } from '../own-rates';
import { GRANTED, GRANTS, MEASURES } from '../cover';
import { COUNTED, FREQUENCIES, LINE_FREQUENCIES, PAID, PRICED, PRORATIONS } from '../recurring';
import { ANCHORED } from './anchor';
import { CONTRACT_STATES } from './contract-state';
import { PRESETS } from './presets';
import { RENEWALS } from './renewal';

/** The most people or assets that one command puts on a line. */
export const MOST_SEATS = 2000;
/** The most of each that a contract has; a line's seats of all its years. */
export const MOST_OF_CONTRACT = { allowances: 50, lines: 100, seats: 20_000 } as const;
const MOST_RULES = 50;
const DAYS = 3660;

const termsFields = {
  name: text(120),
  startsOn: date(),
  /** The last day that it holds. */
  lastDay: optionalDate(),
  /** What becomes of it at its end. */
  renewal: oneOf(RENEWALS),
  /** How long it goes on then. */
  termMonths: whole(1, 120),
  /** So many days before its last day notice can be given. */
  noticeDays: whole(0, 730),
  /** The one of several of its client that is taken where nothing else decides. */
  preferred: yes(),
  purchaseOrder: optionalText(60),
  notes: optionalText(2000),
  /** When allowances are granted anew. */
  frequency: oneOf(FREQUENCIES),
  anchored: oneOf(ANCHORED),
  /** On the rate of work for which nothing is left. */
  overageFactor: positiveDecimal(),
};
export const contractFormSchema = record(termsFields);
export type ContractForm = Wire<typeof contractFormSchema>;
export const newContractSchema = record({
  clientId: id('client'),
  name: text(120),
  startsOn: date(),
  lastDay: optionalDate(),
  preset: oneOf(PRESETS),
  /** Hours, money or tickets, as the preset asks. */
  grant: optionalDecimal(),
  /** Net, of a month. */
  price: optionalDecimal(),
});
export type NewContract = Wire<typeof newContractSchema>;

const allowanceFields = {
  name: text(60),
  measure: oneOf(MEASURES),
  /** Hours, money or tickets; 0 where it is without limit. */
  grant: decimal(),
  each: oneOf(GRANTS),
  granted: oneOf(GRANTED),
  carryDays: whole(0, DAYS),
  borrowPercent: whole(0, 100),
};
export const allowanceFormSchema = record(allowanceFields);
export type AllowanceForm = Wire<typeof allowanceFormSchema>;
/** What a period is granted from a day on. */
export const grantFormSchema = record({ from: date(), grant: decimal() });
export type GrantForm = Wire<typeof grantFormSchema>;
/** A prepaid block: bought with the next invoice, drawn on from its first day. */
export const blockFormSchema = record({
  grant: positiveDecimal(),
  /** Net, of all of it. */
  price: decimal(),
  startsOn: date(),
  lastDay: optionalDate(),
});
export type BlockForm = Wire<typeof blockFormSchema>;
const allowanceSchema = record({
  id: id('contract_allowance'),
  ...allowanceFields,
  later: list(grantFormSchema),
  blocks: list(record({ grant: decimal(), startsOn: date(), lastDay: optionalDate() })),
});

export type AllowanceWire = Wire<typeof allowanceSchema>;

const MOST_NAMED = 60;
const coverFields = {
  /** What is left empty, it does not ask. */
  gradeIds: listOf(anyId().defined(), MOST_NAMED),
  activityIds: listOf(anyId().defined(), MOST_NAMED),
  bands: listOf(oneOf(TIME_BANDS), TIME_BANDS.length),
  deskIds: listOf(anyId().defined(), MOST_NAMED),
  /** Of tickets. */
  kinds: listOf(text(40), MOST_NAMED),
  /** The days on which it holds; none is as long as its contract. */
  startsOn: optionalDate(),
  lastDay: optionalDate(),
  /** None makes all of it overage. */
  allowanceId: optionalId('contract_allowance'),
  /** Hours, or money of an allowance of money, in a period. */
  cap: optionalDecimal(),
  overageFactor: optionalDecimal(),
  includesFees: yes(),
};
export const coverFormSchema = record(coverFields);
/** A rule with the id it has already: what was drawn under it names it. */
export const coverRuleSchema = record({ id: optionalId('contract_cover'), ...coverFields });
export type CoverRuleForm = Wire<typeof coverRuleSchema>;
export type CoverForm = Wire<typeof coverFormSchema>;
const coverSchema = record({ id: id('contract_cover'), ...coverFields, says: text(400) });

const MOST_TIERS = 20;
const MOST_UNITS = 1_000_000_000;
const priceFields = {
  /** Net, of one for one period. */
  price: decimal(),
  /** Units past so many have another price; in rising order. */
  tiers: listOf(record({ above: whole(1, MOST_UNITS), price: decimal() }), MOST_TIERS).test(
    'rising',
    'each tier above more than the one before',
    (tiers) => (tiers ?? []).every((t, n) => n === 0 || Number(t.above) > Number(tiers![n - 1]!.above)),
  ),
};
const lineFields = {
  name: text(120),
  counted: oneOf(COUNTED),
  priced: oneOf(PRICED),
  ...priceFields,
  frequency: oneOf(LINE_FREQUENCIES),
  anchored: oneOf(ANCHORED),
  paid: oneOf(PAID),
  /** Null is the client's, else the house's. */
  leadDays: whole(0, 120).nullable(),
  proration: oneOf(PRORATIONS),
  minimum: whole(0, MOST_SEATS).nullable(),
  maximum: whole(0, MOST_SEATS).nullable(),
  startsOn: date(),
  lastDay: optionalDate(),
  /** What one costs the provider for a period. */
  unitCost: optionalDecimal(),
  /** Whether documents name who or what is on it, and who came and went. */
  namesOnInvoice: yes(),
};
export const lineFormSchema = record(lineFields);
export type LineForm = Wire<typeof lineFormSchema>;
export const priceStepSchema = record({ from: date(), ...priceFields });
export type PriceForm = Wire<typeof priceStepSchema>;
export const seatSchema = record({
  id: id('contract_seat'),
  version: count(),
  contactId: optionalId('contact'),
  assetId: optionalId('asset'),
  name: text(),
  startsOn: date(),
  lastDay: optionalDate(),
});
export type SeatWire = Wire<typeof seatSchema>;
const marginSchema = record({ left: amount(), percent: decimal() });
const lineSchema = record({
  id: id('contract_line'),
  version: count(),
  ...lineFields,
  /** Days before a period that it is due, whoever says so. */
  leadsBy: count(),
  /** Not there for who may not see costs. */
  unitCost: optionalDecimal().optional(),
  /** Prices from later days on, the first being the line's. */
  prices: list(priceStepSchema),
  discounts: list(record({ id: id('contract_discount'), ...discountFields })),
  seats: list(seatSchema),
  /** What was read of its meter, the newest first, and how often it was in all. */
  readings: list(readingSchema),
  readCount: count(),
  /** What it makes in a month as it stands, and what of that is left; null where no cost is said, or it may not be seen. */
  monthly: amount(),
  margin: marginSchema.nullable().optional(),
});
export type LineWire = Wire<typeof lineSchema>;

const rowFields = {
  id: id('contract'),
  version: count(),
  number: count(),
  name: text(),
  clientId: id('client'),
  client: text(),
  state: oneOf(CONTRACT_STATES),
  startsOn: date(),
  lastDay: optionalDate(),
};
export const contractRowSchema = record({ ...rowFields, covers: text(400), lines: text(400) });
export type ContractRowWire = Wire<typeof contractRowSchema>;
export const contractSchema = record({
  ...rowFields,
  ...termsFields,
  division: text(),
  currency: currency(),
  allowances: list(allowanceSchema),
  cover: list(coverSchema),
  /** Empty takes all work of its client. */
  meantFor: list(record({ ...meantForFields, name: text() })),
  /** Rates over those of the client and of the house. */
  rates: list(record({ ...ownRateFields, says: text(400) })),
  roundings: list(record({ ...ownRoundingFields, says: text(400) })),
  lines: list(lineSchema),
  story: list(storySchema),
});
export type ContractWire = Wire<typeof contractSchema>;

export const CONTRACT_SORTS = ['client', 'number', 'name', 'start'] as const;
export const contractFilterSchema = pageQuery(CONTRACT_SORTS, {
  q: string().max(100),
  clientId: anyId(),
  state: string().oneOf([...CONTRACT_STATES]),
});
export type ContractFilter = Wire<typeof contractFilterSchema>;

export const seatsFormSchema = record({
  unitIds: listOf(anyId().defined(), MOST_SEATS).min(1, 'choose at least one'),
  startsOn: date(),
  lastDay: optionalDate(),
});
export type SeatsForm = Wire<typeof seatsFormSchema>;

export const contractRoutes = defineRoutes({
  listContracts: {
    method: 'GET',
    path: '/contracts',
    summary: 'Contracts by filter, sorted, in pages',
    permission: 'contracts.read',
    query: contractFilterSchema,
    answer: pageOf(contractRowSchema),
  },
  getContractStory: {
    method: 'GET',
    path: '/contracts/:contractId/story',
    summary: 'What happened to a contract before an event that is known',
    permission: 'contracts.read',
    ...earlierStory,
  },
  getContract: {
    method: 'GET',
    path: '/contracts/:contractId',
    summary: 'A contract: its terms, what it covers, its lines and who is on them',
    permission: 'contracts.read',
    answer: contractSchema,
    hides: [
      { path: 'lines.*.unitCost', needs: 'costs.read' },
      { path: 'lines.*.margin', needs: 'costs.read' },
    ],
  },
  createContract: {
    method: 'POST',
    path: '/contracts',
    summary: 'Draw up a contract from a preset; it covers nothing before it is agreed',
    permission: 'contracts.edit',
    body: newContractSchema,
    answer: done(),
  },
  editContract: {
    method: 'PUT',
    path: '/contracts/:contractId',
    summary: 'Change the terms of a contract; open work is rated anew',
    permission: 'contracts.edit',
    versioned: true,
    body: contractFormSchema,
    answer: done(),
  },
  agreeContract: {
    method: 'POST',
    path: '/contracts/:contractId/agree',
    summary: 'A contract is agreed: from its start it covers the work of its client',
    permission: 'contracts.edit',
    versioned: true,
    answer: done(),
  },
  addAllowance: {
    method: 'POST',
    path: '/contracts/:contractId/allowances',
    summary: 'Add work that a contract holds',
    permission: 'contracts.edit',
    body: allowanceFormSchema,
    answer: record({ id: id() }),
  },
  editAllowance: {
    method: 'PUT',
    path: '/contracts/:contractId/allowances/:allowanceId',
    summary: 'Change work that a contract holds, seen in its version; open work is rated anew',
    permission: 'contracts.edit',
    versioned: true,
    body: allowanceFormSchema,
    answer: done(),
  },
  setGrant: {
    method: 'POST',
    path: '/contracts/:contractId/allowances/:allowanceId/grants',
    summary: 'Grant another amount from a day on; what was granted before stays',
    permission: 'contracts.edit',
    body: grantFormSchema,
    answer: nothing(),
  },
  takeGrantAway: {
    method: 'POST',
    path: '/contracts/:contractId/allowances/:allowanceId/grants/take-away',
    summary: 'Take a later grant away; the one before it goes on',
    permission: 'contracts.edit',
    body: record({ from: date() }),
    answer: nothing(),
  },
  addBlock: {
    method: 'POST',
    path: '/contracts/:contractId/allowances/:allowanceId/blocks',
    summary: 'Sell a prepaid block of an allowance that is granted once; the next run bills it',
    permission: 'contracts.edit',
    body: blockFormSchema,
    answer: record({ id: id() }),
  },
  setCover: {
    method: 'PUT',
    path: '/contracts/:contractId/cover',
    summary: 'Say in order which work a contract covers; open work is rated anew',
    permission: 'contracts.edit',
    versioned: true,
    body: record({ rules: listOf(coverRuleSchema, MOST_RULES) }),
    answer: done(),
  },
  addLine: {
    method: 'POST',
    path: '/contracts/:contractId/lines',
    summary: 'Add what is billed again each period',
    permission: 'contracts.edit',
    body: lineFormSchema,
    answer: record({ id: id() }),
  },
  setLinePrice: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/prices',
    summary: 'Give a line another price from a day on',
    permission: 'contracts.edit',
    body: priceStepSchema,
    answer: record({ id: id() }),
  },
  endLine: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/end',
    summary: 'Say the last day of a line, or that it has none',
    permission: 'contracts.edit',
    versioned: true,
    body: record({ lastDay: optionalDate() }),
    answer: done(),
  },
  takeLineAway: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/take-away',
    summary: 'Take a line away as if it had never been agreed; refused where something of it was decided on',
    permission: 'contracts.edit',
    versioned: true,
    answer: done(),
  },
  giveLineBack: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/give-back',
    summary: 'Give a line back that was taken away',
    permission: 'contracts.edit',
    versioned: true,
    answer: done(),
  },
  addSeats: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/seats',
    summary: 'Put people or devices on a line from a day on',
    permission: 'contracts.edit',
    body: seatsFormSchema,
    answer: record({ ids: list(id('contract_seat')) }),
  },
  takeOffSeats: {
    method: 'POST',
    path: '/contracts/:contractId/seats/take-off',
    summary: 'Take people or assets off as if they had never been on their line; what was billed for them is given back by the next run',
    permission: 'contracts.edit',
    body: record({ seatIds: listOf(id('contract_seat'), MOST_SEATS).min(1, 'choose at least one') }),
    answer: record({ takenOff: count() }),
  },
  endSeat: {
    method: 'POST',
    path: '/contracts/:contractId/seats/:seatId/end',
    summary: 'Say the last day of somebody or something on a line, or that there is none',
    permission: 'contracts.edit',
    versioned: true,
    body: record({ lastDay: optionalDate() }),
    answer: done(),
  },
});
