import type { Id, Money } from '../../ground';

/** What a line does to what it links: bills it, undoes its billing, or gives its money back for good. */
export const LINK_DOES = ['bill', 'undo', 'give back'] as const;
export type LinkDoes = (typeof LINK_DOES)[number];

export interface BillingLink {
  readonly chargeId: Id<'charge'>;
  readonly does: LinkDoes;
  /** Signed as the charge is: below nothing where its billing is undone. */
  readonly net: Money;
}
