import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, sora] = await openStage([]);
beforeAll(async () => {
  // What the house's own work fills her Monday with is told here alone.
  const own = stage.world.knex('person').where('name', 'like', 'Sora%').select('id');
  await stage.world
    .knex('time_entry')
    .whereIn('person_id', own)
    .where({ billable: false })
    .whereBetween('starts_at', ['2026-11-23T00:00:00Z', '2026-11-23T23:59:59Z'])
    .update({ removed_at: '2026-11-24T09:00:00Z' });
  await sora.enter('Sora Minegishi', '/my-time/sheet');
  await sora.page.waitForSelector('[data-at="0 0"]');
});

const entries = (day: string) =>
  stage.world
    .knex('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .where('p.name', 'like', 'Sora%')
    .whereNull('e.removed_at')
    .where('e.starts_at', '>=', `${day}T00:00:00Z`)
    .where('e.starts_at', '<', `${day}T23:59:59Z`)
    .orderBy('e.starts_at')
    .select('e.id', 'e.minutes', 'e.note', 'e.version');
const total = async (day: string) => (await entries(day)).reduce((sum, e) => sum + e.minutes, 0);
const value = (at: string, who = sora) => who.page.$eval(`[data-at="${at}"]`, (e) => (e as HTMLInputElement).value);
const focused = (who = sora) => who.page.evaluate(() => document.activeElement?.getAttribute('data-at'));
const shows = (at: string, text: string, who = sora) =>
  who.page.waitForFunction((a, t) => document.querySelector<HTMLInputElement>(`[data-at="${a}"]`)?.value === t, {}, at, text);
const paste = (at: string, text: string) =>
  sora.page.evaluate(
    (a, t) => {
      const data = new DataTransfer();
      data.setData('text/plain', t);
      document
        .querySelector(`[data-at="${a}"]`)!
        .dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    },
    at,
    text,
  );

describe('the week sheet', () => {
  it('is typed into as a spreadsheet is: a cell is stored when it is left, by Enter, arrows or Tab', async () => {
    expect(await sora.accessibility()).toEqual([]);
    const before = await total('2026-11-23');
    const was = await value('0 0');
    await sora.focus('[data-at="0 0"]');
    await sora.page.keyboard.type('1.5');
    await sora.keys('Enter');
    expect(await focused()).toBe('1 0');
    await shows('0 0', '1:30');
    const minutes = (t: string) => Number(t.split(':')[0] || 0) * 60 + Number(t.split(':')[1] ?? 0);
    await until('stored', async () => (await total('2026-11-23')) === before - minutes(was) + 90);
    await sora.keys('ArrowUp', 'ArrowRight');
    expect(await focused()).toBe('0 1');
    await sora.keys('ArrowLeft', 'Tab');
    expect(await focused()).toBe('0 1');
    await sora.keys('ArrowLeft');
    await sora.page.keyboard.type('90m');
    await sora.keys('Escape');
    expect(await value('0 0')).toBe('1:30');
  });

  it('says what a cell will do before it is stored, with why, and stores time that is not billable once it is said why', async () => {
    // A cell of charged work with nothing in it.
    const at = await sora.page.$$eval('tbody tr', (all) => {
      const cells = all
        .filter((tr) => /#\d+/.test(tr.innerText) && !tr.innerText.includes('starter'))
        .flatMap((tr) => [...tr.querySelectorAll<HTMLInputElement>('input.cell:not([readonly])')]);
      return cells.find((c) => c.value === '')!.dataset['at']!;
    });
    const day = at.endsWith(' 0') ? '2026-11-23' : '2026-11-24';
    const before = await total(day);
    await sora.focus(`[data-at="${at}"]`);
    await sora.page.keyboard.type('2:20');
    await sora.sees('[aria-label="The cell"] [role=status]', '2 h 20 will be');
    const said = /(€[\d,.]+) to the client/.exec(await sora.text('[aria-label="The cell"] [role=status]'))![1]!;
    await sora.press('[aria-label="The cell"] [role=status] button', 'why');
    await sora.sees('.why-pop', 'worked');
    // Opening the reasons leaves the cell, which stores it.
    await until('stored', async () => (await total(day)) === before + 140);
    const entry = (await entries(day)).find((e) => e.minutes === 140)!;
    const labour = () => stage.world.knex('charge').where({ time_entry_id: entry.id, kind: 'labour' }).sum('net_minor as n').first();
    expect(Number((await labour())!['n'])).toBe(Math.round(Number(said.replace(/[€,]/g, '')) * 100));
    await sora.focus(`[data-at="${at}"]`);
    await sora.press('[aria-label="The cell"] label', 'billable');
    await sora.sees('[aria-label="The cell"] [role=status]', 'not billable, no charge');
    expect(Number((await labour())!['n'])).toBeGreaterThan(0);
    await sora.focus('[aria-label="Why it is not billable"]');
    await sora.page.keyboard.type('our own mistake');
    await sora.keys('Tab');
    await until('not charged', async () => (await labour())!['n'] === null);
    await sora.focus(`[data-at="${at}"]`);
    await sora.page.keyboard.press('Backspace');
    // In the last row Enter leads nowhere, and stores all the same.
    await sora.keys('Enter');
    await until('empty again', async () => (await total(day)) === before);
  });

  it('says what it cannot read where it stands, keeps it, and gives back what was there', async () => {
    await sora.focus('[data-at="0 0"]');
    await sora.page.keyboard.type('soon');
    await sora.keys('Enter');
    await sora.page.waitForSelector('[data-at="0 0"].wrong');
    await sora.focus('[data-at="0 0"]');
    await sora.sees('[aria-label="The cell"]', 'a time such as 25');
    await sora.press('[aria-label="The cell"] button', 'as it was');
    await shows('0 0', '1:30');
  });

  it('takes rows that are suggested or picked, a block from a spreadsheet whole or not at all, and gives one back', async () => {
    await sora.press('button', 'Add a row');
    await sora.press('dl-row-adder button', 'Vans and stock');
    await sora.sees('tbody tr:last-child', 'Vans and stock');
    const last = await sora.page.$$eval('tbody tr', (all) => all.length - 1);
    const before = [await total('2026-11-23'), await total('2026-11-24')];
    await paste(`${last} 0`, '0:30\tlater');
    await sora.sees('dl-toast-list', 'Line 1, column 2 says "later"');
    await paste(`${last} 0`, '0:30\t45m\t\n1:00');
    await sora.sees('dl-toast-list', 'do not fit here');
    expect([await total('2026-11-23'), await total('2026-11-24')]).toEqual(before);
    await paste(`${last} 0`, '0:30\t45m');
    await until(
      'both days',
      async () => (await total('2026-11-23')) === before[0]! + 30 && (await total('2026-11-24')) === before[1]! + 45,
    );
    await shows(`${last} 0`, '0:30');
    await sora.focus(`[data-at="${last} 0"]`);
    await sora.page.keyboard.down('Shift');
    await sora.keys('ArrowRight');
    await sora.page.keyboard.up('Shift');
    const copied = await sora.page.evaluate((at) => {
      const data = new DataTransfer();
      document
        .querySelector(`[data-at="${at}"]`)!
        .dispatchEvent(new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }));
      return data.getData('text/plain');
    }, `${last} 0`);
    expect(copied).toBe('0:30\t0:45');
    await sora.fill('Note', 'Shelves in the store');
    await sora.keys('Tab');
    await until('the note', async () => (await entries('2026-11-23')).some((e) => e.note === 'Shelves in the store'));
  });

  it('says what the hours of suggested rows come to before they are taken', async () => {
    const last = [await total('2026-11-23'), await total('2026-11-24')];
    await sora.press('button', 'Suggest rows');
    await sora.sees('dl-row-suggestions [role=status]', 'charge');
    await sora.press('dl-row-suggestions label', 'with hours');
    await sora.page.waitForFunction(() => !document.querySelector('dl-row-suggestions dl-effect'));
    await sora.press('dl-row-suggestions button', 'Close');
    expect([await total('2026-11-23'), await total('2026-11-24')]).toEqual(last);
  });

  it('lets go of nothing that is typed while another device stores the same cell', async () => {
    const phone = await stage.person();
    await phone.enter('Sora Minegishi', '/my-time/sheet');
    await phone.page.waitForSelector('[data-at="0 0"]');
    const was = await value('0 0');
    const week = () => phone.text('tbody tr:first-child td:last-child');
    const before = await week();
    await phone.focus('[data-at="0 0"]');
    await phone.page.keyboard.type('0:4');
    await sora.focus('[data-at="0 0"]');
    await sora.page.keyboard.type('3:10');
    await sora.keys('Enter');
    await until('the phone to know', async () => (await week()) !== before);
    expect(await value('0 0', phone)).toBe('0:4');
    await phone.page.keyboard.type('5');
    await phone.keys('Enter');
    await phone.page.waitForSelector('[data-at="0 0"].meanwhile');
    await phone.focus('[data-at="0 0"]');
    await phone.sees('[aria-label="The cell"]', '3 h 10 stand there meanwhile; you typed 0:45');
    await phone.press('[aria-label="The cell"] button', 'leave theirs');
    await shows('0 0', '3:10', phone);
    await sora.focus('[data-at="0 0"]');
    await sora.page.keyboard.type(was);
    await sora.keys('Enter');
    await shows('0 0', was, phone);
    await phone.page.close();
  });

  it('shows the second of two devices what the first stored, and lets it choose', async () => {
    const phone = await stage.person();
    await phone.enter('Sora Minegishi', '/my-time/sheet');
    await phone.page.waitForSelector('[data-at="0 0"]');
    await phone.page.setRequestInterception(true);
    phone.page.on(
      'request',
      (r) => void (r.url().endsWith('/live') || (r.method() === 'GET' && r.url().includes('week-sheet')) ? r.abort() : r.continue()),
    );
    await sora.focus('[data-at="0 0"]');
    await sora.page.keyboard.type('2:00');
    await sora.keys('Enter');
    const day = '2026-11-23';
    await until('two hours', async () => (await entries(day)).some((e) => e.minutes === 120));
    await phone.focus('[data-at="0 0"]');
    await phone.page.keyboard.type('0:45');
    await phone.keys('Enter');
    await phone.page.waitForSelector('[data-at="0 0"].meanwhile');
    phone.page.removeAllListeners('request');
    await phone.page.setRequestInterception(false);
    await phone.focus('[data-at="0 0"]');
    await until('what stands there', async () => {
      await phone.page.evaluate(() => window.dispatchEvent(new Event('online')));
      return (await phone.text('[aria-label="The cell"]')).includes('meanwhile; you typed 0:45');
    });
    await phone.page.reload();
    await phone.page.waitForSelector('[data-at="0 0"].meanwhile');
    await phone.focus('[data-at="0 0"]');
    await phone.sees('[aria-label="The cell"]', '2 h stand there meanwhile');
    await phone.press('[aria-label="The cell"] button', 'Mine after all');
    await shows('0 0', '0:45');
    expect((await entries(day)).some((e) => e.minutes === 45)).toBe(true);
  });

  it('keeps what is typed without a connection, over a closed window too, and sends it later', async () => {
    const before = await total('2026-11-24');
    const was = (await value('0 1')) || '0:00';
    await sora.page.setOfflineMode(true);
    await sora.focus('[data-at="0 1"]');
    await sora.page.keyboard.type('0:20');
    await sora.keys('Enter');
    await sora.page.waitForSelector('[data-at="0 1"].waiting');
    expect(await total('2026-11-24')).toBe(before);
    await sora.page.setOfflineMode(false);
    await sora.go('/tickets');
    await sora.go('/my-time/sheet');
    const [h, m] = was.split(':').map(Number) as [number, number];
    await until('sent later', async () => (await total('2026-11-24')) === before - (h * 60 + m) + 20);
    await sora.page.waitForSelector('[data-at="0 1"]:not(.waiting)');
    expect(await value('0 1')).toBe('0:20');
  });

  it('keeps what stands in a cell that was not left yet when the window is closed', async () => {
    const before = await total('2026-11-24');
    const [h = 0, m = 0] = ((await value('0 1')) || '0:00').split(':').map(Number);
    await sora.focus('[data-at="0 1"]');
    await sora.page.keyboard.type('0:35');
    await sora.go('/tickets');
    await sora.go('/my-time/sheet');
    await until('stored', async () => (await total('2026-11-24')) === before - (h * 60 + m) + 35);
    expect(sora.troubles).toEqual([]);
  });
});
