// Migrates a database of its own on the cluster that is named, and writes the types of its rows. See scripts/rows.mjs.
import { openDatabase } from '../packages/server/src/app/database';
import { migrate } from '../packages/server/src/app/migrate';
import { writeRows } from './make-rows';

const base = process.env['DRUMLINE_TEST_URL']!;
const admin = openDatabase(`${base}/postgres`, 1);
await admin.raw('drop database if exists drumline_rows with (force)');
await admin.raw('create database drumline_rows');
const url = `${base}/drumline_rows`;
const knex = openDatabase(url, 2);
await migrate(knex, url);
await writeRows(knex);
await knex.destroy();
await admin.raw('drop database drumline_rows with (force)');
await admin.destroy();
