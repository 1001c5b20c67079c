import { makeClock } from '../../app/clock';
import { readConfig } from '../../app/config';
import { openDatabase } from '../../app/database';
import { HouseBook } from '../../house';
import { checkUmbrellas } from './check-umbrellas';

/** Says what is wrong with umbrellas and their members, and ends with 1 where something is. */
const config = readConfig({ SESSION_SECRET: 'unused-by-this-command', LEDGER_KEY: 'unused', FILES_DIR: '.', ...process.env });
const knex = openDatabase(config.DATABASE_URL, 2);
try {
  const book = new HouseBook();
  await book.load(knex);
  const now = makeClock(config.DRUMLINE_NOW, book.house.demo?.clockOffsetSeconds ?? 0).now();
  const { umbrellas, members, findings } = await checkUmbrellas(knex, book, now);
  for (const { what } of findings) console.log(what);
  console.log(
    `${umbrellas} umbrellas, ${members} members now: ${findings.length ? `${findings.length} things are wrong` : 'all is right'}`,
  );
  process.exitCode = findings.length ? 1 : 0;
} finally {
  await knex.destroy();
}
