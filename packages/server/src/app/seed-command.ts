import { instantOfMillis, parseInstant } from '@core/ground';
import { BlobStore } from './blob-store';
import { readConfig } from './config';
import { openDatabase } from './database';
import { loadDemo } from './demo/load-demo';
import { migrate } from './migrate';
import { loadScale } from './scale/load-scale';

/**
 * Migrates, and loads the demo when the database is empty. --days N tells a shorter past; --scale adds a million
 * tickets, a tenth of them open, and three million messages.
 */
const config = readConfig({ SESSION_SECRET: 'unused-by-this-command', LEDGER_KEY: 'unused', FILES_DIR: '.', ...process.env });
const days = Number(process.argv[process.argv.indexOf('--days') + 1]) || 90;
const scale = process.argv.includes('--scale');
const knex = openDatabase(config.DATABASE_URL, 2);
const seconds = (since: number) => `${((Date.now() - since) / 1000).toFixed(1)} s`;
try {
  await migrate(knex, config.DATABASE_URL);
  const real = config.DRUMLINE_NOW ? parseInstant(config.DRUMLINE_NOW) : instantOfMillis(Date.now());
  const started = Date.now();
  if (await knex('provider').first('id')) console.log('The database has its data; no demo is loaded.');
  else {
    const files = process.env['FILES_DIR'];
    await loadDemo(knex, { real, days, ...(files ? { blobs: new BlobStore(files) } : {}) });
    console.log(`The demo is loaded in ${seconds(started)}.`);
  }
  if (scale) {
    const began = Date.now();
    await loadScale(knex, { tickets: 1_000_000, open: 100_000, real });
    console.log(`1,000,000 tickets and 3,000,000 messages are added in ${seconds(began)}.`);
  }
} finally {
  await knex.destroy();
}
