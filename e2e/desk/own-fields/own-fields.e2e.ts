import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, aoife] = await openStage(['Aoife Brannigan', '/setup/tickets']);

/** A sorted ticket that can be moved: the client waits for nothing and nothing hangs on it. */
const open = async (kind = 'incident') =>
  stage.world
    .knex('ticket as t')
    .where({ 't.status': 'queued', 't.kind': kind })
    .whereNull('t.umbrella_id')
    .whereNotNull('t.client_id')
    .orderBy('t.number')
    .first('t.id', 't.number', 't.subject');

describe('what tickets are asked for', () => {
  it('is set up with a condition built by hand, shown on the ticket, and stands in the way of a move until it is filled', async () => {
    await aoife.press('dl-setup-list button', 'Add a field');
    await aoife.fill('Name', 'Floor');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-toast-list', 'Saved');
    await aoife.press('dl-setup-list button', 'change Floor');
    await aoife.fill('Shown', 'when all of these hold');
    await aoife.fill('Shown, fact 1', 'kind');
    await aoife.fill('Shown, value 1', 'incident');
    await aoife.fill('Required', 'always');
    await aoife.press('dl-record-form label', 'any move to another status');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('dl-setup-list .line', 'shown when kind is incident; required always, at moving');
    const t = await open();
    await aoife.go(`/tickets/${t.id}`);
    await aoife.sees('dl-ticket-fields', 'must be filled');
    await aoife.press('header button', 'Underway');
    await aoife.sees('dl-before-moving', 'Floor is not filled');
    await aoife.press('dl-before-moving button', 'fill it');
    await aoife.fill('Floor', 'Second');
    await aoife.press('dl-ticket-fields button', 'Save');
    await aoife.sees('dl-before-moving', 'Nothing stands in the way');
    await aoife.press('dl-before-moving button', 'Now it is underway');
    await aoife.sees('header .tag', 'underway');
    await aoife.sees('dl-ticket-fields', 'Second');
  });

  it('names what JSON Logic may not hold at its place, and keeps what was typed', async () => {
    await aoife.go('/setup/tickets');
    await aoife.press('dl-setup-list button', 'Add a condition');
    await aoife.fill('What it says', 'never on a Monday');
    await aoife.fill('It stands in the way', 'as JSON Logic');
    await aoife.focus('dl-rule-builder textarea');
    await aoife.page.keyboard.down('Control');
    await aoife.keys('a');
    await aoife.page.keyboard.up('Control');
    await aoife.page.keyboard.type('{"==": [{"var": "ticket.weather"}, 1]');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-record-form .error', 'a condition, or JSON Logic such as');
    await aoife.focus('dl-rule-builder textarea');
    await aoife.keys('End');
    await aoife.page.keyboard.type('}');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-record-form .error', 'the rule.==[1] speaks of "ticket.weather"');
    expect(await aoife.value('It stands in the way in JSON Logic')).toContain('ticket.weather');
    await aoife.press('dl-record-form button', 'Leave it');
  });

  it('bars a move while a condition holds; past it goes a manager with a reason, on record', async () => {
    await aoife.press('dl-setup-list button', 'Add a condition');
    await aoife.fill('What it says', 'wait for the whole story');
    await aoife.press('dl-record-form label', 'underway');
    await aoife.fill('It stands in the way', 'always');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-setup-list .line', 'wait for the whole story');
    const t = await open('service request');
    await aoife.go(`/tickets/${t.id}`);
    await aoife.press('header button', 'Underway');
    await aoife.sees('dl-before-moving', 'wait for the whole story');
    await aoife.fill('Why it moves all the same', 'they stand at the door');
    await aoife.press('dl-before-moving button', 'Move it');
    await aoife.sees('header .tag', 'underway');
    expect(await stage.world.knex('closing_override').where({ ticket_id: t.id }).first('reason')).toEqual({
      reason: 'they stand at the door',
    });
    await aoife.go('/setup/tickets');
    await aoife.press('dl-setup-list button', 'put away wait for the whole story');
    await aoife.gone('dl-setup-list .line', 'wait for the whole story');
  });
});

