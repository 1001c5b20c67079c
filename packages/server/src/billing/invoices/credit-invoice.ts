import { type AskedCredit, creditNote, type CreditForm, type EarlierCredit, type InvoiceToCredit, leftToCredit } from '@core/billing';
import { formatMoney, type Id, isRefusal, type Outcome, parseMoney, type Refusal, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { chargeEntry } from '../charges/charge-entry';
import { decideCharge } from '../charges/decide-charge';
import { settleWithCreditNote } from '../payments/settle-invoice';
import { issueDocument } from './issue-document';
import { readDocuments } from './read-documents';

/**
 * Issues a credit note of an invoice, whole or in part. What is left of the invoice is settled by it; the rest is the
 * client's credit. Where the billing is undone, what is billed with nothing any more waits for a decision again.
 */
export async function creditInvoice(
  work: Work,
  invoiceId: Id<'invoice'>,
  form: CreditForm,
): Promise<Outcome<{ id: Id<'invoice'>; number: string }>> {
  const { tx } = work;
  const row: Row<'invoice'> | undefined = await tx('invoice').where({ id: invoiceId }).forUpdate().first();
  if (!row) return refuse('not-found', 'There is no such invoice.');
  if (row.kind !== 'invoice') return refuse('not-possible-now', `${row.number} is a credit note; only an invoice is credited.`);
  const [invoice, earlier] = await Promise.all([invoiceToCredit(tx, invoiceId), earlierCredits(tx, invoiceId)]);
  const asked = askedCredits(form, invoice, earlier);
  if (isRefusal(asked)) return asked;
  const draft = creditNote(invoice, earlier, { asked, undoes: form.undoes });
  if (draft.is !== 'credit note') return refuseDraft(draft);
  const client = (await tx('client').where({ id: row.client_id }).first())!;
  const { reason, undoes } = form;
  const note = await issueDocument(work, {
    kind: 'credit note',
    client,
    lines: draft.lines,
    totals: draft.totals,
    corrects: { id: invoiceId, buyer: row.buyer, reason, undoes },
  });
  await work.tell('invoice.credited', invoiceId, { creditNoteId: note.id, number: note.number, gross: draft.totals.gross, undoes, reason });
  await settleWithCreditNote(work, invoiceId, note.id);
  if (!undoes) return note;
  const opened = await openCharges(
    work,
    draft.lines.flatMap((l) => l.links).map((l) => l.chargeId),
    note.number,
  );
  return isRefusal(opened) ? opened : note;
}

async function invoiceToCredit(db: Db, invoiceId: Id<'invoice'>): Promise<InvoiceToCredit> {
  const [invoice] = await readDocuments(db, [invoiceId]);
  const { currency, lines, totals } = invoice!;
  return { currency, lines, groups: totals.groups };
}

/** The credit notes of an invoice that are issued already, in their order. */
export async function earlierCredits(db: Db, invoiceId: Id<'invoice'>): Promise<EarlierCredit[]> {
  const ids: string[] = await db('invoice').where({ corrects_id: invoiceId }).orderBy(['issued_at', 'number']).pluck('id');
  return (await readDocuments(db, ids)).map(({ lines, totals }) => ({ lines, groups: totals.groups }));
}

/** What was asked for, in the invoice's currency; all that is left where no line was named. */
function askedCredits({ lines }: CreditForm, invoice: InvoiceToCredit, earlier: readonly EarlierCredit[]): Outcome<AskedCredit[]> {
  if (lines === null)
    return leftToCredit(invoice, earlier).flatMap((net, n) => (net ? [{ position: invoice.lines[n]!.position, net }] : []));
  const asked: AskedCredit[] = [];
  for (const [n, { position, net: typed }] of lines.entries()) {
    const net = parseMoney(typed, invoice.currency);
    if (!net)
      return refuse('invalid', `"${typed}" is no amount of ${invoice.currency}.`, { [`lines[${n}].net`]: 'an amount such as 120.50' });
    asked.push({ position, net });
  }
  return asked;
}

type Fault = Exclude<ReturnType<typeof creditNote>, { is: 'credit note' }>;

function refuseDraft(fault: Fault): Refusal {
  switch (fault.is) {
    case 'empty':
      return refuse('not-possible-now', 'All of this invoice is credited already.');
    case 'no line':
      return refuse('invalid', `There is no line ${fault.position}, or it is named twice.`, {
        lines: 'each line of the invoice once at most',
      });
    case 'too much':
      return refuse('invalid', `Line ${fault.position} has ${formatMoney(fault.left)} left to credit.`, {
        lines: `line ${fault.position}: at most ${formatMoney(fault.left)}, and not nothing`,
      });
  }
}

/** Charges that no document bills any more wait for a decision again, and time is rated again. */
async function openCharges(work: Work, chargeIds: readonly Id<'charge'>[], number: string): Promise<Outcome<unknown>> {
  const free: Row<'charge', 'id' | 'version' | 'time_entry_id'>[] = await work
    .tx('charge')
    .whereIn('id', [...new Set(chargeIds)])
    .whereNull('billed_minor')
    .orderBy('id')
    .select('id', 'version', 'time_entry_id');
  for (const charge of free) {
    const decided = await decideCharge(work, {
      chargeId: charge.id,
      version: charge.version,
      form: {
        decision: 'reopen',
        reason: `its billing was undone by ${number}`,
      },
    });
    if (isRefusal(decided)) return decided;
  }
  const entries = new Set(free.flatMap((c) => c.time_entry_id ?? []));
  for (const entryId of entries) await chargeEntry(work, work.book, entryId);
  return {};
}
