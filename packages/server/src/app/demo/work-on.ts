import { instantAt, type LocalDate } from '@core/ground';
import { type Work, makeWork } from '../work';

/** As the work, on a morning of the past, without telling screens or queueing jobs. */
export function workOn({ tx, actor, book }: Work, day: LocalDate): Work {
  const now = instantAt(day, 9 * 60 + 30, book.house.zone);
  return { ...makeWork({ tx, now, actor, book }), emit: async () => undefined, enqueue: async () => undefined };
}
