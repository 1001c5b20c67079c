import { type DueWire, type NextInvoiceWire, recurringChargeRoutes, sayPeriod } from '@core/billing';
import type { DuePeriod } from '@core/contracts';
import { dateOf, type Id, type LocalDate, money, type Outcome, parseLocalDate, refuse, sumMoney } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { countOf, type Db, sumOf } from '../../app/database';
import type { Row } from '../../app/rows';
import { dueOfContract, periodStart } from './due-of-contract';
import { previewSeats } from './preview-seats';
import { proposeRecurring } from './propose-recurring';

export function bindRecurringCharges(app: App) {
  return bindRoutes(app, recurringChargeRoutes, {
    getNextInvoice: ({ db, params, query }) => readNextInvoice(app, db, { contractId: params.contractId, on: parseLocalDate(query.on) }),
    previewSeats: ({ db, now, params, body }) =>
      previewSeats(db, app.house, { ...params, change: body, today: dateOf(now, app.house.house.zone) }),
    proposeRecurring: ({ work, params, body }) => proposeRecurring(work, { contractId: params.contractId, on: parseLocalDate(body.on) }),
  });
}

async function readNextInvoice(
  app: App,
  db: Db,
  { contractId, on }: { readonly contractId: Id<'contract'>; readonly on: LocalDate },
): Promise<Outcome<NextInvoiceWire>> {
  if (!(await db('contract').where({ id: contractId }).first('id'))) return refuse('not-found', 'There is no such contract.');
  const { currency } = app.house.house;
  const lines = await dueOfContract(db, app.house, { contractId, at: on });
  const proposed = () => db('charge').where({ contract_id: contractId, state: 'proposed' });
  const waiting: Row<'charge', 'contract_line_id' | 'period' | 'net_minor'>[] = await proposed()
    .whereNotNull('contract_line_id')
    .select('contract_line_id', 'period', 'net_minor');
  const isProposed = (lineId: string, { period, amount }: DuePeriod) =>
    waiting.some((c) => c.contract_line_id === lineId && periodStart(c.period!) === period.from && c.net_minor === amount.minor);
  const due = lines.flatMap(({ line, due }) => due.map((d) => dueWire(line, d, isProposed(line.id, d))));
  return {
    on,
    due,
    outOfReach: lines.flatMap(({ line, outOfReach }) => outOfReach.map((d) => dueWire(line, d, false))),
    total: sumMoney(
      due.map((d) => d.amount),
      currency,
    ),
    proposed: { count: await countOf(proposed()), net: money(await sumOf(proposed(), 'net_minor'), currency) },
  };
}

function dueWire(
  line: { readonly id: Id<'contract_line'>; readonly name: string },
  { is, period, worth, billed, amount, why }: DuePeriod,
  proposed: boolean,
): DueWire {
  return {
    lineId: line.id,
    line: line.name,
    is,
    from: period.from,
    to: period.to,
    period: sayPeriod(period),
    worth: worth.amount,
    billed,
    amount,
    quantity: worth.quantity,
    price: worth.price,
    why: [...why],
    proposed,
  };
}
