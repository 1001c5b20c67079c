// The database that every test copies: the demo with a short past, made anew for each run.
import { parseInstant } from '@core/ground';
import { openDatabase } from '../packages/server/src/app/database';
import { loadDemo } from '../packages/server/src/app/demo/load-demo';
import { migrate } from '../packages/server/src/app/migrate';
import { refuseStaleRows } from './make-rows';

const DAYS = 16;
const base = process.env['DRUMLINE_TEST_URL']!;
const admin = openDatabase(`${base}/postgres`, 1);
const { rows } = await admin.raw(`select datname from pg_database where datname like 't\\_%' or datname = 'drumline_template'`);
for (const { datname } of rows) await admin.raw(`drop database ${datname} with (force)`);
await admin.raw('create database drumline_template');
const url = `${base}/drumline_template`;
const knex = openDatabase(url, 2);
await migrate(knex, url);
await refuseStaleRows(knex);
await loadDemo(knex, { real: parseInstant(process.env['DRUMLINE_NOW']!), days: DAYS, covered: 'one' });
await knex.destroy();
await admin.destroy();
