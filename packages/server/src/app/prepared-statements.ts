import { createHash } from 'node:crypto';
import Postgres, { type Asked } from 'knex/lib/dialects/postgres/index.js';

/** A statement is kept prepared from its third time on: what is asked once would only fill memory. */
const FROM_TIMES = 3;
/** Kept by each connection; PostgreSQL holds the plan of each in memory. */
const MOST_KEPT = 300;
const MOST_LENGTH = 8000;
/** What PostgreSQL says of a prepared statement whose tables were changed since, as by a migration beside a running server. */
const STALE = 'cached plan must not change result type';

export function isStalePlan(fault: unknown): boolean {
  // The query builder puts the statement before it.
  return String((fault as { message?: unknown } | undefined)?.message).endsWith(STALE);
}

/** Names the statements that are asked again and again, so that each connection reads and plans them once. */
export class StatementNames {
  private readonly times = new Map<string, number>();
  private readonly names = new Map<string, string>();

  nameOf(sql: string): string | undefined {
    const known = this.names.get(sql);
    if (known || this.names.size >= MOST_KEPT || sql.length > MOST_LENGTH) return known;
    const times = (this.times.get(sql) ?? 0) + 1;
    if (times < FROM_TIMES) {
      // Texts that never come again must not gather.
      if (this.times.size > 10 * MOST_KEPT) this.times.clear();
      this.times.set(sql, times);
      return undefined;
    }
    this.times.delete(sql);
    const name = createHash('sha256').update(sql).digest('base64url').slice(0, 20);
    this.names.set(sql, name);
    return name;
  }
}

/**
 * PostgreSQL's dialect of the query builder with prepared statements: for most of ours, planning takes several times as
 * long as running. PostgreSQL itself decides for each whether one plan serves all values.
 */
export function preparingClient(): typeof Postgres {
  const statements = new StatementNames();
  return class extends Postgres {
    override async _query(connection: { __knex__disposed?: unknown }, asked: Asked): Promise<unknown> {
      const name = asked.bindings?.length ? statements.nameOf(asked.sql) : undefined;
      try {
        return await super._query(connection, name ? { ...asked, options: { ...asked.options, name } } : asked);
      } catch (fault) {
        // Whoever asks again gets another connection.
        if (isStalePlan(fault)) connection.__knex__disposed = fault;
        throw fault;
      }
    }
  };
}
