import { openStage } from '../../browser';

const [, ngozi] = await openStage(['Ngozi Adeyemi-Clarke', '/catalogue']);
afterEach(() => expect(ngozi.troubles).toEqual([]));

describe('the catalogue', () => {
  it('says while typing what a price comes to both ways', async () => {
    await ngozi.press('button', 'Add an item');
    await ngozi.fill('Number', 'GLS-1');
    await ngozi.fill('Name', 'Glass fuse');
    await ngozi.fill('Category', 'Parts');
    await ngozi.fill('Cost', '2');
    await ngozi.fill('Price', '9.99');
    await ngozi.sees('.both', '€9.99 without tax, €12.2877 with tax.');
    await ngozi.fill('That price is', 'with tax');
    await ngozi.sees('.both', '€8.122 without tax, €9.99 with tax.');
    await ngozi.fill('Tax', '13.5 %');
    await ngozi.sees('.both', '€8.8018 without tax');
    await ngozi.fill('Price', 'ten');
    await ngozi.press('dl-record-form button', 'Add the item');
    await ngozi.sees('dl-record-form .error', 'a number with up to 4 places');
    await ngozi.fill('Price', '10.00');
    await ngozi.press('dl-record-form button', 'Add the item');
    await ngozi.sees('h1', 'Glass fuse');
    await ngozi.sees('.facts', 'typed with tax');
    await ngozi.sees('dl-story', 'added Glass fuse');
  });

  it('is narrowed by words and category, which stand in the address', async () => {
    await ngozi.go('/catalogue');
    await ngozi.page.waitForSelector('[data-row]');
    await ngozi.fill('Number or name', 'cable');
    await ngozi.says('dl-list-head [role=status]', '3 items');
    expect(await ngozi.address()).toContain('q=cable');
    await ngozi.fill('Category', 'Cables');
    await ngozi.page.reload();
    await ngozi.says('dl-list-head [role=status]', '3 items');
    await ngozi.fill('Number or name', 'zeppelin');
    await ngozi.sees('dl-empty-note', 'No item fits');
  });

  it('puts many away at once, and takes it back with one key', async () => {
    await ngozi.go('/catalogue?q=cable');
    await ngozi.says('dl-list-head [role=status]', '3 items');
    await ngozi.focus('[data-row]');
    await ngozi.keys('x', 'ArrowDown', 'x');
    await ngozi.sees('.bulk', '2 chosen');
    await ngozi.press('.bulk button', 'Put away');
    await ngozi.sees('dl-toast-list', '2 put away');
    await ngozi.says('dl-list-head [role=status]', '1 items');
    await ngozi.focus('#main');
    await ngozi.keys('u');
    await ngozi.says('dl-list-head [role=status]', '3 items');
  });
});
