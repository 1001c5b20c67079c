import {
  anchorOf,
  CALENDAR_ANCHOR,
  type LineForm,
  type LineWire,
  monthOfLine,
  MOST_OF_CONTRACT,
  type PriceForm,
  SHOWN_READINGS,
} from '@core/contracts';
import {
  type Currency,
  formatUnitPrice,
  type Id,
  isRefusal,
  type LocalDate,
  type Outcome,
  parseLocalDate,
  plusDays,
  type Refusal,
  refuse,
} from '@core/ground';
import { countOf, type Db } from '../../app/database';
import { changeRow } from '../../app/change-row';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readingWire } from '../readings/readings';
import { readLineRows, readLines, type StoredLine } from '../recurring/read-lines';

/** The last day of what ends before a day. */
export function lastDayOf(endsOn: LocalDate | null): LocalDate | null {
  return endsOn === null ? null : plusDays(endsOn, -1);
}

/** A contract's lines as its page shows them. */
export async function readContractLines(
  db: Db,
  { contractId, today, currency }: { readonly contractId: Id<'contract'>; readonly today: LocalDate; readonly currency: Currency },
): Promise<LineWire[]> {
  const worked = await readLines(db, [contractId]);
  const readings = await readLatest(
    db,
    worked.filter((l) => l.counted === 'metered').map((l) => l.id),
  );
  const monthOf = (line: StoredLine) => {
    const { worth, margin } = monthOfLine(line, today, currency);
    return { monthly: worth, margin };
  };
  return (await readLineRows(db, [contractId])).map(({ line, prices, discounts, seats }, n) => ({
    id: line.id,
    version: line.version,
    name: line.name,
    counted: line.counted,
    priced: line.priced,
    price: prices[0]!.price,
    tiers: [...prices[0]!.tiers],
    frequency: line.frequency,
    anchored: line.anchor_on === CALENDAR_ANCHOR ? 'the calendar' : 'its start',
    paid: line.paid,
    leadDays: line.lead_days,
    leadsBy: line.leads_by,
    proration: line.proration,
    minimum: line.minimum,
    maximum: line.maximum,
    startsOn: line.starts_on,
    lastDay: lastDayOf(line.ends_on),
    prices: prices.slice(1).map((p) => ({ ...p, tiers: [...p.tiers] })),
    unitCost: line.unit_cost === null ? null : plainDecimal(line.unit_cost),
    namesOnInvoice: line.names_on_invoice,
    ...monthOf(worked[n]!),
    readings: readings.filter((r) => r.line_id === line.id).map(readingWire),
    readCount: readings.find((r) => r.line_id === line.id)?.all_of_it ?? 0,
    discounts: discounts.map((d) => ({
      id: d.id,
      from: d.from_on,
      lastDay: lastDayOf(d.to_on),
      percent: d.percent === null ? null : plainDecimal(d.percent),
      money: d.money_off === null ? null : plainDecimal(d.money_off),
    })),
    seats: seats.map((s) => ({
      id: s.id,
      version: s.version,
      contactId: s.contact_id,
      assetId: s.asset_id,
      name: s.name,
      startsOn: s.starts_on,
      lastDay: lastDayOf(s.ends_on),
    })),
  }));
}

/** The newest readings of lines, each with how many its line has. */
async function readLatest(db: Db, lineIds: readonly string[]): Promise<(Row<'contract_reading'> & { readonly all_of_it: number })[]> {
  if (!lineIds.length) return [];
  const ranked = db('contract_reading')
    .whereIn('line_id', lineIds)
    .select(
      '*',
      db.raw('row_number() over (partition by line_id order by on_date desc, at desc, id) as nth'),
      db.raw('(count(*) over (partition by line_id))::int as all_of_it'),
    );
  return db(ranked.as('r')).where('nth', '<=', SHOWN_READINGS).orderBy('nth').select('*');
}

/** The first day without, of what lasts until a day; refused where that is before its start. */
export function endsOn(startsOn: string, lastDay: string | null): Outcome<LocalDate | null> {
  if (lastDay !== null && lastDay < startsOn)
    return refuse('invalid', `Its last day, ${lastDay}, is before its first, ${startsOn}.`, { lastDay: `${startsOn} or later` });
  return lastDay === null ? null : plusDays(parseLocalDate(lastDay), 1);
}

/** Refuses more of something than a contract has at the most. */
export async function refuseFull(
  work: Work,
  {
    table,
    contractId,
    most,
  }: { readonly table: 'contract_line' | 'contract_allowance'; readonly contractId: string; readonly most: number },
): Promise<Refusal | undefined> {
  const there = await countOf(work.tx(table).where({ contract_id: contractId }));
  return there < most ? undefined : refuse('not-possible-now', `A contract has ${most} of these at the most.`);
}

type Stored = Outcome<{ id: string }>;

