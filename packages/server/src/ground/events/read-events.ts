import { type EventWire, formatInstant, type Instant } from '@core/ground';
import type { Db } from '../../app/database';

interface EventRow {
  readonly id: string;
  readonly xact: string;
  readonly type: string;
  readonly version: number;
  readonly data: Readonly<Record<string, unknown>>;
  readonly subject: string;
  readonly subject_id: string;
  readonly ticket_id: string | null;
  readonly client_id: string | null;
  readonly contract_id: string | null;
  readonly project_id: string | null;
  readonly division_id: string | null;
  readonly happened_at: Instant;
  readonly written_at: Instant;
  readonly who: EventWire['who'];
  readonly who_id: string | null;
  readonly who_name: string;
  readonly via: EventWire['via'];
  readonly cause_id: string | null;
}

export interface ReadEvents {
  readonly events: EventWire[];
  /** From where to read on; where nothing was read, the place that was given. */
  readonly place: string | null;
}

/**
 * Reads the log on from a place. Only what was written by transactions before the oldest that still runs is read, so that
 * nothing can come to stand before a place that was read up to.
 * @param after a place that was answered before; null from the beginning
 */
export async function readEvents(db: Db, after: string | null, most: number): Promise<ReadEvents> {
  const [xact, id] = after?.split('.') ?? [];
  const rows: EventRow[] = await db('event')
    .whereRaw('xact < pg_snapshot_xmin(pg_current_snapshot())')
    .modify((q) => after !== null && void q.whereRaw('(xact, id) > (?::xid8, ?::uuid)', [xact!, id!]))
    .orderBy(['xact', 'id'])
    .limit(most)
    .select('*');
  const last = rows.at(-1);
  return { events: rows.map(eventWire), place: last ? `${last.xact}.${last.id}` : after };
}

function eventWire(row: EventRow): EventWire {
  return {
    id: row.id,
    type: row.type,
    version: row.version,
    data: row.data,
    record: row.subject,
    recordId: row.subject_id,
    ticketId: row.ticket_id,
    clientId: row.client_id,
    contractId: row.contract_id,
    projectId: row.project_id,
    divisionId: row.division_id,
    happenedAt: formatInstant(row.happened_at),
    writtenAt: formatInstant(row.written_at),
    who: row.who,
    whoId: row.who_id,
    whoName: row.who_name,
    via: row.via,
    causeId: row.cause_id,
  };
}
