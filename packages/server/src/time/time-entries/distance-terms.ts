import type { DistanceSettings } from '@core/time';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house';

/** A way with the terms it was written under. */
export interface Way extends DistanceSettings {
  /** In the unit, with one place at most. */
  readonly distance: string;
}

/** A way as an entry keeps it. */
export type WayRow = Row<'time_entry', 'distance' | 'distance_unit' | 'distance_rate' | 'distance_paid_back'>;

/** The way of a stored entry; null where it has none. */
export function wayOf(row: WayRow): Way | null {
  if (row.distance === null) return null;
  return {
    distance: plainDecimal(row.distance),
    unit: row.distance_unit!,
    rate: plainDecimal(row.distance_rate!),
    paidBack: plainDecimal(row.distance_paid_back!),
  };
}

/** A way as it is typed: under the terms its entry has already, else under those that the house has now. */
export function wayTyped(book: HouseBook, distance: string | null, stands: Way | null = null): Way | null {
  return distance ? { ...(stands ?? book.house.time.distance), distance } : null;
}

/** A way as its entry stores it. */
export function wayColumns(way: Way | null) {
  return {
    distance: way?.distance ?? null,
    distance_unit: way?.unit ?? null,
    distance_rate: way?.rate ?? null,
    distance_paid_back: way?.paidBack ?? null,
  };
}
