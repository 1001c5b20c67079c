declare module 'knex/lib/dialects/postgres/index.js' {
  import type { Knex } from 'knex';
  export interface Asked {
    readonly sql: string;
    readonly bindings?: readonly unknown[];
    options?: { readonly name?: string };
  }
  export default class ClientPG extends Knex.Client {
    _query(connection: { __knex__disposed?: unknown }, asked: Asked): Promise<unknown>;
  }
}
