import { isDeepStrictEqual } from 'node:util';
import { odditiesOf, type ChargeBesides, type OddityLimits } from '@core/billing';
import { dateOf, plusDays, type Id, type Outcome } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { plainDecimal } from '../../app/plain-decimal';
import { tellCharges } from './tell-charges';

/** Which of the charges that wait for a decision are looked at: of tickets, of a contract, by themselves, or all. */
export type ToLookAt =
  | { readonly ticketIds: readonly string[] }
  | { readonly entryIds: readonly string[] }
  | { readonly expenseIds: readonly string[] }
  | { readonly contractId: Id<'contract'> }
  | { readonly chargeIds: readonly string[] }
  | 'all';

const isNone = (which: ToLookAt) => which !== 'all' && Object.values(which).some((ids) => ids.length === 0);

const COLUMN = { ticketIds: 'ch.ticket_id', entryIds: 'ch.time_entry_id', expenseIds: 'ch.expense_id', chargeIds: 'ch.id' } as const;

/** How many are looked at in one read. */
const AT_ONCE = 1000;
/** Charges of the like within these days say what is usual, from so many on. */
const USUAL_DAYS = 180;
const USUAL_CASES = 5;

/**
 * Says anew what is odd about charges that nobody decided on yet, and writes where that differs. A charge and its version stay
 * as they are, so that whoever has it open can still decide on it. @returns how many differ
 */
export async function lookAtCharges(work: Work, which: ToLookAt): Promise<number> {
  const today = dateOf(work.now, work.book.house.zone);
  const settings: Row<'charge_review_settings'> = (await work.tx('charge_review_settings').first())!;
  const limits: OddityLimits = {
    old: settings.old_days,
    ratePercent: settings.rate_percent,
    long: work.book.house.time.longMinutes,
    cases: USUAL_CASES,
  };
  if (isNone(which)) return 0;
  let [changed, after] = [0, ''];
  for (;;) {
    const rows: Facts[] = await factsOf(work, { which, after, since: plusDays(today, -USUAL_DAYS) });
    const differ = rows.flatMap((row) => {
      const oddities = odditiesOf(besides(row), { today, limits });
      return isDeepStrictEqual(row.oddities, oddities) ? [] : [{ row, oddities }];
    });
    if (differ.length) await keep(work, differ);
    changed += differ.length;
    if (rows.length < AT_ONCE) return changed;
    after = rows.at(-1)!.id;
  }
}

/** What a ticket was estimated at, or its fee, says whether its charges are odd. */
export async function lookAtTicketsCharges(work: Work, ticketId: Id<'ticket'>): Promise<Outcome<unknown>> {
  await lookAtCharges(work, { ticketIds: [ticketId] });
  return {};
}

async function keep(
  work: Work,
  differ: readonly { readonly row: Facts; readonly oddities: ReturnType<typeof odditiesOf> }[],
): Promise<void> {
  await work.tx.raw(
    `update charge set oddities = x.oddities
     from jsonb_to_recordset(?::jsonb) as x(id uuid, oddities jsonb) where charge.id = x.id and charge.state = 'proposed'`,
    [JSON.stringify(differ.map(({ row, oddities }) => ({ id: row.id, oddities })))],
  );
  await tellCharges(
    work,
    differ.map(({ row }) => row),
  );
}

type Facts = Row<
  'charge',
  'id' | 'ticket_id' | 'client_id' | 'kind' | 'on_date' | 'unit' | 'unit_price' | 'tax_category' | 'tax_percent' | 'odd' | 'oddities'
> & {
  readonly tax_exempt: boolean;
  readonly minutes: number | null;
  readonly estimate_minutes: number | null;
  readonly spent: number | null;
  readonly contract: string | null;
  readonly fee: string | null;
  readonly unit_cost: string | null;
  readonly usual_price: string | null;
  readonly usual_cases: number;
  readonly asked_by: string | null;
};

function besides(row: Facts): ChargeBesides {
  return {
    marks: row.odd,
    kind: row.kind,
    on: row.on_date,
    unit: row.unit,
    unitPrice: plainDecimal(row.unit_price),
    tax: { category: row.tax_category, percent: plainDecimal(row.tax_percent) },
    isExempt: row.tax_exempt,
    minutes: row.minutes,
    planned: row.estimate_minutes === null ? null : { estimate: row.estimate_minutes, spent: row.spent ?? 0 },
    contract: row.contract,
    fee: row.fee,
    unitCost: row.unit_cost === null ? null : plainDecimal(row.unit_cost),
    askedBy: row.asked_by,
    usual: row.usual_price === null ? null : { price: plainDecimal(row.usual_price), cases: row.usual_cases },
  };
}

