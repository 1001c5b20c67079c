import { type ConditionFacts, type Id, type Rule, ruleHolds } from '../../ground';
import { missingFields, type OwnField } from '../own-fields';
import type { Kind, Status } from './ticket';

/** What can be asked of a ticket before it is resolved. The text is what it says when it stands in the way. */
export const CLOSING_CHECKS = {
  'open checklist items': 'something on the checklist is not answered',
  'open bookings': 'a booking is neither done nor cancelled',
  'running timers': 'a timer runs',
  'no time logged': 'no time is logged',
  'no asset': 'no asset is named',
  'asset of another client': 'the asset belongs to another client',
  'placeholder contact': 'the contact stands for nobody in particular',
  'no resolution text': 'nothing says what was done',
  'unanswered message': 'the client waits for an answer',
  'pending charges': 'a charge is not decided',
  'missing fee': 'it looks like a flat-fee job and has no fee',
  'fee not agreed': 'the client has not agreed to the flat fee',
  'no fee result': 'nothing says whether the flat-fee job succeeded',
} as const;
export type ClosingCheck = keyof typeof CLOSING_CHECKS;
export const CLOSING_CHECK_NAMES = Object.keys(CLOSING_CHECKS) as ClosingCheck[];

/** What can stand in the way: a check of the list, a field to fill, or a condition of the house's own. */
export const OBSTACLE_CHECKS = [...CLOSING_CHECK_NAMES, 'missing field', 'own condition'] as const;
export type ObstacleCheck = (typeof OBSTACLE_CHECKS)[number];

/** The moves before which checks can be asked. */
export const CHECKED_MOVES = ['queued', 'underway', 'on hold', 'resolved', 'closed'] as const satisfies readonly Status[];
export type CheckedMove = (typeof CHECKED_MOVES)[number];

/** Which checks each kind of ticket asks for. */
export type ClosingRules = Readonly<Partial<Record<Kind, readonly ClosingCheck[]>>>;
export type MoveRules = Readonly<Partial<Record<CheckedMove, ClosingRules>>>;

/** A condition of the house's own: while it holds, tickets of these kinds (of all where none is named) cannot make these moves. */
export interface OwnCondition {
  readonly id: string;
  /** What it says when it stands in the way. */
  readonly name: string;
  readonly kinds: readonly Kind[];
  readonly moves: readonly CheckedMove[];
  readonly rule: Rule;
}

/** What the house asks before tickets move. */
export interface ClosingBook {
  readonly rules: MoveRules;
  readonly conditions: readonly OwnCondition[];
  readonly fields: readonly OwnField[];
}

export const DEFAULT_CLOSING_RULES: ClosingRules = {
  incident: [
    'open checklist items',
    'open bookings',
    'running timers',
    'no time logged',
    'asset of another client',
    'unanswered message',
    'missing fee',
  ],
  'service request': ['open checklist items', 'open bookings', 'running timers', 'no time logged', 'unanswered message', 'missing fee'],
  'flat-fee job': ['open checklist items', 'open bookings', 'running timers', 'unanswered message', 'fee not agreed', 'no fee result'],
  alert: ['open bookings', 'running timers'],
  'sales follow-up': ['open checklist items', 'unanswered message'],
  internal: ['open checklist items', 'running timers'],
};

/** What a ticket is like, as far as closing checks care. */
export interface ClosingFacts {
  readonly kind: Kind;
  readonly checklist: readonly { readonly id: string; readonly text: string; readonly answered: boolean }[];
  readonly bookings: readonly { readonly id: string; readonly person: string | null; readonly over: boolean; readonly open: boolean }[];
  readonly timers: readonly { readonly id: string; readonly person: string }[];
  readonly minutes: number;
  readonly assetId: Id<'asset'> | null;
  readonly clientId: Id<'client'> | null;
  readonly assetClientId: string | null;
  readonly contactIsPlaceholder: boolean;
  readonly resolution: string | null;
  readonly replyOwed: boolean;
  readonly pendingCharges: readonly { readonly id: string; readonly words: string }[];
  /** The fee that it looks like, where it has none; and how it stands with the one it has. */
  readonly feeHint: { readonly id: string; readonly words: string } | null;
  readonly fee: { readonly agreed: boolean; readonly result: boolean } | null;
  /** What conditions look at. */
  readonly condition: ConditionFacts;
}

