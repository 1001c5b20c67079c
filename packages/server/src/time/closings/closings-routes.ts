import { dateOf, datesIn, type Id, isRefusal, type LocalDate, type Outcome, parseLocalDate, sumMoney } from '@core/ground';
import { type ClosingsWire, closingRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Db } from '../../app/database';
import { closePeriods, readClosable, readToClose } from './close-periods';

export function bindClosings(app: App) {
  return bindRoutes(app, closingRoutes, {
    getClosings: ({ db, now, params }) => readClosings(app, db, { ...params, today: dateOf(now, app.house.house.zone) }),
    closePeriods: ({ work, params, body }) => closePeriods(work, { ...params, to: parseLocalDate(body.to) }),
  });
}

async function readClosings(
  app: App,
  db: Db,
  { contractId, today }: { readonly contractId: Id<'contract'>; readonly today: LocalDate },
): Promise<Outcome<ClosingsWire>> {
  const found = await readClosable(db, { contractId, today });
  if (isRefusal(found)) return found;
  const { closedTo, next } = found;
  const last = next.at(-1);
  const { zone, currency } = app.house.house;
  const rows = last === undefined ? [] : await readToClose(db, app.house, { contractId, to: last });
  const on = datesIn(zone);
  const waiting: (string | null)[] = await db('charge')
    .whereIn(
      'time_entry_id',
      rows.map((r) => r.id),
    )
    .where({ state: 'proposed' })
    .pluck('time_entry_id');
  const spans = next.map((to): ClosingsWire['next'][number] => {
    const mine = rows.filter((r) => on(r.starts_at) < to);
    const ids = new Set<string>(mine.map((r) => r.id));
    const pays = mine.flatMap((r) => r.effect.amount ?? []);
    return { to, entries: mine.length, undecided: waiting.filter((id) => ids.has(id ?? '')).length, pays: sumMoney(pays, currency) };
  });
  return { closedTo, next: spans };
}
