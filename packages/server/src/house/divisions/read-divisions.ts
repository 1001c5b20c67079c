import type { Tax } from '@core/goods';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';

/** A division as its clients meet it. */
export interface Division {
  readonly id: string | null;
  readonly brand: string;
  readonly mailFrom: string;
  readonly labourTax: Tax;
}

interface OfHouse {
  readonly provider: string;
  readonly mailFrom: string;
  readonly time: { readonly labourTax: Tax };
}

export function divisionOfHouse({ provider, mailFrom, time }: OfHouse): Division {
  return { id: null, brand: provider, mailFrom, labourTax: time.labourTax };
}

/** Each division with what it has of its own, the rest from the house; in the order of their names. */
export async function readDivisions(db: Db, house: OfHouse): Promise<ReadonlyMap<string, Division>> {
  const rows = await db('division').orderBy('name').select('id', 'brand', 'mail_from', 'labour_tax');
  const usual = divisionOfHouse(house);
  return new Map(
    rows.map((d) => [
      d.id as string,
      {
        id: d.id,
        brand: d.brand ?? usual.brand,
        mailFrom: d.mail_from ?? usual.mailFrom,
        labourTax: d.labour_tax ? { ...d.labour_tax, percent: plainDecimal(d.labour_tax.percent) } : usual.labourTax,
      },
    ]),
  );
}