/** One thing in the way: which check, in words, and the row it is about where it is one. */
export interface Obstacle {
  readonly check: ObstacleCheck;
  readonly what: string;
  readonly id: string | null;
}

type Look = (facts: ClosingFacts) => readonly Omit<Obstacle, 'check'>[];
const once = (stands: boolean, check: ClosingCheck): readonly Omit<Obstacle, 'check'>[] =>
  stands ? [{ what: CLOSING_CHECKS[check], id: null }] : [];

const LOOKS: Readonly<Record<ClosingCheck, Look>> = {
  'open checklist items': (f) => f.checklist.filter((i) => !i.answered).map((i) => ({ what: `not answered: ${i.text}`, id: i.id })),
  'open bookings': (f) =>
    f.bookings
      .filter((b) => b.open)
      .map((b) => ({ what: `${b.over ? 'a past' : 'a coming'} booking of ${b.person ?? 'nobody'} is still open`, id: b.id })),
  'running timers': (f) => f.timers.map((t) => ({ what: `the timer of ${t.person} runs`, id: t.id })),
  'no time logged': (f) => once(f.minutes === 0, 'no time logged'),
  'no asset': (f) => once(f.assetId === null, 'no asset'),
  'asset of another client': (f) => once(f.assetId !== null && f.assetClientId !== f.clientId, 'asset of another client'),
  'placeholder contact': (f) => once(f.contactIsPlaceholder, 'placeholder contact'),
  'no resolution text': (f) => once(!f.resolution?.trim(), 'no resolution text'),
  'unanswered message': (f) => once(f.replyOwed, 'unanswered message'),
  'pending charges': (f) => f.pendingCharges.map((c) => ({ what: `not decided: ${c.words}`, id: c.id })),
  'missing fee': (f) => (f.feeHint ? [{ what: `it looks like "${f.feeHint.words}" and has no flat fee`, id: f.feeHint.id }] : []),
  'fee not agreed': (f) => once(f.fee?.agreed === false, 'fee not agreed'),
  'no fee result': (f) => once(f.fee?.result === false, 'no fee result'),
};

/** What stands in the way of a move: the checks of the kind in their order, fields to fill, own conditions that hold. */
export function standsInTheWay(book: ClosingBook, facts: ClosingFacts, to: CheckedMove): readonly Obstacle[] {
  const condition: ConditionFacts = { ...facts.condition, ticket: { ...facts.condition.ticket, to } };
  const missing = new Set([
    ...missingFields(book.fields, condition, 'moving'),
    ...(to === 'resolved' ? missingFields(book.fields, condition, 'resolving') : []),
  ]);
  return [
    ...(book.rules[to]?.[facts.kind] ?? []).flatMap((check) => LOOKS[check](facts).map((found) => ({ check, ...found }))),
    ...[...missing].map((f) => ({ check: 'missing field' as const, what: `${f.name} is not filled`, id: f.id })),
    ...book.conditions
      .filter((c) => c.moves.includes(to) && (!c.kinds.length || c.kinds.includes(facts.kind)) && ruleHolds(c.rule, condition))
      .map((c) => ({ check: 'own condition' as const, what: c.name, id: c.id })),
  ];
}

/**
 * What stands in the way of a member when its umbrella is resolved: an unanswered message, and what is
 * marked as always asked. Source: docs/calculations.md, Umbrella.
 */
export function memberStandsInTheWay(alwaysAsked: readonly ClosingCheck[], facts: ClosingFacts): readonly Obstacle[] {
  return CLOSING_CHECK_NAMES.filter((check) => check === 'unanswered message' || alwaysAsked.includes(check)).flatMap((check) =>
    LOOKS[check](facts).map((found) => ({ check, ...found })),
  );
}
