import { instantOfMillis, parseInstant } from '@core/time';
import { readConfig } from './config';
import { openDatabase } from './database';
import { loadDemo } from './demo/load-demo';
import { migrate } from './migrate';

/** Migrates, and loads the demo when the database is empty. --days N tells a shorter past. */
const config = readConfig({ SESSION_SECRET: 'unused-by-this-command', FILES_DIR: '.', ...process.env });
const days = Number(process.argv[process.argv.indexOf('--days') + 1]) || 90;
const knex = openDatabase(config.DATABASE_URL, 2);
try {
  await migrate(knex, config.DATABASE_URL);
  if (await knex('house').first('id')) console.log('The database has its data; nothing loaded.');
  else {
    const real = config.DRUMLINE_NOW ? parseInstant(config.DRUMLINE_NOW) : instantOfMillis(Date.now());
    const started = Date.now();
    await loadDemo(knex, { real, days });
    console.log(`The demo is loaded in ${((Date.now() - started) / 1000).toFixed(1)} s.`);
  }
} finally {
  await knex.destroy();
}
