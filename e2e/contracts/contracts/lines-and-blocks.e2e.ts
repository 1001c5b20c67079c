import { remoteOf, timeForm } from '../../../packages/server/testing/own-client';
import { openStage } from '../../browser';

const [stage, leif, ngozi] = await openStage([], []);

describe('a contract with more than seats', () => {
  it('sells prepaid hours in blocks, each with the next invoice', async () => {
    const { id } = await stage.world.knex('client').where('name', 'like', 'Vantry%').first('id');
    await leif.enter('Leif Sandvik', `/contracts?clientId=${id}`);
    await leif.press('.page-head button', 'Draw up a contract');
    await leif.fill('Client', 'Vantry');
    await leif.fill('Name', 'Tour hours');
    await leif.fill('Begin with', 'prepaid hours');
    await leif.fill('How much: hours, money or tickets', '20');
    await leif.fill('Price of a month', '1800');
    await leif.change('First day', '1.10.2026');
    await leif.press('dl-record-form button', 'Draw it up');
    await leif.sees('dl-contract-cover', 'bought in blocks');
    await leif.sees('dl-contract-lines', 'Prepaid hours, 20 h €1,800.00 once on 1 Oct 2026');
    await leif.press('.page-head button', 'It is agreed');
    await leif.gone('.page-body', 'A draft: it covers no work');
    await leif.press('dl-contract-cover button', 'sell a block');
    await leif.fill('How much: hours, money or tickets', '5');
    await leif.fill('Price of all of it', '475');
    await leif.change('First day', '24.11.2026');
    await leif.change('Last day, if it expires', '31.12.2026');
    await leif.press('dl-record-form button', 'Sell it');
    await leif.sees('dl-contract-cover', '5 h from 24 Nov 2026 to 31 Dec 2026');
    await leif.sees('dl-contract-section', 'of 25 h');
    await leif.sees('dl-contract-section', '€2,275.00');
    await leif.press('dl-contract-lines button', 'take away Prepaid hours, 5 h');
    await leif.gone('dl-contract-cover', '5 h from 24 Nov 2026');
    await leif.press('dl-toast-list button', 'Undo');
    await leif.sees('dl-contract-cover', '5 h from 24 Nov 2026');
  });

  it('bills what a meter says by its tiers, and names the rows that are not understood', async () => {
    await leif.press('dl-contract-lines button', 'add one');
    await leif.fill('Line', 'Storage');
    await leif.fill('Counts', 'what a meter says');
    await leif.fill('Price of one for a period', '0.20');
    await leif.fill('Price of many', 'tiers');
    await leif.press('dl-record-form button', 'Add the line');
    await leif.sees('dl-record-form', 'at least one');
    await leif.press('dl-tiers button', 'add a tier');
    await leif.press('dl-record-form button', 'Add the line');
    await leif.sees('dl-record-form', 'a number with up to 4 places');
    await leif.fill('Above how many, tier 1', '100');
    await leif.fill('Price of each, tier 1', '0.15');
    await leif.press('dl-record-form button', 'Add the line');
    await leif.sees('dl-contract-lines', 'Storage €0.20 each, above 100 €0.15, monthly in arrears');
    await leif.press('dl-contract-lines button', 'add readings of Storage');
    await leif.focus('dl-line-readings textarea');
    await leif.page.evaluate(() => {
      const box = document.querySelector<HTMLTextAreaElement>('dl-line-readings textarea')!;
      box.value = 'Day;Used\n3.11.2026;60\n10.11.2026;75,5;nov-2\nsoon;4';
      box.dispatchEvent(new Event('input'));
    });
    await leif.sees('dl-line-readings', '2 understood, 1 not');
    await leif.sees('dl-line-readings', 'soon is no day');
    await leif.press('dl-line-readings button', 'Record 2');
    await leif.sees('dl-line-readings', 'by hand, nov-2');
    await leif.change('Next invoice on', '1.12.2026');
    // 100 at €0.20 and 35.5 at €0.15.
    await leif.sees('dl-contract-section', '€25.33');
    expect(await leif.accessibility()).toEqual([]);
  });

  it('is amended from a day on, and what was before stays', async () => {
    await leif.go('/contracts/1001');
    await leif.press('dl-contract-cover button', 'amend Hours');
    await leif.change('For periods that begin from', '1.12.2026');
    await leif.fill('How much each period', '16');
    await leif.press('dl-record-form button', 'Let it hold from then');
    await leif.sees('dl-contract-cover', '16 h each period that begins from 1 Dec 2026');
    await leif.sees('dl-contract-section', 'of 12 h');
    await leif.press('dl-contract-cover button', 'take away: Hours from 1 Dec 2026');
    await leif.gone('dl-contract-cover', '16 h each period');
    await leif.press('dl-toast-list button', 'Undo');
    await leif.sees('dl-contract-cover', '16 h each period that begins from 1 Dec 2026');
    await leif.press('dl-contract-cover button', 'change rule 1');
    await leif.change('Last day, if any', '31.12.2026');
    await leif.press('dl-record-form button', 'Save');
    await leif.sees('dl-contract-cover', 'draws on Hours, until 31 Dec 2026');
    expect(leif.troubles).toEqual([]);
  });

  it('is closed for good until the end of a month', async () => {
    const { id, client_id: clientId } = await stage.world.knex('contract').where({ name: 'Tour hours' }).first('id', 'client_id');
    const deepa = await stage.world.as('Deepa');
    const { id: workId } = await stage.world.knex('ticket').where({ client_id: clientId, kind: 'incident' }).first('id');
    const body = timeForm({ workId, activityId: await remoteOf(deepa) }, '2026-10-20T08:00:00Z', '45');
    await deepa.do('addEntry', { body });
    await ngozi.enter('Ngozi Adeyemi-Clarke', `/contracts/${id}`);
    await ngozi.press('dl-contract-closings button', 'close until 31 Oct 2026');
    await ngozi.sees('dl-contract-closings', 'One entry is closed for good');
    await ngozi.press('dl-contract-closings button', 'Close for good');
    await ngozi.sees('dl-contract-closings', 'Closed until 31 Oct 2026');
    await ngozi.press('dl-contract-time button', 'the period before');
    await ngozi.sees('dl-contract-time', 'final');
    await ngozi.sees('dl-story', 'closed it until 2026-10-31');
    expect(ngozi.troubles).toEqual([]);
  });
});
