import type { Knex } from 'knex';

/**
 * A statement that PostgreSQL reads and plans once for each connection, for what runs by the hundred a second.
 * @param name of its own; the text of the statement is the same each time, only its values differ
 */
export function planned<T extends Knex.QueryBuilder | Knex.Raw>(name: string, statement: T): T {
  return statement.options({ name }) as T;
}
