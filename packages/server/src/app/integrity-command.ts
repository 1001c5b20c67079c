import { checkBooks } from '../billing/books/check-books';
import { checkUmbrellas } from '../desk/umbrellas/check-umbrellas';
import { HouseBook } from '../house';
import { makeClock } from './clock';
import { readConfig } from './config';
import { openDatabase } from './database';

/** Says what is wrong with umbrellas and their members and in the books, and ends with 1 where something is. */
const config = readConfig({ SESSION_SECRET: 'unused-by-this-command', LEDGER_KEY: 'unused', FILES_DIR: '.', ...process.env });
const knex = openDatabase(config.DATABASE_URL, 2);
const verdict = (wrong: readonly unknown[]) => (wrong.length ? `${wrong.length} things are wrong` : 'all is right');
try {
  const book = new HouseBook();
  await book.load(knex);
  const now = makeClock(config.DRUMLINE_NOW, book.house.demo?.clockOffsetSeconds ?? 0).now();
  const { umbrellas, members, findings } = await checkUmbrellas(knex, book, now);
  for (const { what } of findings) console.log(what);
  console.log(`${umbrellas} umbrellas, ${members} members now: ${verdict(findings)}`);
  const books = await checkBooks(knex);
  for (const { rule, at, is, shouldBe } of books.findings) console.log(`${at}: ${rule}: there is ${is}, should be ${shouldBe}`);
  console.log(`${books.documents} documents, ${books.charges} charges: ${verdict(books.findings)}`);
  process.exitCode = findings.length || books.findings.length ? 1 : 0;
} finally {
  await knex.destroy();
}
