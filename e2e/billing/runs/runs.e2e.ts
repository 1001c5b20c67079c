import { openStage, type Person } from '../../browser';

const [stage, ngozi] = await openStage(['Ngozi Adeyemi-Clarke', '/billing']);
const ROW = '[data-invoice]';
const rowOf = (person: Person, client: string) =>
  person.page.$$eval(ROW, (all, c) => all.map((e) => (e as HTMLElement).innerText).find((t) => t.includes(c)) ?? '', client);

/** Waits until the row of an invoice says something else than it did. */
const changed = (row: string) =>
  ngozi.page.waitForFunction(
    (was) => ![...document.querySelectorAll<HTMLElement>('[data-invoice]')].some((e) => e.innerText === was),
    {},
    row,
  );

describe('a billing run', () => {
  it('shows each invoice beside the last one, with why it differs, and its lines', async () => {
    await ngozi.press('dl-run-start a', 'Run for 25 Nov 2026');
    await ngozi.sees('h1', 'Run for 25 Nov 2026');
    await ngozi.sees('.page-head', 'before tax');
    await ngozi.sees(ROW, 'nothing like it was billed before');
    const differs = await ngozi.page.$$eval(`${ROW} > :nth-child(5)`, (all) =>
      all.map((e) => Number((e as HTMLElement).innerText.replace(/[^\d.]/g, '') || 0)),
    );
    expect(differs).toEqual([...differs].sort((a, b) => b - a));
    await ngozi.press(`${ROW} button`, 'Hollin Veterinary Group');
    await ngozi.sees('dl-run-invoice', 'Why it differs');
    await ngozi.sees('dl-run-invoice', 'December 2026');
    expect(await ngozi.accessibility()).toEqual([]);
  });

  it('leaves a line for the next run, waives another, and follows at once', async () => {
    const before = await rowOf(ngozi, 'Hollin');
    await ngozi.press('dl-run-invoice button', 'hold');
    await ngozi.sees('dl-run-invoice', 'held for the next run');
    await changed(before);
    await ngozi.press('dl-run-invoice button', 'put it back');
    await ngozi.gone('dl-run-invoice', 'held for the next run');
    await ngozi.page.waitForFunction(
      (is) => [...document.querySelectorAll<HTMLElement>('[data-invoice]')].some((e) => e.innerText === is),
      {},
      before,
    );
    await ngozi.press('dl-run-invoice button', 'waive');
    await ngozi.press('dl-record-form button', 'Waive it');
    await ngozi.sees('dl-record-form .error', 'say why');
    await ngozi.fill('Why it is waived', 'as promised on the phone');
    await ngozi.press('dl-record-form button', 'Waive it');
    await ngozi.sees('dl-toast-list', 'Waived');
    await ngozi.gone('dl-run-invoice', 'Why it is waived');
    await changed(before);
  });

  it('leaves the keyboard to the row that it is in, though its place changes', async () => {
    await ngozi.focus(`${ROW} .who`);
    const stays = await ngozi.page.evaluate(async (row) => {
      const at = document.activeElement!;
      const mine = at.closest(row)!;
      const [list, next] = [mine.parentElement!, mine.nextSibling];
      list.append(mine);
      await new Promise((drawn) => requestAnimationFrame(drawn));
      const stays = document.activeElement === at;
      list.insertBefore(mine, next);
      return stays;
    }, ROW);
    expect(stays).toBe(true);
  });

  it('is moved through and chosen from by keyboard, and what is held can be undone', async () => {
    await ngozi.focus(`${ROW} .who`);
    await ngozi.keys('ArrowDown', 'x', 'ArrowDown', 'x');
    await ngozi.sees('.page-head', 'Issue the chosen 2');
    await ngozi.press('.page-head button', 'Hold the chosen 2');
    await ngozi.sees('dl-toast-list', '2 invoices held for the next run');
    await ngozi.sees(ROW, 'held for the next run');
    // The newest of what can be taken back; what was held before may still stand beside it.
    await ngozi.keys('u');
    await ngozi.gone(ROW, 'held for the next run');
  });

  it('issues one alone, then the others, each once; another person sees it', async () => {
    const aoife = await stage.person();
    await aoife.enter('Ngozi', new URL(await ngozi.address()).pathname);
    await aoife.sees('h1', 'Run for 25 Nov 2026');
    // Nothing moves while the pointer is on it.
    await aoife.page.mouse.move(640, 20);
    await ngozi.focus(`${ROW} .who`);
    await ngozi.keys('h');
    await ngozi.sees(ROW, 'held for the next run');
    await ngozi.press('dl-run-invoice button', 'Issue this one');
    await aoife.sees(ROW, 'issued');
    await ngozi.press('.page-head button', 'Issue all');
    await ngozi.sees('.page-head', 'done:');
    await aoife.sees('.page-head', 'done:');
    const run = await stage.world.knex('billing_run').where({ on_date: '2026-11-25' }).first('id', 'state');
    const states: { state: string; n: string }[] = await stage.world
      .knex('billing_run_invoice')
      .where({ run_id: run.id })
      .groupBy('state')
      .orderBy('state')
      .select('state')
      .count('* as n');
    expect(states.map((s) => s.state)).toEqual(['held', 'issued']);
    await ngozi.press('dl-run-invoice a', 'is issued');
    await ngozi.sees('h1', 'PH-');
    expect([...ngozi.troubles, ...aoife.troubles]).toEqual([]);
  });

  it('is prepared for a day, and says where that day cannot be read; what was held comes up again', async () => {
    await ngozi.go('/billing?show=runs');
    await ngozi.sees('dl-run-list', '25 Nov 2026');
    await ngozi.change('Run for', 'soonish');
    await ngozi.sees('dl-run-start', 'a day such as');
    await ngozi.change('Run for', '2 Jan 2027');
    await ngozi.press('dl-run-start button', 'Prepare a run');
    await ngozi.sees('h1', 'Run for 2 Jan 2027');
    await ngozi.sees(ROW, 'instead of');
    await ngozi.sees('.page-head', 'to issue');
    await ngozi.press('.page-head button', 'End this run');
    await ngozi.sees('.page-head', 'done: 0 of');
    expect(ngozi.troubles).toEqual([]);
  });

  it('leaves books that agree', async () => {
    const aoife = await stage.person();
    await aoife.enter('Aoife', '/billing?show=books');
    await aoife.press('dl-check-books button', 'Check the books now');
    await aoife.sees('dl-check-books [role=status]', 'the books agree');
    expect(aoife.troubles).toEqual([]);
  });
});