/** The time that a charge is of: its rate is beside what the client paid for the same activity and band. */
const RATED = `ch.kind = 'labour' and ch.cause = 'entry' and e.corrects is null`;
const BAND = (effect: string, part: string) => `${effect}.effect -> 'parts' -> ${part} ->> 'band'`;

/** What charges are looked at with, by one statement for all of them. */
async function factsOf(
  work: Work,
  { which, after, since }: { readonly which: ToLookAt; readonly after: string; readonly since: string },
): Promise<Facts[]> {
  return work
    .tx('charge as ch')
    .join('client as c', 'c.id', 'ch.client_id')
    .leftJoin('time_entry as e', 'e.id', 'ch.time_entry_id')
    .leftJoin('entry_effect as ef', 'ef.time_entry_id', 'ch.time_entry_id')
    .leftJoin('ticket as t', 't.id', 'ch.ticket_id')
    .leftJoin('ticket_fee as tf', (on) => on.on('tf.ticket_id', 'ch.ticket_id').andOnNotIn('tf.state', ['refused']))
    .leftJoin('flat_fee as f', 'f.id', 'tf.fee_id')
    .leftJoin('catalogue_item as i', 'i.id', 'ch.item_id')
    .joinRaw(
      `left join lateral (select sum(x.minutes)::int as spent from time_entry x where x.ticket_id = ch.ticket_id and x.removed_at is null) s
         on ch.kind = 'labour' and t.estimate_minutes is not null`,
    )
    .joinRaw(
      `left join lateral (select k.name from contract k where k.client_id = ch.client_id and k.agreed_at is not null and k.starts_on <= ch.on_date
         and (k.ends_on is null or k.ends_on > ch.on_date) and exists (select from contract_cover v where v.contract_id = k.id)
         order by k.is_preferred desc, k.starts_on, k.id limit 1) k on ${RATED} and ef.effect -> 'under' is null`,
    )
    .joinRaw(
      `left join lateral (select percentile_disc(0.5) within group (order by u.unit_price) as price, count(*)::int as cases from charge u
         join time_entry ue on ue.id = u.time_entry_id join entry_effect uf on uf.time_entry_id = u.time_entry_id
         where u.client_id = ch.client_id and u.id <> ch.id and u.cause = 'entry' and u.unit = 'MIN' and u.state = 'approved' and u.on_date >= ?::date and ue.activity_id = e.activity_id
         and ${BAND('uf', 'u.part')} is not distinct from ${BAND('ef', 'ch.part')}) u on ${RATED} and ch.unit = 'MIN' and ef.effect -> 'under' is null`,
      [since],
    )
    .where('ch.state', 'proposed')
    .modify((q) => after && void q.where('ch.id', '>', after))
    .modify((q) => {
      if (which === 'all') return;
      if ('contractId' in which) void q.where('ch.contract_id', which.contractId);
      else for (const [name, ids] of Object.entries(which)) void q.whereRaw('?? = any(?)', [COLUMN[name as keyof typeof COLUMN], [...ids]]);
    })
    .orderBy('ch.id')
    .limit(AT_ONCE)
    .select(
      ...['id', 'ticket_id', 'client_id', 'kind', 'on_date', 'unit', 'unit_price', 'tax_category', 'tax_percent', 'odd', 'oddities'].map(
        (x) => `ch.${x}`,
      ),
      'c.tax_exempt',
      'e.minutes',
      't.estimate_minutes',
      's.spent',
      'k.name as contract',
      work.tx.raw(`case when ch.cause = 'entry' then f.name end as fee`),
      work.tx.raw('case when i.cost > 0 then i.cost end as unit_cost'),
      'u.price as usual_price',
      work.tx.raw(
        '(select q.asked_by from charge_question q where q.charge_id = ch.id and q.answer is null order by q.id limit 1) as asked_by',
      ),
      work.tx.raw('coalesce(u.cases, 0) as usual_cases'),
    ) as unknown as Promise<Facts[]>;
}
