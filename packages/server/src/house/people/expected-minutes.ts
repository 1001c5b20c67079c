import { plusDays, secondsIn, subtract, unite, type LocalDate } from '@core/ground';
import type { HouseBook } from '../house/house-book';
import { spanOfDates, type WorkOf } from './read-work';

/** Working time by pattern of a date, less time off, in whole minutes. */
export function expectedMinutes(book: HouseBook, { working, away }: WorkOf, day: LocalDate): number {
  const span = spanOfDates(book, day, plusDays(day, 1));
  const own = working.filter((w) => w.from < span.to && span.from < w.to);
  return Math.floor(secondsIn(subtract(unite(own), unite(away))) / 60);
}
