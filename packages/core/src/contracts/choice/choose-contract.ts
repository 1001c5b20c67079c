import { type Explanation, type Id, type LocalDate, step } from '../../ground';

/** By what a contract finds its work, where it is meant for some of its client's alone. */
export const REACHES = ['asset', 'site', 'desk', 'kind', 'contact'] as const;
export type Reach = (typeof REACHES)[number];

/** What work there is by each of them: ids, and the kind of ticket; null where it has none. */
export type WorkReached = Readonly<Record<Reach, string | null>>;
export const REACHES_NOTHING: WorkReached = { asset: null, site: null, desk: null, kind: null, contact: null };

/** Something that a contract is meant for. */
export interface MeantFor {
  readonly reach: Reach;
  readonly of: string;
}

/** A contract of the client whose work it is. */
export interface ContractOffered {
  readonly id: Id<'contract'>;
  readonly number: number;
  readonly name: string;
  /** The one of several that is taken where nothing else decides. */
  readonly isPreferred: boolean;
  readonly isAgreed: boolean;
  /** Half open; null has no end. */
  readonly from: LocalDate;
  readonly to: LocalDate | null;
  /** It takes all work of its client where it names nothing, else only what one of these fits. */
  readonly meantFor: readonly MeantFor[];
}

/** What somebody chose for a ticket or an entry: a contract, or null for work by the hour. */
export interface ChosenByHand {
  readonly of: 'entry' | 'ticket';
  readonly id: Id<'contract'> | null;
}

export interface WorkToPlace {
  readonly on: LocalDate;
  readonly reached: WorkReached;
  readonly order: readonly Reach[];
  /** The nearest comes first. */
  readonly byHand: readonly ChosenByHand[];
}

export interface ChosenContract {
  /** Null is work by the hour. */
  readonly id: Id<'contract'> | null;
  readonly why: Explanation;
}

/**
 * The contract of work on a day: what somebody chose for it, if that holds on the day; else the first in the order that is
 * meant for something of it; else the client's preferred one of those meant for all, else the only one of them.
 * Source: docs/calculations.md, Cover.
 */
export function chooseContract(offered: readonly ContractOffered[], { on, reached, order, byHand }: WorkToPlace): ChosenContract {
  const valid = offered
    .filter((c) => c.isAgreed && c.from <= on && (c.to === null || on < c.to))
    .sort((a, b) => Number(b.isPreferred) - Number(a.isPreferred) || a.number - b.number);
  const by = ({ id, number, name }: ContractOffered, rule: string) => ({ id, why: [step(rule, `${number} ${name}`)] });
  const passed: Explanation = byHand
    .filter(({ id }) => id !== null && !valid.some((c) => c.id === id))
    .map(({ of }) => step(`the contract that somebody chose for the ${of} does not hold on this day`));
  const chosen = byHand.find(({ id }) => id === null || valid.some((c) => c.id === id));
  const found = (): ChosenContract => {
    if (chosen?.id === null) return { id: null, why: [step(`by the hour: somebody chose so for the ${chosen.of}`)] };
    const hand = valid.find((c) => c.id === chosen?.id);
    if (hand) return by(hand, `somebody chose it for the ${chosen!.of}`);
    for (const reach of order) {
      const one = valid.find((c) => c.meantFor.some((m) => m.reach === reach && m.of === reached[reach]));
      if (one) return by(one, `it is meant for the ${WORDS[reach]}`);
    }
    const forAll = valid.filter((c) => c.meantFor.length === 0);
    if (forAll[0]?.isPreferred) return by(forAll[0], "the client's preferred contract");
    if (forAll.length === 1) return by(forAll[0]!, "the client's only contract");
    if (forAll.length) return { id: null, why: [step('several contracts and none is preferred: by the hour')] };
    return {
      id: null,
      why: [step(valid.length ? 'no contract is meant for this work: by the hour' : 'no contract on this day: by the hour')],
    };
  };
  const { id, why } = found();
  return { id, why: [...passed, ...why] };
}

const WORDS: Readonly<Record<Reach, string>> = {
  asset: "ticket's asset",
  site: "ticket's site",
  desk: "ticket's desk",
  kind: 'kind of ticket',
  contact: "ticket's contact",
};
