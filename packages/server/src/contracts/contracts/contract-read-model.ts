import { type ContractFilter, type ContractRowWire, type ContractWire, sayUnits, stateOf, typedGrant } from '@core/contracts';
import { type Currency, type Id, isRefusal, type LocalDate, type Outcome, type Page, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';
import { plainDecimal } from '../../app/plain-decimal';
import { readStory } from '../../app/read-story';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { readMeantFor } from '../choice/meant-for';
import { readCoverTerms } from '../cover/read-cover-terms';
import { readOwnRates, readOwnRoundings } from '../own-rates/own-rates';
import { lastDayOf, readContractLines } from './contract-lines';

const SORTS: Readonly<Record<string, Sort>> = {
  client: { by: 'k.name', type: 'text' },
  number: { by: 'c.number', type: 'int' },
  name: { by: 'c.name', type: 'text' },
  start: { by: 'c.starts_on', type: 'date' },
};

/** How a state is asked of the database, on a day. */
const OF_STATE: Readonly<Record<string, string>> = {
  draft: 'c.agreed_at is null',
  agreed: 'c.agreed_at is not null and c.starts_on > :on and (c.ends_on is null or c.ends_on > :on)',
  running: 'c.agreed_at is not null and c.starts_on <= :on and (c.ends_on is null or c.ends_on > :on)',
  ended: 'c.agreed_at is not null and c.ends_on <= :on',
};

type ListRow = Row<'contract'> & { readonly client: string };

export async function listContracts(
  db: Db,
  { today, currency }: { readonly today: LocalDate; readonly currency: Currency },
  filter: ContractFilter,
): Promise<Outcome<Page<ContractRowWire>>> {
  const matching = () =>
    db('contract as c')
      .join('client as k', 'k.id', 'c.client_id')
      .modify((q) => {
        if (filter.clientId) void q.where('c.client_id', filter.clientId);
        if (filter.state) void q.whereRaw(OF_STATE[filter.state]!, { on: today } as never);
        if (filter.q) void q.whereRaw(`(c.number || ' ' || c.name || ' ' || k.name) ilike ?`, [containing(filter.q)]);
      });
  const page = await keysetPage<ListRow>(
    db,
    { matching, id: 'c.id', sorts: SORTS, select: (q) => q.select('c.*', 'k.name as client') },
    filter,
  );
  if (isRefusal(page)) return page;
  const ids = page.rows.map((r) => r.id);
  const terms = await readCoverTerms(db, ids);
  const lines: Row<'contract_line', 'contract_id' | 'name'>[] = await db('contract_line')
    .whereIn('contract_id', ids)
    .whereNull('taken_away_at')
    .orderBy('position')
    .select('contract_id', 'name');
  return {
    ...page,
    rows: page.rows.map((r) => ({
      ...rowFields(r, today),
      covers:
        terms
          .get(r.id)!
          .allowances.map((a) => `${a.name}: ${sayUnits(a.measure, a.grant, currency)}`)
          .join(', ')
          .slice(0, MOST_SAID) || 'by the hour',
      lines:
        lines
          .filter((l) => l.contract_id === r.id)
          .map((l) => l.name)
          .join(', ')
          .slice(0, MOST_SAID) || 'none',
    })),
  };
}
const MOST_SAID = 400;

function rowFields(r: ListRow, today: LocalDate) {
  return {
    id: r.id,
    version: r.version,
    number: r.number,
    name: r.name,
    clientId: r.client_id,
    client: r.client,
    state: stateOf({ isAgreed: r.agreed_at !== null, from: r.starts_on, to: r.ends_on }, today),
    startsOn: r.starts_on,
    lastDay: lastDayOf(r.ends_on),
  };
}

export async function readContract(
  db: Db,
  { book, today, contractId }: { readonly book: HouseBook; readonly today: LocalDate; readonly contractId: Id<'contract'> },
): Promise<Outcome<ContractWire>> {
  const row: (ListRow & { readonly division: string }) | undefined = await db('contract as c')
    .join('client as k', 'k.id', 'c.client_id')
    .join('division as d', 'd.id', 'c.division_id')
    .where('c.id', contractId)
    .first('c.*', 'k.name as client', 'd.name as division');
  if (!row) return refuse('not-found', 'There is no such contract.');
  const { currency } = book.house;
  const terms = (await readCoverTerms(db, [contractId])).get(contractId)!;
  const named = await readNames(db);
  return {
    ...rowFields(row, today),
    preferred: row.is_preferred,
    renewal: row.renewal,
    termMonths: row.term_months,
    noticeDays: row.notice_days,
    purchaseOrder: row.purchase_order,
    notes: row.notes,
    frequency: row.frequency,
    anchored: row.anchored,
    overageFactor: plainDecimal(row.overage_factor),
    division: row.division,
    currency,
    allowances: terms.allowances.map(({ grant, later, blocks, ...a }) => ({
      ...a,
      grant: typedGrant(a.measure, grant, currency),
      later: later.map((l) => ({ from: l.from, grant: typedGrant(a.measure, l.grant, currency) })),
      blocks: blocks.map((b) => ({ startsOn: b.from, lastDay: lastDayOf(b.expiry), grant: typedGrant(a.measure, b.grant, currency) })),
    })),
    cover: terms.rules.map((r) => {
      const allowance = terms.allowances.find((a) => a.id === r.allowanceId);
      return {
        id: r.id,
        gradeIds: [...(r.gradeIds ?? [])],
        activityIds: [...(r.activityIds ?? [])],
        bands: [...(r.bands ?? [])],
        deskIds: [...(r.deskIds ?? [])],
        kinds: [...(r.kinds ?? [])],
        startsOn: r.from,
        lastDay: lastDayOf(r.to),
        allowanceId: r.allowanceId,
        cap: r.cap === null ? null : typedGrant(allowance?.measure === 'money' ? 'money' : 'hours', r.cap, currency),
        overageFactor: r.overageFactor,
        includesFees: r.includesFees,
        says: sayRule(
          [r.gradeIds, r.activityIds, r.deskIds].map((ids) => ids?.map((id) => named.get(id) ?? 'no longer there')),
          [r.bands, r.kinds],
        ),
      };
    }),
    meantFor: await readMeantFor(db, contractId),
    rates: await readOwnRates(db, contractId),
    roundings: await readOwnRoundings(db, contractId),
    lines: await readContractLines(db, { contractId, today, currency }),
    story: await readStory(db, { subject: 'contract', id: contractId }),
  };
}

async function readNames(db: Db): Promise<ReadonlyMap<string, string>> {
  const of = (table: 'grade' | 'activity' | 'desk') => db(table).select('id', 'name');
  const rows = [...(await of('grade')), ...(await of('activity')), ...(await of('desk'))];
  return new Map(rows.map((r) => [r.id, r.name]));
}

/** "Engineer, remote, out of hours"; "all work" where it asks nothing. */
function sayRule(named: readonly (readonly string[] | undefined)[], words: readonly (readonly string[] | null)[]): string {
  const parts = [...named, ...words].flatMap((some) => (some?.length ? [some.join(' or ')] : []));
  return parts.join(', ').slice(0, MOST_SAID) || 'all work';
}
