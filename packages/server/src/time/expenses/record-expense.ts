import { basename } from 'node:path';
import { worthOfExpense, type ExpenseForm } from '@core/time';
import { CURRENCY_DECIMALS, dateOf, type Id, isRefusal, type Outcome, parseLocalDate, refuse, roundToMinor } from '@core/ground';
import { Big } from 'big.js';
import type { BlobStore } from '../../app/blob-store';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readMeantWork } from '../../ground';
import type { HouseBook } from '../../house';
import { refuseClosed } from '../time-entries/close-days';
import { isExpenseFrozen } from './is-expense-frozen';

type Done = Outcome<{ id: Id<'expense'>; version: number }>;

async function readForm(work: Work, book: HouseBook, form: ExpenseForm) {
  const { currency: house, zone } = book.house;
  const day = parseLocalDate(form.day);
  if (day > dateOf(work.now, zone)) return refuse('invalid', 'An expense is written down once it was spent.', { day: 'not in the future' });
  const closed = await refuseClosed(work, [day]);
  if (closed) return { ...closed, fields: { day: `${day} is closed` } };
  if (!(await work.tx('expense_category').where({ id: form.categoryId }).first('id')))
    return refuse('invalid', 'There is no such category.', { categoryId: 'choose one of the list' });
  const facts = await readMeantWork(work.tx, form.workId);
  if (isRefusal(facts)) return facts;
  if (form.currency !== house && !form.exchange)
    return refuse('invalid', `Say how many ${house} one ${form.currency} was.`, { exchange: `${house} for one ${form.currency}` });
  const exchange = form.currency === house ? null : form.exchange;
  const paid = roundToMinor(new Big(form.paid), 1, form.currency);
  if (!new Big(form.paid).times(10 ** CURRENCY_DECIMALS[form.currency]).eq(paid.minor))
    return refuse('invalid', `${form.paid} has more places than ${form.currency} has.`, { paid: `an amount in ${form.currency}` });
  const { gross, net } = worthOfExpense({ paid, exchange, taxPercent: form.taxPercent }, house);
  return {
    day,
    work_id: facts.id,
    client_id: facts.client_id,
    category_id: form.categoryId,
    paid_minor: paid.minor,
    currency: form.currency,
    exchange,
    gross_minor: gross.minor,
    net_minor: net.minor,
    tax_percent: form.taxPercent,
    note: form.note,
    billable: form.billable,
    markup_percent: form.markupPercent,
    own_money: form.ownMoney,
  };
}

/** Writes an expense down; what it charges is proposed in the same transaction. */
export async function addExpense(work: Work, book: HouseBook, form: ExpenseForm): Promise<Done> {
  const row = await readForm(work, book, form);
  if (isRefusal(row)) return row;
  const [added] = await work
    .tx('expense')
    .insert({ ...row, person_id: work.actor.personId })
    .returning(['id', 'version']);
  return settled(work, added!, 'expense.added');
}

export async function editExpense(
  work: Work,
  book: HouseBook,
  { id, version, form }: { readonly id: Id<'expense'>; readonly version: number; readonly form: ExpenseForm },
): Promise<Done> {
  const [own, row] = [await changeable(work, id), await readForm(work, book, form)];
  if (isRefusal(own)) return own;
  if (isRefusal(row)) return row;
  const changed = await changeRow(work, { table: 'expense', id, version, set: { ...row, approval: 'open' } });
  return isRefusal(changed) ? changed : settled(work, changed, 'expense.changed');
}

export async function removeExpense(work: Work, id: Id<'expense'>, version: number): Promise<Outcome<Record<string, never>>> {
  const own = await changeable(work, id);
  if (isRefusal(own)) return own;
  const changed = await changeRow(work, { table: 'expense', id, version, set: { removed_at: at(work.now) } });
  if (isRefusal(changed)) return changed;
  await settled(work, changed, 'expense.removed');
  return {};
}

/** A receipt goes to an expense that can still be changed; it takes the place of one that is there. */
export async function putReceipt(
  { work, blobs }: { work: Work; blobs: BlobStore },
  id: Id<'expense'>,
  file: { readonly name: string; readonly mediaType: string; readonly bytes: Buffer | undefined },
): Promise<Done> {
  const own = await changeable(work, id);
  if (isRefusal(own)) return own;
  if (!file.bytes?.length) return refuse('invalid', 'The file is empty.', { body: 'the bytes of a picture or PDF' });
  const changed = await changeRow(work, {
    table: 'expense',
    id,
    version: undefined,
    set: {
      receipt_name: basename(file.name.replaceAll('\\', '/')) || 'receipt',
      receipt_type: file.mediaType,
      receipt_bytes: file.bytes.length,
      // On disk before the commit, as with all files.
      receipt_blob: await blobs.put(file.bytes),
    },
  });
  return isRefusal(changed) ? changed : settled(work, changed, 'expense.receipt-put');
}

type Told = 'expense.added' | 'expense.changed' | 'expense.removed' | 'expense.receipt-put';

async function settled(work: Work, done: { id: Id<'expense'>; version: number }, told: Told): Promise<Done> {
  await work.tell(told, done.id, {});
  const { person_id: personId, ticket_id: ticketId } = (await work.tx('expense').where({ id: done.id }).first('person_id', 'ticket_id'))!;
  await work.emit('entry', null, { personId, ticketId });
  return done;
}

async function changeable(work: Work, id: Id<'expense'>): Promise<Outcome<Row<'expense'>>> {
  const row: Row<'expense'> | undefined = await work.tx('expense').where({ id }).whereNull('removed_at').first();
  if (!row) return refuse('not-found', 'There is no such expense.');
  if (row.person_id !== work.actor.personId) return refuse('not-allowed', 'An expense is changed by the one who wrote it down.');
  if (row.approval === 'approved') return refuse('not-possible-now', 'It is approved and locked. Ask who approved it to take that back.');
  const closed = await refuseClosed(work, [row.day]);
  if (closed) return closed;
  return (await isExpenseFrozen(work, id)) ? refuse('not-possible-now', 'Its charge was decided on already.') : row;
}
