import { HouseBook } from '../house/house/house-book';
import { byJob } from './actor';
import type { Knex } from 'knex';
import { STORY, makeTestDatabase } from '../../testing/test-server';
import { openDatabase } from './database';
import { StatementNames } from './prepared-statements';
import { transact } from './work';

let database: Awaited<ReturnType<typeof makeTestDatabase>>;
let knex: Knex;
beforeAll(async () => {
  database = await makeTestDatabase();
  knex = openDatabase(database.url, 1);
  await knex.raw('create table kept (n int)');
  await knex('kept').insert({ n: 1 });
});
afterAll(async () => {
  await knex.destroy();
  await database.drop();
});

const read = (db: Knex | Knex.Transaction = knex) => db('kept').where({ n: 1 });
const prepared = async () =>
  Number((await knex.raw(`select count(*) as n from pg_prepared_statements where statement like '%"kept"%where%'`)).rows[0].n);

describe('a statement', () => {
  it('is kept prepared from its third time on, with other values each time', async () => {
    for (const n of [1, 2]) expect(await knex('kept').where({ n })).toHaveLength(n === 1 ? 1 : 0);
    expect(await prepared()).toBe(0);
    expect(await knex('kept').where({ n: 3 })).toEqual([]);
    expect(await prepared()).toBe(1);
    expect(await read()).toEqual([{ n: 1 }]);
  });

  it('whose table was changed since is asked again by a command, and by whoever reads next', async () => {
    await knex.raw('alter table kept add column more text');
    const actor = byJob('test');
    const seen = await transact({ knex, house: new HouseBook() }, { now: STORY, actor }, async (work) => ({
      rows: await read(work.tx as never),
    }));
    expect(seen).toEqual({ rows: [{ n: 1, more: null }] });
    for (let n = 0; n < 3; n++) await read();
    await knex.raw('alter table kept drop column more');
    await expect(read()).rejects.toThrow('cached plan');
    expect(await read()).toEqual([{ n: 1 }]);
  });

  it('that never comes again is not kept, and only so many are', () => {
    const names = new StatementNames();
    for (let n = 0; n < 10_000; n++) expect(names.nameOf(`select ${n}`)).toBeUndefined();
    const thrice = (sql: string) => [1, 2, 3].map(() => names.nameOf(sql)).at(-1);
    const kept = Array.from({ length: 400 }, (_, n) => thrice(`select ? + ${n}`)).filter(Boolean);
    expect([kept.length, new Set(kept).size]).toEqual([300, 300]);
    expect(names.nameOf('select ? + 1')).toBe(kept[1]);
    expect(thrice(`select '${'x'.repeat(9000)}'`)).toBeUndefined();
  });
});
