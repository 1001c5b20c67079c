import type { Money } from '../money';
import type { Instant } from '../time';

/** A number in an explanation, with its unit, so that a screen can write it in the viewer's way. */
export type Figure =
  | { readonly unit: 'instant'; readonly value: Instant }
  | { readonly unit: 'seconds'; readonly value: number }
  | { readonly unit: 'money'; readonly value: Money }
  | { readonly unit: 'text'; readonly value: string };

/** One step: which rule applied, and with which number. */
export interface Step {
  readonly rule: string;
  readonly figure?: Figure;
}

/** How a result came about, in the order in which it was worked out. */
export type Explanation = readonly Step[];

/** A step whose figure is text. */
export function step(rule: string, value?: string): Step {
  return value === undefined ? { rule } : { rule, figure: { unit: 'text', value } };
}
