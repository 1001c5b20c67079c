import { createHash } from 'node:crypto';
import { basename } from 'node:path';
import { type BankFileForm, type BankStatement, lineKeys } from '@core/billing';
import { type Id, isRefusal, type Money, type Outcome, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

/** So many lines are stored by one statement of SQL. */
const AT_ONCE = 1000;

/**
 * Reads a file of a bank and keeps it with what it says: each statement with the lines that no other had. Nothing of a
 * file that cannot be read to its end is kept.
 */
export async function readBankFile(
  app: App,
  work: Work,
  { bytes, form }: { readonly bytes: Buffer | undefined; readonly form: BankFileForm },
): Promise<Outcome<readonly Id<'bank_statement'>[]>> {
  if (!bytes?.length) return refuse('invalid', 'The file is empty.', { file: 'camt.053 or CSV' });
  const name = basename(form.name.replaceAll('\\', '/')) || 'file';
  const how = {
    currency: work.book.house.currency,
    account: form.account ?? '',
    name,
    columns: form.columns || null,
    dayFirst: form.dayFirst ?? null,
  };
  const statements = await app.banks.read(bytes, how);
  if (isRefusal(statements)) return statements;
  // On disk before the commit, as attachments are.
  const blob = await app.blobs.put(bytes);
  const ids: Id<'bank_statement'>[] = [];
  for (const statement of statements)
    ids.push(await keepStatement(work, { statement, file: { file_name: name, blob, bytes: bytes.length } }));
  return ids;
}

interface ToKeep {
  readonly statement: BankStatement;
  readonly file: { readonly file_name: string; readonly blob: string | null; readonly bytes: number };
}

/** Keeps a statement with the lines that no other had. */
export async function keepStatement(work: Work, { statement, file }: ToKeep): Promise<Id<'bank_statement'>> {
  // Two who read the same at the same time: the second waits, and finds all of it known.
  await work.tx.raw(`select pg_advisory_xact_lock(hashtext('bank_line'), hashtext(?))`, [statement.account]);
  // All that a line says may be longer than what an index takes.
  const keys = lineKeys(statement).map((key) => createHash('sha256').update(key).digest('hex'));
  const known = new Set<string>();
  for (let from = 0; from < keys.length; from += AT_ONCE)
    for (const key of await work
      .tx('bank_line')
      .whereIn('key', keys.slice(from, from + AT_ONCE))
      .pluck('key'))
      known.add(key);
  const fresh = statement.lines.flatMap((line, n) => (known.has(keys[n]!) ? [] : [{ line, position: n + 1, key: keys[n]! }]));
  const { name, account, currency, opening, closing, announced } = statement;
  const [kept] = await work
    .tx('bank_statement')
    .insert({
      ...{ name, account, currency, announced, ...file, ...whoColumns(work.actor) },
      opening_minor: minorOf(opening),
      closing_minor: minorOf(closing),
      lines: fresh.length,
      known: known.size,
      read_at: at(work.now),
    })
    .returning('id');
  const { id } = kept!;
  const rows = fresh.map(({ line, position, key }) => ({
    ...{ statement_id: id, position, key, place: line.place, bank_id: line.bankId, booked_on: line.bookedOn },
    ...{ amount_minor: line.amount.minor, currency, payer: line.payer, payer_account: line.payerAccount, text: line.text },
    state: line.amount.minor > 0 ? ('open' as const) : ('went out' as const),
  }));
  await work.tx.batchInsert('bank_line', rows, AT_ONCE);
  await work.tell('statement.read', id, { file: file.file_name, lines: fresh.length, known: known.size });
  return id;
}

function minorOf(amount: Money | null): number | null {
  return amount && amount.minor;
}
