import { type Actor, byJob, byPerson, bySystem } from '../actor';
import type { Knex } from 'knex';
import {
  dateOf,
  type Id,
  type Instant,
  instantAt,
  isRefusal,
  type LocalDate,
  money,
  parseLocalDate,
  plusDays,
  plusSeconds,
} from '@core/ground';
import { decideCharge } from '../../billing/charges/decide-charge';
import type { HouseBook } from '../../house/house/house-book';
import { issueInvoice } from '../../billing/invoices/issue-invoice';
import { proposeDueOfClient } from '../../billing/runs/prepare-run';
import { takePayment } from '../../billing/payments/take-payment';
import { closePeriods, readClosable } from '../../time/closings/close-periods';
import { at } from '../database';
import { type Work, makeWork } from '../work';
import { type DueInRun, issueOfDemoRun, prepareDemoRun } from './load-demo-runs';
import { loadDemoBank } from './load-demo-bank';
import { loadDemoReminders } from './load-demo-reminders';
import { loadDemoTerms } from './load-demo-terms';
import { loadDemoReview } from './load-demo-review';
import { DEMO_CLIENTS } from './demo-clients';

/** After so many days a client that is slow pays. */
const SLOW_DAYS = 75;

/** Reviews and bills the months before this one, as billing would have on the first of the next. */
export async function billDemoMonths(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, days }: { readonly story: Instant; readonly days: number },
): Promise<void> {
  const billing = (await tx('person').where({ name: 'Ngozi Adeyemi-Clarke' }).first('id', 'name'))!;
  const today = dateOf(story, book.house.zone);
  const quietAt = (now: Instant): Work => ({
    ...makeWork({ tx, now, actor: byPerson({ ...billing, role: 'billing' }, 'web'), book }),
    emit: async () => undefined,
    enqueue: async () => undefined,
  });
  const begins = monthStart(plusDays(today, -days));
  await loadDemoTerms(quietAt(instantAt(begins, 9 * 60, book.house.zone)));
  for (let first = begins; nextMonth(first) <= today; first = nextMonth(first)) {
    const now = instantAt(nextMonth(first), 9 * 60 + 10, book.house.zone);
    if (now > story) break;
    const quiet = quietAt(now);
    await proposeDueOfAll(quiet, nextMonth(first));
    await approveUntil(quiet, nextMonth(first));
    // What is paid in advance is billed as it is due.
    await approve(quiet, (q) => q.where({ cause: 'recurring' }).where('on_date', '<=', nextMonth(first)));
    const run = await prepareDemoRun(quiet, nextMonth(first));
    for (const client of await tx('client').orderBy('number').select('id', 'name', 'payment_days'))
      await issueOfDemoRun(quiet, { run, clientId: client.id }, (due) => billClient(quiet, book, { client, story, due }));
    await tx('billing_run').where({ id: run.id }).update({ state: 'done', asked_by: billing.id });
    await closeMonths(quiet, nextMonth(first));
  }
  const quiet = quietAt(plusSeconds(story, -3600));
  await loadDemoBank(quiet, today);
  await loadDemoReminders(quiet, today);
  await loadDemoReview(quiet, today);
  await approveUntil(quiet, plusDays(today, -8));
  // The run of the day after the story's is looked at already.
  await proposeDueOfAll(quiet, plusDays(today, 1));
  await prepareDemoRun(quiet, plusDays(today, 1));
}

async function proposeDueOfAll(work: Work, on: LocalDate): Promise<void> {
  for (const clientId of await work.tx('client').orderBy('number').pluck('id')) await proposeDueOfClient(work, { clientId, through: on });
}

/** What is billed is closed with it. */
async function closeMonths(work: Work, today: LocalDate): Promise<void> {
  const contractIds: Id<'contract'>[] = await work.tx('contract').whereNotNull('agreed_at').orderBy('number').pluck('id');
  for (const contractId of contractIds) {
    const found = await readClosable(work.tx, { contractId, today });
    const to = isRefusal(found) ? undefined : found.next.at(-1);
    const closed = to === undefined ? {} : await closePeriods(work, { contractId, to });
    if (isRefusal(closed)) throw new Error(closed.detail);
  }
}

function approveUntil(work: Work, day: LocalDate): Promise<void> {
  return approve(work, (q) => q.where('on_date', '<', day));
}

async function approve(work: Work, which: (q: Knex.QueryBuilder) => Knex.QueryBuilder): Promise<void> {
  for (const charge of await work
    .tx('charge')
    .where({ state: 'proposed' })
    .modify((q) => void which(q))
    .orderBy('id')
    .select('id', 'version', 'odd')) {
    const goodwill = charge.odd.includes('no rate');
    await decideCharge(work, {
      chargeId: charge.id,
      version: charge.version,
      form: {
        decision: goodwill ? 'waive' : 'approve',
        reason: goodwill ? 'no rate agreed' : null,
      },
    });
  }
}

async function billClient(
  work: Work,
  book: HouseBook,
  {
    client,
    story,
    due,
  }: { readonly client: { id: string; name: string; payment_days: number }; readonly story: Instant; readonly due: DueInRun },
): Promise<Id<'invoice'> | undefined> {
  if (!due.chargeIds.length) return undefined;
  const issued = await issueInvoice(work, { clientId: client.id, chargeIds: [...due.chargeIds], grossMinor: null }, due.part);
  if (isRefusal(issued)) throw new Error(issued.detail);
  const { tx } = work;
  const invoice = (await tx('invoice').where({ id: issued.id }).first('gross_minor', 'currency'))!;
  const mailed = plusSeconds(work.now, 40);
  const demo = DEMO_CLIENTS.find((c) => c.name === client.name)!;
  const paidAt = plusSeconds(work.now, (demo.slowToPay ? SLOW_DAYS : client.payment_days - 6) * 86_400);
  const paid = paidAt < story;
  await tx('invoice_standing')
    .where({ invoice_id: issued.id })
    .update({ mailed_at: at(mailed), ledger_at: at(mailed), ledger_id: `D-${issued.number}` });
  const later = (now: Instant, actor: Actor = bySystem('ledger')) => ({
    ...makeWork({ tx, now, actor, book }),
    emit: async () => undefined,
  });
  await later(mailed, byJob('delivery')).tell('invoice.mailed', issued.id, { to: `accounts@${demo.domain}` });
  await later(mailed).tell('invoice.booked-in-ledger', issued.id, { ledgerId: `D-${issued.number}` });
  if (!paid) return issued.id;
  const received = {
    clientId: client.id,
    amount: money(invoice.gross_minor, invoice.currency),
    receivedOn: dateOf(paidAt, book.house.zone),
    source: 'ledger' as const,
    externalId: `demo:${issued.number}`,
    reference: `transfer for ${issued.number}`,
  };
  await takePayment(later(paidAt), received, issued.id);
  return issued.id;
}

function monthStart(day: LocalDate): LocalDate {
  return parseLocalDate(`${day.slice(0, 7)}-01`);
}

function nextMonth(first: LocalDate): LocalDate {
  return monthStart(plusDays(first, 32));
}
