import type { ChargeKind, ChargeUnit } from '../charges';
import type { DecimalText, Money } from '../../ground';

/** A line of a document as runs compare it, turned as its charge is: what gives money back is below nothing. */
export interface RunLine {
  readonly kind: ChargeKind;
  /** Of what is billed again each period: the contract line, and whether it corrects a period that was billed. */
  readonly recurs: { readonly lineId: string; readonly line: string; readonly isTrueUp: boolean } | null;
  readonly quantity: DecimalText;
  readonly unit: ChargeUnit;
  readonly unitPrice: DecimalText;
  /** What the document bills of it. */
  readonly net: Money;
}
