import type { Knex } from 'knex';
import type { Rows } from '../src/app/rows';

/** What is written is checked by its columns: the driver takes other values for a type than it hands over. */
type Written<Row> = { readonly [Column in keyof Row]?: unknown };
type TypedTables = { [Table in keyof Rows]: Knex.CompositeTableType<Rows[Table], Written<Rows[Table]>, Written<Rows[Table]>> };

/** What a query of one table reads and writes is typed by the schema. */
declare module 'knex/types/tables' {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type -- a module can only be added to by an interface
  interface Tables extends TypedTables {}
}
