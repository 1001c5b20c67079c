import type { ChosenContract } from '@core/contracts';
import type { Id } from '@core/ground';
import type { EntryEffect } from '@core/time';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { chooseContracts, type EntryToPlace } from './choose-contracts';
import { effectsOfRows, type RatedRow } from './effects-of-rows';

export interface RatedByContract {
  /** What each does by its rates alone, its contract's own among them. */
  readonly byRate: readonly EntryEffect[];
  readonly chosen: readonly ChosenContract[];
  /** The contract that takes each; null is by the hour, or nothing to pay. */
  readonly contracts: readonly (Id<'contract'> | null)[];
}

/** Lets entries find their contracts and rates them, in their order. */
export async function rateByContract(db: Db, book: HouseBook, rows: readonly (RatedRow & EntryToPlace)[]): Promise<RatedByContract> {
  const chosen = await chooseContracts(db, book, rows);
  const rated = await effectsOfRows(db, book, { rows, contracts: chosen.map((c) => c.id) });
  // Work by the hour says that it is, and why no contract takes it.
  const byRate = rated.map((effect, n): EntryEffect => {
    const { id, why } = chosen[n]!;
    return id === null && why.length && effect.is === 'charged' ? { ...effect, why: [...effect.why, ...why] } : effect;
  });
  return { byRate, chosen, contracts: byRate.map((effect, n) => (effect.is === 'charged' ? chosen[n]!.id : null)) };
}
