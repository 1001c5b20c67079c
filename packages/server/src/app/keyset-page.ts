import type { Knex } from 'knex';
import { COUNT_CAP, type Outcome, refuse } from '@core/ground';
import type { Db } from './database';

/** How a list can be ordered: an expression that is never null, and its type in SQL. */
export interface Sort {
  readonly by: string;
  readonly type: keyof typeof KEYS;
}

interface Sorted extends Sort {
  readonly way: 'asc' | 'desc';
}

export interface PageQuery {
  readonly sort: string;
  readonly after?: string | undefined;
  readonly most: number;
}

export interface ListSource {
  /** The rows that fit the filters, with nothing selected yet. */
  readonly matching: () => Knex.QueryBuilder;
  /** The id column, which settles the order of rows that sort alike. */
  readonly id: string;
  readonly sorts: Readonly<Record<string, Sort>>;
  /** Joins and columns for just the rows shown. */
  readonly select: (rows: Knex.QueryBuilder) => Knex.QueryBuilder;
}

export interface RowPage<Found> {
  readonly rows: Found[];
  readonly count: number;
  readonly countCapped: boolean;
  readonly next: string | null;
}

/** What a key of each type looks like as text, so that a made-up place is refused and never reaches the database. */
const KEYS = {
  text: /^[^]*$/,
  int: /^-?\d{1,15}$/,
  numeric: /^-?\d{1,20}(\.\d+)?$/,
  date: /^\d{4}-\d\d-\d\d$/,
  timestamptz: /^(infinity|\d{4}-\d\d-\d\d \d\d:\d\d:\d\d(\.\d+)?[+-]\d\d(:\d\d)?)$/,
} as const;
const ID = /^[0-9a-f-]{36}$/;

/**
 * One page of a list, by key and not by offset: it costs the same at any depth and skips nothing when rows come or go.
 * `Found` is what the source selects of each row.
 */
export async function keysetPage<Found>(db: Db, source: ListSource, query: PageQuery): Promise<Outcome<RowPage<Found>>> {
  const sort = sortNamed(source.sorts, query.sort);
  const place = query.after === undefined ? undefined : readPlace(query.after, query.sort, sort.type);
  if (query.after !== undefined && !place)
    return refuse('invalid', 'The place to go on after is not one that this list gave.', { after: 'the "next" of the page before' });
  const counting = countCapped(db, source.matching());
  const finding = source
    .select(ordered({ rows: source.matching(), id: source.id, sort, place }))
    .select(db.raw(`(${sort.by})::text as sort_key`), `${source.id} as sort_id`)
    .limit(query.most + 1);
  const [counted, rows]: [Awaited<typeof counting>, (Found & PlaceColumns)[]] = await Promise.all([counting, finding]);
  const shown = rows.slice(0, query.most);
  const last = shown.at(-1);
  return {
    rows: shown,
    ...counted,
    next: rows.length > query.most && last ? writePlace(query.sort, last.sort_key, last.sort_id) : null,
  };
}

/** A sort rises by its name alone and falls with a minus before it. */
function sortNamed(sorts: ListSource['sorts'], name: string): Sorted {
  const sort = sorts[name.replace(/^-/, '')];
  if (!sort) throw new Error(`the list has no sort ${name}`);
  return { ...sort, way: name.startsWith('-') ? 'desc' : 'asc' };
}

async function countCapped(db: Db, matching: Knex.QueryBuilder): Promise<{ count: number; countCapped: boolean }> {
  const some = matching
    .select(db.raw('1'))
    .limit(COUNT_CAP + 1)
    .as('some');
  const [{ n }] = await db.from(some).count('* as n');
  return { count: Math.min(n as number, COUNT_CAP), countCapped: (n as number) > COUNT_CAP };
}

function ordered({
  rows,
  id,
  sort: { by, way, type },
  place,
}: {
  readonly rows: Knex.QueryBuilder;
  readonly id: string;
  readonly sort: Sorted;
  readonly place: Place | undefined;
}): Knex.QueryBuilder {
  if (place) void rows.whereRaw(`(${by}, ${id}) ${way === 'asc' ? '>' : '<'} (?::${type}, ?::uuid)`, [place.key, place.id]);
  return rows.orderByRaw(`${by} ${way}, ${id} ${way}`);
}

interface PlaceColumns {
  readonly sort_key: string;
  readonly sort_id: string;
}

interface Place {
  readonly key: string;
  readonly id: string;
}

function writePlace(sort: string, key: unknown, id: unknown): string {
  return Buffer.from(JSON.stringify([sort, key, id])).toString('base64url');
}

function readPlace(after: string, sort: string, type: Sort['type']): Place | undefined {
  try {
    const read: unknown = JSON.parse(Buffer.from(after, 'base64url').toString());
    if (!Array.isArray(read) || read[0] !== sort) return undefined;
    const [key, id] = [String(read[1]), String(read[2])];
    return KEYS[type].test(key) && ID.test(id) && !key.includes('\0') ? { key, id } : undefined;
  } catch {
    return undefined;
  }
}

/** Rows that contain these words anywhere; % and _ are taken as written. */
export function containing(words: string): string {
  return `%${words.replace(/[%_\\]/g, '\\$&')}%`;
}
