import { type ChargeClientsFilter, type ChargeClientWire, type ChargeFilter, type ChargeWire, type OddityName } from '@core/billing';
import { type Id, isRefusal, money, type Money, type Outcome, type Page } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { keysetPage, type Sort } from '../../app/keyset-page';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house';
import { chargeFigures } from './charge-figures';
import type { KeptAsItWas } from './decide-charge';

/** Cleared, and not billed with all of it. */
export const CLEARED = `ch.standing in ('approved', 'part billed')`;
/** What waits for an invoice: what is cleared and nobody holds. */
export const TO_BILL = `${CLEARED} and ch.held_until is null`;

/** Charges of one record in the order people read them: its time, the way, what came with it. Unknown causes come first. */
export const PLACE = `(coalesce(array_position(array['entry', 'distance', 'call-out'], ch.cause), 0) * 1000000 + ch.part)`;

const VIEWS: Readonly<Record<string, string>> = {
  proposed: `ch.standing = 'proposed' and ch.held_until is null`,
  held: `ch.held_until is not null and ch.standing in ('proposed', 'approved', 'part billed')`,
  approved: TO_BILL,
  billed: `ch.standing = 'billed'`,
  waived: `ch.standing = 'waived'`,
};

type Narrowed = Pick<ChargeFilter, 'state' | 'clientId' | 'odd' | 'oddIs'>;

/** Whether somebody should look at it twice. */
export const IS_ODD = `ch.oddities <> '[]'`;

/** The charges that fit a filter, with their client. */
function fitting(db: Db, { state, clientId, odd, oddIs }: Narrowed) {
  return db('charge as ch')
    .join('client as c', 'c.id', 'ch.client_id')
    .whereRaw(state ? VIEWS[state]! : `ch.standing <> 'withdrawn'`)
    .modify((q) => clientId && void q.where('ch.client_id', clientId))
    .modify((q) => odd && void q.whereRaw(IS_ODD))
    .modify((q) => oddIs && void q.whereRaw('ch.oddities @> ?::jsonb', [JSON.stringify([{ is: oddIs }])]));
}

/** A charge with its client, its ticket's number, whose it is and the last decision on it. */
type ChargeShown = Row<'charge'> & {
  readonly client: string;
  readonly number: number | null;
  readonly person: string | null;
  readonly reason: string | null;
  readonly decided_by: string | null;
  readonly original: KeptAsItWas | null;
};

/** A client with what their charges come to. */
type ChargedClient = Row<'client', 'id' | 'name'> & {
  readonly charges: number;
  readonly odd: number;
  readonly net_minor: number;
  readonly not_odd_minor: number;
};

/** Clients by name, their charges by day; the parts of one record stay together. */
const SORTS: Readonly<Record<string, Sort>> = {
  client: {
    by: `(c.name || chr(1) || c.id || ch.on_date || coalesce(ch.cause_id, ch.id) || lpad(${PLACE}::text, 8, '0'))`,
    type: 'text',
  },
  on: { by: 'ch.on_date', type: 'date' },
};

export async function listCharges(db: Db, filter: ChargeFilter): Promise<Outcome<Page<ChargeWire>>> {
  const page = await keysetPage<ChargeShown>(
    db,
    { matching: () => fitting(db, filter), id: 'ch.id', sorts: SORTS, select: withRelated() },
    filter,
  );
  return isRefusal(page) ? page : { ...page, rows: await toWire(db, page.rows) };
}

export async function readCharge(db: Db, chargeId: Id<'charge'>): Promise<ChargeWire | undefined> {
  const row = await withRelated()(db('charge as ch').join('client as c', 'c.id', 'ch.client_id').where('ch.id', chargeId)).first();
  return row && (await toWire(db, [row]))[0];
}

interface ChargeSums {
  readonly charges: number;
  readonly net: Money;
  readonly notOdd: { readonly charges: number; readonly net: Money };
  readonly oddities: { is: OddityName; charges: number }[];
}