/** What does not go together in a line, with the field that has to change. */
function refuseLine(form: LineForm): Refusal | undefined {
  if (form.minimum !== null && form.maximum !== null && form.maximum < form.minimum)
    return refuse('invalid', 'The maximum is below the minimum.', { maximum: `${form.minimum} or more` });
  if (form.counted === 'metered' && form.paid !== 'in arrears')
    return refuse('invalid', 'What a meter says is known at the end of a period.', { paid: 'in arrears' });
  if (form.frequency === 'once' && form.counted !== 'flat')
    return refuse('invalid', 'What is billed once counts one.', { counted: 'one always' });
  if (form.frequency === 'once' && form.lastDay !== null && form.lastDay !== form.startsOn)
    return refuse('invalid', 'What is billed once has one day.', { lastDay: `${form.startsOn} or none` });
  return refuseTiers(form);
}

/** Prices by tiers need some, and one price has none. */
function refuseTiers({ priced, tiers }: Pick<LineForm, 'priced' | 'tiers'>): Refusal | undefined {
  if (priced === 'one price' && tiers.length) return refuse('invalid', 'One price has no tiers.', { priced: 'tiers or volume' });
  if (priced !== 'one price' && !tiers.length)
    return refuse('invalid', 'Say above how many there is another price.', { tiers: 'at least one' });
  return undefined;
}

export async function addLine(work: Work, contractId: Id<'contract'>, form: LineForm): Promise<Stored> {
  const to = endsOn(form.startsOn, form.frequency === 'once' ? form.startsOn : form.lastDay);
  if (isRefusal(to)) return to;
  const wrong = refuseLine(form);
  if (wrong) return wrong;
  const contract = await work.tx('contract').where({ id: contractId }).first('starts_on');
  if (!contract) return refuse('not-found', 'There is no such contract.');
  const full = await refuseFull(work, { table: 'contract_line', contractId, most: MOST_OF_CONTRACT.lines });
  if (full) return full;
  const [line] = await work
    .tx('contract_line')
    .insert({
      contract_id: contractId,
      name: form.name,
      position: work.tx.raw('(select count(*) from contract_line where contract_id = ?)', [contractId]),
      counted: form.counted,
      frequency: form.frequency,
      anchor_on: form.frequency === 'once' ? parseLocalDate(form.startsOn) : anchorOf(form.anchored, contract.starts_on),
      paid: form.paid,
      lead_days: form.leadDays,
      proration: form.proration,
      minimum: form.minimum,
      maximum: form.maximum,
      priced: form.priced,
      unit_cost: form.unitCost,
      names_on_invoice: form.namesOnInvoice,
      starts_on: form.startsOn,
      ends_on: to,
    })
    .returning('id');
  await work
    .tx('contract_price')
    .insert({ line_id: line!.id, from_on: form.startsOn, price: form.price, tiers: JSON.stringify(form.tiers) });
  await work.tell('contract.line-added', contractId, { name: form.name });
  return line!;
}

export interface OfContract {
  readonly contractId: Id<'contract'>;
  readonly lineId: Id<'contract_line'>;
}

export async function lockLine(work: Work, { contractId, lineId }: OfContract): Promise<Outcome<Row<'contract_line'>>> {
  const line = await work.tx('contract_line').where({ id: lineId, contract_id: contractId, taken_away_at: null }).forUpdate().first();
  return line ?? refuse('not-found', 'There is no such line on this contract.');
}

export async function setLinePrice(
  work: Work,
  { contractId, lineId }: OfContract,
  { from: typed, price, tiers }: PriceForm,
): Promise<Stored> {
  const line = await lockLine(work, { contractId, lineId });
  if (isRefusal(line)) return line;
  const wrong = refuseTiers({ priced: line.priced, tiers });
  if (wrong) return wrong;
  const from = parseLocalDate(typed);
  if (from < line.starts_on) return refuse('invalid', `The line begins on ${line.starts_on}.`, { from: `${line.starts_on} or later` });
  await work
    .tx('contract_price')
    .insert({ line_id: lineId, from_on: from, price, tiers: JSON.stringify(tiers) })
    .onConflict(['line_id', 'from_on'])
    .merge();
  await work.tell('contract.price-set', contractId, { line: line.name, price: formatUnitPrice(price, work.book.house.currency), from });
  return { id: lineId };
}

export async function endLine(
  work: Work,
  of: OfContract,
  { version, lastDay }: { readonly version: number; readonly lastDay: string | null },
): Promise<Outcome<{ id: string; version: number }>> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  const to = endsOn(line.starts_on, lastDay);
  if (isRefusal(to)) return to;
  const changed = await changeRow(work, { table: 'contract_line', id: of.lineId, version, set: { ends_on: to } });
  if (!isRefusal(changed)) await work.tell('contract.line-ended', of.contractId, { line: line.name, to });
  return changed;
}
