import type { InvoicePer } from './billing-terms';

/** What a charge belongs to, as far as invoices are parted by it. */
export interface PlaceOfCharge {
  readonly contract: Named | null;
  readonly site: Named | null;
  readonly purchaseOrder: string | null;
}
interface Named {
  readonly id: string;
  readonly name: string;
}

/** One invoice of several that a client gets: for which contract, site or order; null is for what belongs to none. */
export interface InvoicePart {
  readonly per: InvoicePer;
  readonly of: string | null;
  readonly name: string | null;
}

/** On which invoice a charge is. Charges of one contract, site or order are on one, and those of none on one of their own. */
export function partOf({ contract, site, purchaseOrder }: PlaceOfCharge, per: InvoicePer): InvoicePart {
  switch (per) {
    case 'client':
      return { per, of: null, name: null };
    case 'contract':
      return { per, of: contract?.id ?? null, name: contract?.name ?? null };
    case 'site':
      return { per, of: site?.id ?? null, name: site?.name ?? null };
    case 'purchase order':
      return { per, of: purchaseOrder, name: purchaseOrder };
  }
}

/** What tells the invoices of a client apart. */
export function partKey({ per, of }: Pick<InvoicePart, 'per' | 'of'>): string {
  return per === 'client' ? '' : `${per}:${of ?? ''}`;
}