/** What the charges of a filter come to, by client and together. Of what is billed in part, what is open counts. */
export async function listChargeClients(
  db: Db,
  book: HouseBook,
  filter: ChargeClientsFilter,
): Promise<Outcome<Page<ChargeClientWire> & ChargeSums>> {
  const { currency } = book.house;
  const worth = filter.state === 'approved' ? 'ch.net_minor - coalesce(ch.billed_minor, 0)' : 'ch.net_minor';
  const byClient = () =>
    fitting(db, filter)
      .groupBy('c.id', 'c.name')
      .select(
        'c.id',
        'c.name',
        db.raw(
          `count(*) as charges, count(*) filter (where ${IS_ODD}) as odd, sum(${worth})::bigint as net_minor,
           coalesce(sum(${worth}) filter (where not ${IS_ODD}), 0)::bigint as not_odd_minor`,
        ),
      );
  const sorts: Readonly<Record<string, Sort>> = {
    client: { by: 'x.name', type: 'text' },
    net: { by: 'x.net_minor', type: 'int' },
  };
  const matching = () => db.from(byClient().as('x'));
  const page = await keysetPage<ChargedClient>(db, { matching, id: 'x.id', sorts, select: (q) => q.select('x.*') }, filter);
  if (isRefusal(page)) return page;
  const all = await db
    .from(byClient().as('x'))
    .select(
      db.raw(
        `coalesce(sum(charges), 0)::bigint as charges, coalesce(sum(net_minor), 0)::bigint as net,
         coalesce(sum(charges - odd), 0)::bigint as not_odd, coalesce(sum(not_odd_minor), 0)::bigint as not_odd_net`,
      ),
    )
    .first();
  const oddities: readonly { readonly is: OddityName; readonly charges: number }[] = await fitting(db, filter)
    .joinRaw('cross join lateral jsonb_array_elements(ch.oddities) o')
    .groupByRaw(`o ->> 'is'`)
    .orderByRaw(`count(*) desc, o ->> 'is'`)
    .select(db.raw(`o ->> 'is' as "is", count(*)::int as charges`));
  return {
    ...page,
    rows: page.rows.map((r) => ({
      clientId: r.id,
      client: r.name,
      charges: Number(r.charges),
      odd: Number(r.odd),
      net: money(Number(r.net_minor), currency),
      notOddNet: money(Number(r.not_odd_minor), currency),
    })),
    charges: Number(all.charges),
    net: money(Number(all.net), currency),
    notOdd: { charges: Number(all.not_odd), net: money(Number(all.not_odd_net), currency) },
    oddities: [...oddities],
  };
}

function asItWas({ description, currency }: ChargeShown, was: KeptAsItWas): ChargeWire['original'] {
  return {
    description: was.description ?? description,
    quantity: plainDecimal(was.quantity),
    unitPrice: plainDecimal(was.unitPrice),
    net: money(was.netMinor, currency),
  };
}

function withRelated() {
  return (rows: ReturnType<Db['queryBuilder']>) =>
    rows
      .leftJoin('ticket as t', 't.id', 'ch.ticket_id')
      .leftJoin('person as p', 'p.id', 'ch.person_id')
      .joinRaw(
        `left join lateral (select d.reason, d.who_name as name from charge_decision d where d.charge_id = ch.id order by d.id desc limit 1) dec on true
         left join lateral (select d.was from charge_decision d where d.charge_id = ch.id and d.decision = 'adjust' order by d.id limit 1) adj on true`,
      )
      .select(
        'ch.*',
        'c.name as client',
        't.number',
        'p.name as person',
        'dec.reason',
        'dec.name as decided_by',
        'adj.was as original',
      ) as ReturnType<Db['queryBuilder']>;
}

async function toWire(db: Db, rows: readonly ChargeShown[]): Promise<ChargeWire[]> {
  const links: (Row<'billing_link', 'charge_id' | 'does' | 'net_minor'> & Row<'invoice', 'id' | 'number'>)[] = await db('billing_link as l')
    .join('invoice as i', 'i.id', 'l.invoice_id')
    .whereIn(
      'l.charge_id',
      rows.map((r) => r.id),
    )
    .orderBy('l.id')
    .select('l.charge_id', 'l.does', 'l.net_minor', 'i.id', 'i.number');
  const questions: Row<'charge_question'>[] = await db('charge_question')
    .whereIn(
      'charge_id',
      rows.map((r) => r.id),
    )
    .orderBy('id');
  return rows.map((r) => ({
    ...chargeFigures(r),
    version: r.version,
    kind: r.kind,
    state: r.standing,
    clientId: r.client_id,
    client: r.client,
    ticketId: r.ticket_id,
    ticketNumber: r.number,
    person: r.person,
    on: r.on_date,
    taxPercent: plainDecimal(r.tax_percent),
    odd: [...r.oddities],
    entryId: r.time_entry_id,
    heldUntil: r.held_until,
    heldWhy: r.held_why,
    original: r.original && asItWas(r, r.original),
    questions: questions
      .filter((q) => q.charge_id === r.id)
      .map((q) => ({ id: q.id, askedBy: q.asked_by, question: q.question, answer: q.answer, answeredBy: q.answered_by })),
    decidedBy: r.decided_by,
    reason: r.reason,
    why: r.explanation,
    documents: links
      .filter((l) => l.charge_id === r.id)
      .map((l) => ({ id: l.id, number: l.number, does: l.does, net: money(l.net_minor, r.currency) })),
  }));
}
