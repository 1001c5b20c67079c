import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle } from 'puppeteer-core';
import { startBilling } from '../../../packages/server/testing/billing';
import { openStage } from '../../browser';

const [stage, ngozi] = await openStage([]);
const CLIENTS = ['Larkspur Seed Co-op', 'Hollin Veterinary Group', 'Saltmarsh Ceramics'];
interface Billed {
  readonly number: string;
  readonly major: string;
}
const billed: Billed[] = [];
beforeAll(async () => {
  const billing = await startBilling(stage.world);
  // Due long ago, so that they are reminded of today.
  await stage.world.knex('client').update({ payment_days: 0 });
  for (const [n, name] of CLIENTS.entries()) {
    const t = await billing.ticketOf(name);
    await billing.record(t.id, `2026-11-19T${String(8 + n).padStart(2, '0')}:00:00Z`, { duration: `${n + 1}h` });
    const { gross } = await billing.clear(t.client_id);
    const body = { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor };
    const { number } = await billing.billing.do('issueInvoice', { body });
    billed.push({ number, major: (gross.minor / 100).toFixed(2) });
  }
  stage.world.clock.forward(8 * 86_400);
});
afterEach(() => expect(ngozi.troubles).toEqual([]));

const folder = mkdtempSync(join(tmpdir(), 'bank-'));
/** Chooses a file of a bank as a person would. */
async function choose(name: string, text: string): Promise<void> {
  writeFileSync(join(folder, name), text);
  const input = (await ngozi.page.waitForSelector('dl-read-bank-file input[type=file]')) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(join(folder, name));
}
const stateOf = async (n: number) => {
  const row = await stage.world
    .knex('invoice_standing as s')
    .join('invoice as i', 'i.id', 's.invoice_id')
    .where('i.number', billed[n]!.number)
    .first(stage.world.knex.raw('i.gross_minor - s.settled_minor as left'));
  return Number(row.left);
};

describe('money from the bank', () => {
  it('is missing: what is overdue stands in the ageing, one client is paused, the others are reminded', async () => {
    await ngozi.enter('Ngozi Adeyemi-Clarke', '/billing?show=ageing');
    await ngozi.sees('dl-ageing tbody', CLIENTS[0]!);
    await ngozi.sees('dl-ageing', 'overdue');
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('.page-head button', 'Reminders');
    await ngozi.sees('dl-reminders header', '3 mails for 3 invoices');
    await ngozi.press('[data-reminder] .who', CLIENTS[1]!);
    await ngozi.sees('.mail', `A reminder: ${billed[1]!.number}`);
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('[data-reminder] button', 'Pause');
    await ngozi.press('dl-record-form button', 'Pause reminders');
    await ngozi.sees('dl-record-form .error', 'write something');
    await ngozi.fill('Why?', 'they promised to pay on Friday');
    await ngozi.press('dl-record-form button', 'Pause reminders');
    await ngozi.sees('dl-reminders header', '2 mails for 2 invoices');
    await ngozi.sees('dl-reminders .line', 'they promised to pay on Friday');
    await ngozi.press('dl-reminders button', 'Send all 2');
    await ngozi.sees('dl-toast-list', '2 reminders on their way');
    await ngozi.sees('dl-reminders', 'Nothing that is overdue has reached its next step');
    await ngozi.press('dl-reminders button', 'end the pause');
    await ngozi.sees('dl-reminders header', '1 mail for 1 invoice');
  });

  it('comes in a file: a wrong one is refused whole, one with unknown columns is asked about once', async () => {
    await ngozi.press('.page-head button', 'Bank');
    await choose('bad.csv', 'Date;Amount;Text\n2026-11-24;much;x\n');
    await ngozi.sees('dl-toast-list', 'Nothing of bad.csv was read. line 2: "much" is no amount of EUR.');
    const rows = [
      `24.11.2026;${billed[0]!.major};LARKSPUR;for ${billed[0]!.number}`,
      `24.11.2026;${billed[1]!.major};HOLLIN;${billed[1]!.number} thank you`,
    ];
    await choose('own.csv', ['Wann;Betrag;Wer;Wofür', ...rows, '24.11.2026;7,00;somebody;a gift', '24.11.2026;-4,00;;fee'].join('\n'));
    await ngozi.sees('dl-read-bank-file form', 'What is what in own.csv?');
    await ngozi.change('Day', 'Wann');
    await ngozi.change('Amount', 'Betrag');
    await ngozi.change('Payer', 'Wer');
    await ngozi.change('Text', 'Wofür');
    await ngozi.press('dl-read-bank-file form button', 'Read it');
    await ngozi.sees('dl-toast-list', '4 new lines');
    await ngozi.sees('[data-line]', CLIENTS[0]!);
    expect(await ngozi.accessibility()).toEqual([]);
    ngozi.troubles.splice(0);
  });

  it('is matched in one press where it is sure, taken back, and matched by keyboard', async () => {
    await ngozi.press('dl-bank-lines button', 'Match all 2 that are sure');
    await ngozi.sees('dl-toast-list', '2 lines matched');
    await ngozi.gone('[data-line]', CLIENTS[0]!);
    expect([await stateOf(0), await stateOf(1)]).toEqual([0, 0]);
    await ngozi.press('dl-toast-list button', 'Undo');
    await ngozi.sees('[data-line]', CLIENTS[0]!);
    expect(await stateOf(0)).toBeGreaterThan(0);
    await ngozi.focus('[data-line]:has(.sure)');
    await ngozi.keys('m');
    await ngozi.sees('dl-toast-list', 'matched');
    await ngozi.press('dl-bank-lines button', 'Match the one that is sure');
    await ngozi.sees('dl-toast-list', '1 line matched');
    for (const client of CLIENTS.slice(0, 2)) await ngozi.gone('[data-line]', client);
    expect([await stateOf(0), await stateOf(1)]).toEqual([0, 0]);
  });

  it('of nobody known is said whose it is, what is over is credit; what is none is left out with a reason', async () => {
    await ngozi.press('[data-line] button', 'Say what it is');
    await ngozi.change('Who paid €7.00?', CLIENTS[2]!);
    await ngozi.sees('dl-match-form', billed[2]!.number);
    await ngozi.fill(`Of it for ${billed[2]!.number}`, '5.00');
    await ngozi.sees('dl-match-form', '€2.00 becomes their credit');
    await ngozi.press('dl-match-form button', 'Match it');
    await ngozi.sees('dl-empty-note', 'Every line is matched or left out');
    await ngozi.press('dl-bank-lines .views button', 'Matched');
    await ngozi.sees('[data-line]', '€2.00 is their credit');
    await ngozi.press('[data-line] button', 'Take back');
    await ngozi.press('dl-bank-lines .views button', 'To match');
    await ngozi.press('[data-line] button', 'Leave out');
    await ngozi.press('dl-bank-lines form button', 'Leave it out');
    await ngozi.sees('dl-bank-lines form', 'say why');
    await ngozi.fill('Why is it no payment of a client?', 'a gift of the bank');
    await ngozi.press('dl-bank-lines form button', 'Leave it out');
    await ngozi.sees('dl-empty-note', 'Every line is matched or left out');
    await ngozi.press('dl-bank-lines .views button', 'Left out');
    await ngozi.sees('[data-line]', 'a gift of the bank');
  });
});
