import { MOST_READINGS, type ReadingsForm, type ReadingWire } from '@core/contracts';
import { type Id, isRefusal, type Outcome, parseLocalDate, refuse } from '@core/ground';
import { at, countOf } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';

interface OfLine {
  readonly contractId: Id<'contract'>;
  readonly lineId: Id<'contract_line'>;
}

/**
 * Records what was read of a meter. What a key names that is known with the same figures is passed over; with others it is
 * refused, and nothing is recorded.
 */
export async function addReadings(
  work: Work,
  { contractId, lineId }: OfLine,
  { readings, source }: ReadingsForm,
): Promise<Outcome<{ added: number; known: number }>> {
  const line: Row<'contract_line'> | undefined = await work
    .tx('contract_line')
    .where({ id: lineId, contract_id: contractId, taken_away_at: null })
    .forUpdate()
    .first();
  if (!line) return refuse('not-found', 'There is no such line on this contract.');
  if (line.counted !== 'metered') return refuse('not-possible-now', `${line.name} is not metered.`);
  const outside = readings.findIndex((r) => r.on < line.starts_on || (line.ends_on !== null && r.on >= line.ends_on));
  if (outside >= 0)
    return refuse('invalid', `${line.name} does not hold on ${readings[outside]!.on}.`, {
      [`readings.${outside}.on`]: line.ends_on === null ? `${line.starts_on} or later` : `from ${line.starts_on}, before ${line.ends_on}`,
    });
  const fresh = await freshAmong(work, lineId, readings);
  if (isRefusal(fresh)) return fresh;
  const there = await countOf(work.tx('contract_reading').where({ line_id: lineId }));
  if (there + fresh.readings.length > MOST_READINGS.ofLine)
    return refuse('not-possible-now', `A line has ${MOST_READINGS.ofLine} readings at the most.`);
  await work.tx.batchInsert(
    'contract_reading',
    fresh.readings.map(({ on, quantity, key }) => ({
      line_id: lineId,
      on_date: parseLocalDate(on),
      quantity,
      key,
      source,
      at: at(work.now),
    })),
  );
  const added = fresh.readings.length;
  if (added) await work.tell('contract.readings-added', contractId, { line: line.name, added });
  return { added, known: readings.length - added };
}

type Given = ReadingsForm['readings'];

/** Those that are not known by their key. */
async function freshAmong(work: Work, lineId: Id<'contract_line'>, readings: Given): Promise<Outcome<{ readings: Given }>> {
  const keys = readings.flatMap((r) => r.key ?? []);
  const stored: Row<'contract_reading'>[] = keys.length
    ? await work.tx('contract_reading').where({ line_id: lineId }).whereIn('key', keys)
    : [];
  const known = new Map(stored.map((r) => [r.key, { on: r.on_date as string, quantity: Number(r.quantity) }]));
  const fresh: Given[number][] = [];
  for (const [n, reading] of readings.entries()) {
    const { on, quantity, key } = reading;
    const there = key === null ? undefined : known.get(key);
    if (there && (there.on !== on || there.quantity !== Number(quantity)))
      return refuse('already-used', `${key} is known with ${there.quantity} on ${there.on}; to correct it, record the difference.`, {
        [`readings.${n}.key`]: `${there.quantity} on ${there.on}, or another key`,
      });
    if (there) continue;
    if (key !== null) known.set(key, { on, quantity: Number(quantity) });
    fresh.push(reading);
  }
  return { readings: fresh };
}

export function readingWire(r: Row<'contract_reading'>): ReadingWire {
  return { id: r.id, on: r.on_date, quantity: plainDecimal(r.quantity), key: r.key, source: r.source };
}