describe('own fields of an asset', () => {
  it('are set up with facts of assets, must be filled as it is saved, and stand on its page', async () => {
    await aoife.go('/setup/tickets');
    await aoife.press('dl-setup-list button', 'Add a field');
    await aoife.fill('Name', 'Where its key hangs');
    await aoife.fill('On every', 'asset');
    await aoife.fill('Shown', 'when all of these hold');
    await aoife.fill('Shown, fact 1', 'make');
    await aoife.fill('Shown, value 1', 'Stampwell L2');
    await aoife.fill('Required', 'always');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-setup-list .line', 'on every asset; text; shown when make is Stampwell L2; required always, at saving');
    const printer = await stage.world.knex('asset').where({ make: 'Stampwell L2' }).orderBy('number').first('id', 'number');
    await aoife.go(`/assets/${printer.number}`);
    await aoife.sees('dl.facts', 'must be filled');
    await aoife.press('header button', 'Change');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('dl-record-form .error', 'fill this');
    await aoife.fill('Where its key hangs (must be filled)', 'by the till');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('dl.facts', 'by the till');
    await aoife.sees('dl-story', 'changed Where its key hangs');
    const laptop = await stage.world.knex('asset').whereNot({ make: 'Stampwell L2' }).orderBy('number').first('number');
    await aoife.go(`/assets/${laptop.number}`);
    await aoife.sees('dl.facts', 'Used by');
    await aoife.gone('dl.facts', 'Where its key hangs');
  });
});

describe("statuses under the house's own names", () => {
  it('are added, chosen on a ticket, shown in the list, and undone', async () => {
    await aoife.go('/setup/tickets');
    await aoife.press('dl-setup-list button', 'Add a status');
    await aoife.fill('Name', 'drying');
    await aoife.fill('Waits for', 'supplier');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-setup-list .line', 'stands for on hold, waiting for the supplier: resolution and update hold');
    const t = await open('service request');
    await aoife.go(`/tickets/${t.id}`);
    await aoife.fill('Put on hold', 'drying');
    await aoife.says('header .tag', 'drying');
    await aoife.go(`/tickets?q=${t.number}`);
    await aoife.sees('table.rows', 'drying');
    expect(aoife.troubles).toEqual([]);
  });
});

describe('columns by status', () => {
  it('show a view by where tickets stand; one moves by its menu and by dragging, with undo, and what bars it is said', async () => {
    const t = await open('service request');
    await aoife.go('/tickets?as=columns&kind=service+request');
    await aoife.sees('section[aria-label="queued"]', `#${t.number}`);
    await aoife.fill(`Move #${t.number} to`, 'underway');
    await aoife.sees('section[aria-label="underway"]', `#${t.number}`);
    await aoife.press('dl-toast-list button', 'Undo');
    await aoife.sees('section[aria-label="queued"]', `#${t.number}`);
    const card = await aoife.find('article', `#${t.number}`);
    const into = (await aoife.page.$('section[aria-label="on hold"] .stack'))!;
    const [from, to] = [(await card.boundingBox())!, (await into.boundingBox())!];
    await aoife.page.mouse.move(from.x + 60, from.y + 12);
    await aoife.page.mouse.down();
    await aoife.page.mouse.move(from.x + 90, from.y + 30, { steps: 4 });
    await aoife.page.mouse.move(to.x + 60, to.y + 40, { steps: 12 });
    await aoife.page.mouse.up();
    await aoife.sees('dl-toast-list', `#${t.number} is on hold, waiting for the client`);
    await until('it holds', async () =>
      stage.world.knex('ticket').where({ id: t.id, status: 'on hold', hold_reason: 'client' }).first('id'),
    );
    const barred = await stage.world
      .knex('ticket as t')
      .where({ 't.status': 'queued' })
      .whereNotNull('t.reply_owed_since')
      .whereNull('t.umbrella_id')
      .orderBy('t.number')
      .first('t.number');
    await aoife.go('/tickets?as=columns');
    await aoife.fill(`Move #${barred.number} to`, 'resolved');
    await aoife.sees('dl-toast-list', 'Something stands in the way before it is resolved');
  });
});
