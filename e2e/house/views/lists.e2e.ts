import { readdir, readFile, mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { until } from '../../../packages/server/testing/test-server';
import { openStage, type Person } from '../../browser';

const [stage, aoife] = await openStage(['Aoife Brannigan', '/tickets']);
afterEach(() => expect(aoife.troubles).toEqual([]));

const focused = (person: Person) => person.page.evaluate(() => document.activeElement?.textContent?.trim() ?? '');
const rowsDrawn = (person: Person) => person.page.$$eval('tbody tr', (all) => all.length);

describe('a list', () => {
  it('draws only what is near the eyes, gets more as it is scrolled, and keeps its place', async () => {
    await aoife.go('/assets');
    await aoife.sees('dl-list-head', '420 assets');
    await aoife.page.waitForSelector('[data-row]');
    expect(await rowsDrawn(aoife)).toBeLessThan(90);
    // By the keys alone, to the end of all 420: each page comes when its end is near.
    await aoife.focus('[data-row]');
    await until('the last row', async () => {
      await aoife.keys('End');
      const at = await aoife.page.evaluate(() => document.activeElement?.closest('[data-index]')?.getAttribute('data-index'));
      return at === '419';
    });
    expect(await rowsDrawn(aoife)).toBeLessThan(90);
    const last = (await stage.world.knex('asset').orderBy('number', 'desc').first('number')).number;
    expect(await focused(aoife)).toBe(last);
    await aoife.keys('Enter');
    await aoife.sees('h1', last);
    await aoife.page.goBack();
    await aoife.sees('tbody', last);
    await aoife.focus('[data-row]');
    await aoife.keys('Home');
    const first = (await stage.world.knex('asset').orderBy('number').first('number')).number;
    await aoife.page.waitForFunction((n) => document.activeElement?.textContent?.trim() === n, {}, first);
  });

  it('is sorted by pressing a head, and turned by pressing it again', async () => {
    await aoife.go('/clients');
    await aoife.press('th button', 'Open tickets');
    await aoife.page.waitForSelector('th[aria-sort="descending"]');
    const counts = () => aoife.page.$$eval('tbody tr', (all) => all.map((r) => Number(r.querySelectorAll('td.num')[3]!.textContent)));
    const down = await until('sorted', async () => {
      const now = await counts();
      return now.length === 10 && now.every((n, i) => i === 0 || n <= now[i - 1]!) && now;
    });
    await aoife.press('th button', 'Open tickets');
    await until('turned', async () => JSON.stringify(await counts()) === JSON.stringify([...down].reverse()));
    expect(await aoife.address()).toContain('sort=tickets');
  });

  it('shows the columns that a person chooses, and they stand in the address', async () => {
    await aoife.go('/tickets');
    await aoife.press('dl-view-menu button', 'View');
    await aoife.press('dl-view-menu label', 'Kind');
    await aoife.press('dl-view-menu label', 'With');
    await aoife.sees('thead', 'Kind');
    await aoife.gone('thead', 'With');
    await aoife.page.reload();
    await aoife.sees('thead', 'Kind');
  });

  it('is kept as a view by name, which another person opens, and its maker takes away', async () => {
    await aoife.go('/tickets?priority=P3&sort=received&columns=number,subject,kind');
    await aoife.press('dl-view-menu button', 'View');
    await aoife.fill('Name of this view', 'Third and new');
    await aoife.fill('Whom it is for', 'for all');
    await aoife.press('dl-view-menu button', 'Keep');
    await aoife.sees('.menu', 'Third and new');
    const deepa = await stage.person();
    await deepa.enter('Deepa Raghunathan', '/tickets');
    await deepa.press('dl-view-menu button', 'View');
    await deepa.press('dl-view-menu .line button', 'Third and new');
    await deepa.sees('thead', 'Kind');
    expect(decodeURIComponent(await deepa.address())).toContain('priority=P3&sort=received&columns=number,subject,kind');
    await deepa.sees('.menu', 'by Aoife Brannigan');
    await aoife.press('.menu button', 'take away Third and new');
    await aoife.gone('.menu', 'Third and new');
    await deepa.gone('.menu', 'Third and new');
    expect(deepa.troubles).toEqual([]);
  });

  it('goes into a CSV file with every row that fits', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'drumline-csv-'));
    const cdp = await aoife.page.createCDPSession();
    await cdp.send('Browser.setDownloadBehavior', {
      behavior: 'allow',
      downloadPath: folder,
      browserContextId: aoife.page.browserContext().id,
    } as never);
    await aoife.go('/assets');
    await aoife.sees('dl-list-head', '420 assets');
    await aoife.press('dl-view-menu button', 'View');
    await aoife.press('dl-view-menu button', 'All that fit, as CSV');
    const file = await until('the file', async () => (await readdir(folder)).find((f) => f === 'assets.csv'));
    const lines = await until('its rows', async () => {
      const all = (await readFile(join(folder, file), 'utf8')).trimEnd().split('\r\n');
      return all.length > 400 && all;
    });
    expect([lines.length, lines[0]]).toEqual([421, 'Number,Name,Make,Client,Site,Used by,Open tickets']);
  });

  it('assigns many tickets at once, and undo gives each back to whom it had', async () => {
    await aoife.go('/tickets');
    await aoife.page.waitForSelector('[data-row]');
    const before = await stage.world.knex('ticket').where({ status: 'queued' }).orderBy('id').select('id', 'assignee_id');
    await aoife.focus('[data-row]');
    await aoife.keys('x', 'ArrowDown', 'x', 'ArrowDown', 'x');
    await aoife.fill('Assign the chosen to', 'Sora Minegishi');
    await aoife.sees('dl-toast-list', '3 assigned to');
    await aoife.focus('#main');
    await aoife.keys('u');
    await until('all as before', async () => {
      const now = await stage.world.knex('ticket').where({ status: 'queued' }).orderBy('id').select('id', 'assignee_id');
      return JSON.stringify(now) === JSON.stringify(before);
    });
  });
});
