import { MOST_CHANGED, overlapping, type SeatsChangeWire } from '@core/contracts';
import { type Id, isRefusal, type LocalDate, type Outcome, refuse } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { endsOn, lastDayOf } from '../contracts/contract-lines';
import { addSeats, takeOffSeats } from '../contracts/contract-seats';
import { readSeats, type SeatRow } from '../recurring/read-lines';

export interface SeatsChanged {
  readonly changed: number;
  /** The change that takes it back. */
  readonly undo: SeatsChangeWire;
}

type LineOfClient = Row<'contract_line', 'id' | 'name' | 'contract_id'>;

/** Puts many on lines of a client, ends their seats or takes them off: all or none, in this order: off, end, put. */
export async function changeSeats(work: Work, clientId: Id<'client'>, change: SeatsChangeWire): Promise<Outcome<SeatsChanged>> {
  const { put, end, takeOff } = change;
  const changed = put.length + end.length + takeOff.length;
  if (changed === 0 || changed > MOST_CHANGED)
    return refuse('invalid', `${changed} are changed at once; between 1 and ${MOST_CHANGED} can be.`, {
      put: `1 to ${MOST_CHANGED} in all`,
    });
  const lines: LineOfClient[] = await work
    .tx('contract_line as l')
    .join('contract as c', 'c.id', 'l.contract_id')
    .where({ 'c.client_id': clientId })
    .whereNull('l.taken_away_at')
    // Changes of one client wait for each other.
    .forNoKeyUpdate()
    .select('l.id', 'l.name', 'l.contract_id');
  const seats = new Map(
    (await readSeats(work.tx, (q) => q.whereIn('s.id', [...end.map((e) => e.seatId), ...takeOff]))).map((s) => [s.id, s]),
  );
  const ofClient = (lineId: string | undefined) => lines.find((l) => l.id === lineId);
  if ([...end.map((e) => e.seatId), ...takeOff].some((seatId) => !ofClient(seats.get(seatId)?.line_id)))
    return refuse('not-found', 'There is nobody and nothing of the kind on lines of this client.');
  if (put.some((p) => !ofClient(p.lineId))) return refuse('not-found', 'There is no such line of this client.');
  const off = takeOff.map((seatId) => seats.get(seatId)!);
  for (const [contractId, some] of groups(off, (s) => ofClient(s.line_id)!.contract_id)) {
    const taken = await takeOffSeats(
      work,
      contractId,
      some.map((s) => s.id),
    );
    if (isRefusal(taken)) return taken;
  }
  const ended = await endSeats(work, { end, seats, ofClient });
  if (isRefusal(ended)) return ended;
  const added: Id<'contract_seat'>[] = [];
  for (const some of groups(put, (p) => `${p.lineId} ${p.startsOn} ${p.lastDay}`).values()) {
    const { lineId, startsOn, lastDay } = some[0]!;
    const of = { lineId, contractId: ofClient(lineId)!.contract_id };
    const outcome = await addSeats(work, of, { unitIds: some.map((p) => p.unitId), startsOn, lastDay });
    if (isRefusal(outcome)) return outcome;
    added.push(...(outcome.ids as Id<'contract_seat'>[]));
  }
  return {
    changed,
    undo: {
      takeOff: added,
      end: end.map(({ seatId }) => ({ seatId, lastDay: lastDayOf(seats.get(seatId)!.ends_on) })),
      put: off.map(({ line_id, contact_id, asset_id, starts_on, ends_on }) => ({
        lineId: line_id,
        unitId: (contact_id ?? asset_id)!,
        startsOn: starts_on,
        lastDay: lastDayOf(ends_on),
      })),
    },
  };
}

/** Gives seats another last day, those of a line and a day at once. */
async function endSeats(
  work: Work,
  {
    end,
    seats,
    ofClient,
  }: {
    readonly end: SeatsChangeWire['end'];
    readonly seats: ReadonlyMap<string, SeatRow>;
    readonly ofClient: (lineId: string) => LineOfClient | undefined;
  },
): Promise<Outcome<object>> {
  if (new Set(end.map((e) => e.seatId)).size < end.length)
    return refuse('invalid', 'Somebody is given two last days at once.', { end: 'each once' });
  const moved: { readonly seat: SeatRow; readonly to: LocalDate | null }[] = [];
  for (const { seatId, lastDay } of end) {
    const seat = seats.get(seatId)!;
    const to = endsOn(seat.starts_on, lastDay);
    if (isRefusal(to)) return refuse('invalid', `${seat.name}: ${to.detail}`, to.fields);
    moved.push({ seat, to });
  }
  const stand: Row<'contract_seat'>[] = await work.tx('contract_seat').whereIn('line_id', [...new Set(moved.map((m) => m.seat.line_id))]);
  const ends = new Map<string, LocalDate | null>(moved.map((m) => [m.seat.id, m.to]));
  const byUnit = groups(stand, (o) => `${o.line_id} ${o.contact_id ?? o.asset_id}`);
  for (const { seat, to } of moved) {
    // Those of them that get another end too stand with that.
    const mine = (byUnit.get(`${seat.line_id} ${seat.contact_id ?? seat.asset_id}`) ?? [])
      .filter((o) => o.id !== seat.id)
      .map((o) => ({ from: o.starts_on, to: ends.has(o.id) ? ends.get(o.id)! : o.ends_on }));
    const other = overlapping(mine, { from: seat.starts_on, to });
    if (other)
      return refuse('already-used', `${seat.name} is on ${ofClient(seat.line_id)!.name} again from ${other.from}.`, {
        lastDay: `before ${other.from}`,
      });
  }
  for (const some of groups(moved, ({ seat, to }) => `${seat.line_id} ${to}`).values()) {
    const [{ seat: first, to }] = some as [(typeof moved)[number]];
    const ids = some.map((m) => m.seat.id);
    await work
      .tx('contract_seat')
      .whereIn('id', ids)
      .update({ ends_on: to, ended_by_leaving: null, version: work.tx.raw('version + 1') });
    const line = ofClient(first.line_id)!;
    await work.tell('contract.seats-ended', line.contract_id, { line: line.name, names: some.map((m) => m.seat.name), to });
  }
  return {};
}

function groups<T, Key>(all: readonly T[], keyOf: (one: T) => Key): Map<Key, T[]> {
  const found = new Map<Key, T[]>();
  for (const one of all) found.set(keyOf(one), [...(found.get(keyOf(one)) ?? []), one]);
  return found;
}
