import { openStage } from '../../browser';

const [stage, hanna] = await openStage([]);

describe('the contract of a ticket', () => {
  it('is said with what is left, and given another by hand', async () => {
    const ticket = await stage.world
      .knex('ticket as t')
      .join('client as c', 'c.id', 't.client_id')
      .where('c.name', 'like', 'Ostrand%')
      .whereIn('t.status', ['new', 'in work', 'booked', 'queued', 'on hold'])
      .orderBy('t.number')
      .first('t.number');
    await hanna.enter('Hanna Lindqvist', `/tickets/${ticket.number}`);
    await hanna.sees('dl-ticket-contract', '1001 Support hours');
    await hanna.sees('dl-ticket-contract', 'left of');
    await hanna.press('dl-ticket-contract button', 'why');
    await hanna.sees('.why-pop', "the client's only contract");
    await hanna.keys('Escape');
    await hanna.press('dl-ticket-contract button', 'change');
    await hanna.fill('Its contract', 'none: by the hour');
    await hanna.gone('dl-ticket-contract a', '1001');
    await hanna.press('dl-toast-list button', 'Undo');
    await hanna.sees('dl-ticket-contract a', '1001 Support hours');
  });

  it('is meant for some work alone where its contract says so', async () => {
    await hanna.press('dl-ticket-contract a', '1001 Support hours');
    await hanna.press('dl-contract-meant-for button', 'change');
    await hanna.press('dl-record-form .many label', 'alert');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('dl-contract-meant-for', 'only alert');
    await hanna.go('/setup/contracts');
    await hanna.sees('dl-contract-order-page', 'Kinds of ticket');
    await hanna.press('dl-contract-order-page button', 'leave out Kinds of ticket');
    await hanna.sees('dl-contract-order-page', 'Kinds of ticket: not looked at');
    expect(hanna.troubles).toEqual([]);
  });

  it('has its own rates and its own rounding', async () => {
    await hanna.go('/contracts/1001');
    await hanna.press('dl-contract-rates button', 'add a rate');
    await hanna.fill('Rate an hour', '70');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('dl-contract-rates', '€70.00 an hour');
    await hanna.press('dl-contract-rates button', 'add a rule');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('dl-contract-rates', 'up to 15 min, at least 15 min');
    await hanna.press('dl-contract-rates button', 'take away Rates: all work');
    await hanna.sees('dl-contract-rates', 'As for its client');
    await hanna.press('dl-toast-list button', 'Undo');
    await hanna.sees('dl-contract-rates', '€70.00 an hour');
    expect(hanna.troubles).toEqual([]);
  });

  it('has discounts on its lines, prices that rise, and an end after which it goes on', async () => {
    await hanna.press('dl-contract-lines button', 'discount on Support hours');
    await hanna.fill('Percent off its price', '10');
    await hanna.press('dl-record-form button', 'Give it');
    await hanna.sees('dl-line-prices', '10 % off from 24 Nov 2026');
    await hanna.press('dl-contract-lines button', 'raise all prices');
    await hanna.fill('All prices rise by', '2.5');
    await hanna.change('From', '1.1.2027');
    await hanna.press('dl-record-form button', 'Let them rise');
    await hanna.sees('dl-contract-lines', '€1,004.50 from 1 Jan 2027');
    await hanna.press('dl-line-prices button', 'take away this price');
    await hanna.gone('dl-contract-lines', '€1,004.50');
    await hanna.press('dl-toast-list button', 'Undo');
    await hanna.sees('dl-contract-lines', '€1,004.50 from 1 Jan 2027');
    await hanna.press('.page-head button', 'Change');
    await hanna.change('Last day, if any', '31.12.2027');
    await hanna.fill('After its last day', 'it goes on by itself');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('.facts', 'it goes on for 12 months; notice until 1 Dec 2027');
    expect(hanna.troubles).toEqual([]);
  });
});
