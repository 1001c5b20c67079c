import { type Changes, type Currency, sayChanges, type WordsOf } from '../../ground';
import { type PriceSet, sayPriceSet } from '../price-rules';

/** A price rule of whose story it is. */
interface RuleTold {
  /** The item or category; null is everything. */
  readonly what: string | null;
  readonly sets: PriceSet;
  readonly currency: Currency;
}

export interface GoodsEvents {
  'item.added': { readonly name: string };
  /** What it costs the provider is not for all who read this, so only that it changed is told. */
  'item.changed': { readonly changes: Changes; readonly costChanged: boolean };
  'item.put-away': Record<never, never>;
  'item.brought-back': Record<never, never>;
  'contract.price-rule-added': RuleTold;
  'contract.price-rule-taken-away': RuleTold;
  'contract.price-rule-given-back': RuleTold;
  'client.price-rule-added': RuleTold;
  'client.price-rule-taken-away': RuleTold;
  'client.price-rule-given-back': RuleTold;
  'setup.price-rule-added': RuleTold;
  'setup.price-rule-taken-away': RuleTold;
  'setup.price-rule-given-back': RuleTold;
}

/** What the form calls these columns. */
const LABELS = { basis: 'what that price is', tax_category: 'kind of tax', tax_percent: 'tax in percent' };

const ruled = ({ what, sets, currency }: RuleTold) => `${what ?? 'everything'} ${sayPriceSet(sets, currency)}`;
const ruleAdded = (told: RuleTold) => `set a price rule: ${ruled(told)}`;
const ruleTakenAway = (told: RuleTold) => `took a price rule away: ${ruled(told)}`;
const ruleGivenBack = (told: RuleTold) => `gave a price rule back: ${ruled(told)}`;

export const goodsWords: WordsOf<GoodsEvents> = {
  'item.added': ({ name }) => `added ${name}`,
  'item.changed': ({ changes, costChanged }) =>
    `changed ${[sayChanges(changes, LABELS), costChanged && 'cost'].filter(Boolean).join(', ') || 'nothing'}`,
  'item.put-away': () => 'put away',
  'item.brought-back': () => 'brought back',
  'contract.price-rule-added': ruleAdded,
  'contract.price-rule-taken-away': ruleTakenAway,
  'contract.price-rule-given-back': ruleGivenBack,
  'client.price-rule-added': ruleAdded,
  'client.price-rule-taken-away': ruleTakenAway,
  'client.price-rule-given-back': ruleGivenBack,
  'setup.price-rule-added': ruleAdded,
  'setup.price-rule-taken-away': ruleTakenAway,
  'setup.price-rule-given-back': ruleGivenBack,
};
