import type { Id } from '@core/ground';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';

/** What a new ticket takes from its client, or from the house where it has none. */
export interface TicketOwner {
  readonly clientId: Id<'client'> | null;
  readonly division: string;
  /** The newest version of the promise that holds: the client's, the kind's or the house's. */
  readonly promiseVersionId: Id<'promise_version'>;
  readonly calendarId: Id<'calendar'> | null;
}

/** Columns of an owner, where `c` is the client or nothing; with `ownerValues`. */
export const OWNER_COLUMNS = `c.id as owner_client, coalesce(c.division_id, (select id from division order by name limit 1)) as division,
  c.calendar_id, (select v.id from promise_version v where v.promise_id = coalesce(c.promise_id, :kindPromise,
    (select h.promise_id from promise_version h where h.id = :housePromise)) order by v.version desc limit 1) as promise_version_id`;

export function ownerValues(book: HouseBook) {
  return { kindPromise: book.kindRule('unsorted').promiseId, housePromise: book.house.promiseVersionId };
}

export interface OwnerRow {
  readonly owner_client: string | null;
  readonly division: string;
  readonly promise_version_id: string;
  readonly calendar_id: string | null;
}

export function ownerOf(row: OwnerRow): TicketOwner {
  return { clientId: row.owner_client, division: row.division, promiseVersionId: row.promise_version_id, calendarId: row.calendar_id };
}

export async function readOwner(tx: Work['tx'], book: HouseBook, clientId: Id<'client'> | null): Promise<TicketOwner> {
  const { rows } = await tx.raw(`select ${OWNER_COLUMNS} from (select :clientId::uuid as id) asked left join client c on c.id = asked.id`, {
    ...ownerValues(book),
    clientId,
  } as never);
  return ownerOf(rows[0]);
}
