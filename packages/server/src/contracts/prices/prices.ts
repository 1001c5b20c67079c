import { type DiscountForm, priceStepOn, type RaiseForm, raisedPrice, type Rise } from '@core/contracts';
import { type DecimalText, formatUnitPrice, type Id, isRefusal, type Outcome, parseLocalDate, refuse } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { endsOn, lockLine, type OfContract } from '../contracts/contract-lines';
import { type LineRows, readLineRows } from '../recurring/read-lines';

/** Gives a discount on a line: percent, or money off each unit. */
export async function addDiscount(
  work: Work,
  of: OfContract,
  { from, lastDay, percent, money }: DiscountForm,
): Promise<Outcome<{ id: Id<'contract_discount'> }>> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  if ((percent === null) === (money === null))
    return refuse('invalid', 'Say percent or money off, one of the two.', { percent: 'percent or money' });
  const wrong = [Number(percent ?? 1), Number(money ?? 1)].some((n) => n <= 0) || Number(percent ?? 1) > 100;
  if (wrong)
    return refuse('invalid', 'A discount is more than nothing, and at most 100 percent.', {
      [percent === null ? 'money' : 'percent']: 'above 0',
    });
  const to = endsOn(from, lastDay);
  if (isRefusal(to)) return to;
  const [row] = await work
    .tx('contract_discount')
    .insert({ line_id: of.lineId, from_on: parseLocalDate(from), to_on: to, percent, money_off: money })
    .returning('id');
  const off = percent === null ? formatUnitPrice(money!, work.book.house.currency) : `${percent} %`;
  await work.tell('contract.discount-given', of.contractId, { line: line.name, off, from: parseLocalDate(from), to });
  return row!;
}

export async function takeDiscountAway(
  work: Work,
  { contractId, discountId }: { readonly contractId: Id<'contract'>; readonly discountId: Id<'contract_discount'> },
): Promise<Outcome<object>> {
  const found = await work
    .tx('contract_discount as d')
    .join('contract_line as l', 'l.id', 'd.line_id')
    .where({ 'd.id': discountId, 'l.contract_id': contractId })
    .first('d.id', 'l.name');
  if (!found) return refuse('not-found', 'There is no such discount on this contract.');
  await work.tx('contract_discount').where({ id: discountId }).delete();
  await work.tell('contract.discount-taken-away', contractId, { line: found.name });
  return {};
}

/** Takes a price of a later day away; with the first of all a line would have none. */
export async function takePriceAway(work: Work, of: OfContract, typed: string): Promise<Outcome<object>> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  const from = parseLocalDate(typed);
  const [{ prices }] = (await readLineRows(work.tx, [of.contractId])).filter((l) => l.line.id === of.lineId) as [LineRows];
  if (!prices.slice(1).some((p) => p.from === from))
    return refuse('not-found', `${line.name} has no later price from ${typed}.`, { from: 'the day of a price after the first' });
  await work.tx('contract_price').where({ line_id: of.lineId, from_on: from }).delete();
  await work.tell('contract.price-taken-away', of.contractId, { line: line.name, from });
  return {};
}

/** All lines that are billed again and go on get another price from a day on, each that of the day before, raised. */
export async function raisePrices(
  work: Work,
  contractId: Id<'contract'>,
  { from: typed, ...form }: RaiseForm,
): Promise<Outcome<{ raised: number }>> {
  const rise = riseOf(form);
  if (isRefusal(rise)) return rise;
  const contract: Row<'contract', 'id'> | undefined = await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().first('id');
  if (!contract) return refuse('not-found', 'There is no such contract.');
  const from = parseLocalDate(typed);
  const { currency } = work.book.house;
  const lines = (await readLineRows(work.tx, [contractId])).filter(
    ({ line }) => line.frequency !== 'once' && (line.ends_on === null || line.ends_on > from),
  );
  const before = lines.filter(({ prices }) => prices[0]!.from > from).map(({ line }) => line.name);
  if (!lines.length || before.length)
    return refuse('not-possible-now', before.length ? `${before.join(', ')} begins later.` : 'No line goes on until then.', {
      from: 'a day on which all lines have begun',
    });
  for (const { line, prices } of lines) {
    const now = priceStepOn(prices, from)!;
    const raise = (price: DecimalText) => raisedPrice(price, rise, currency);
    const tiers = JSON.stringify(now.tiers.map((t) => ({ ...t, price: raise(t.price) })));
    await work
      .tx('contract_price')
      .insert({ line_id: line.id, from_on: from, price: raise(now.price), tiers })
      .onConflict(['line_id', 'from_on'])
      .merge();
  }
  await work.tell('contract.prices-raised', contractId, { rise, from, lines: lines.length });
  return { raised: lines.length };
}

/** Percent, or two figures of an index: one of the two ways, within reason. */
function riseOf({ percent, indexThen, indexNow }: Omit<RaiseForm, 'from'>): Outcome<Rise> {
  const byIndex = indexThen !== null && indexNow !== null;
  if ((percent === null) === !byIndex || (!byIndex && (indexThen ?? indexNow) !== null))
    return refuse('invalid', 'Say by how many percent, or both figures of the index.', { percent: 'percent, or the index then and now' });
  if (byIndex) {
    const times = Number(indexNow) / Number(indexThen);
    if (times > 2 || times === 1)
      return refuse('invalid', `From ${indexThen} to ${indexNow} is no rise.`, { indexNow: `another figure, at most twice ${indexThen}` });
    return { indexThen, indexNow };
  }
  if (Math.abs(Number(percent)) > 100 || Number(percent) === 0)
    return refuse('invalid', `${percent} percent is no rise.`, { percent: 'between -100 and 100, not 0' });
  return { percent: percent! };
}
