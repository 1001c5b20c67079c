import type { BankColumn } from '@core/billing';

export interface KeptColumns {
  readonly columns: Readonly<Partial<Record<BankColumn, string>>>;
  readonly dayFirst: string;
}

const NAME = 'bank-columns';
const MOST = 20;

/** What somebody said of the columns of files with the same heads, on this computer. */
export const KEPT = {
  get(heads: string): KeptColumns | undefined {
    return all().find(([of]) => of === heads)?.[1];
  },
  keep(heads: string, said: KeptColumns): void {
    const rest = all().filter(([of]) => of !== heads);
    localStorage.setItem(NAME, JSON.stringify([[heads, said], ...rest].slice(0, MOST)));
  },
};

function all(): (readonly [string, KeptColumns])[] {
  try {
    return JSON.parse(localStorage.getItem(NAME) ?? '[]') as (readonly [string, KeptColumns])[];
  } catch {
    return [];
  }
}
