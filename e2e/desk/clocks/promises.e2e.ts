import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, aoife] = await openStage(['Aoife Brannigan', '/setup']);
afterEach(() => expect(aoife.troubles).toEqual([]));

describe('promises', () => {
  it('are tried out while they are typed, before anybody depends on them', async () => {
    await aoife.press('a', 'See, change and try out the promises');
    await aoife.sees('dl-try-out', '1 h 30 of 8 h');
    await aoife.change('Resolution P2', '2h');
    await aoife.sees('dl-try-out', '1 h 30 of 2 h, due 11:10');
    await aoife.change('Resolution P2', '1:00');
    await aoife.sees('dl-try-out', 'missed 10:10');
    await aoife.press('dl-try-out button', 'Why: Resolution');
    await aoife.sees('.why-pop', 'on hold: client');
    await aoife.keys('Escape');
    const { n } = (await stage.world.knex('promise_version').count('* as n').first()) as { n: number };
    expect(n).toBe(3);
  });

  it('name what is wrong in a target and in the warnings, and keep what holds', async () => {
    await aoife.change('First reply P1', 'soon');
    await aoife.sees('dl-target-table', 'a time such as 30, 1:30 or 2 h');
    await aoife.change('First reply P1', '20');
    await aoife.gone('dl-target-table', 'a time such as 30');
    await aoife.change('Warn at percent', '75, 50');
    await aoife.sees('dl-target-table', 'whole percentages from 1 to 99 that rise');
    await aoife.change('Warn at percent', '50, 80');
    await aoife.gone('dl-target-table', 'whole percentages');
  });

  it('become the next version, for open tickets only on purpose', async () => {
    const promise = await stage.world.knex('promise').where({ name: 'Standard' }).first('id');
    const open = () =>
      stage.world
        .knex('ticket as t')
        .join('promise_version as v', 'v.id', 't.promise_version_id')
        .where({ 'v.promise_id': promise.id, 'v.version': 1 })
        .whereNotIn('t.status', ['resolved', 'closed'])
        .count('* as n')
        .first()
        .then((r) => Number(r!['n']));
    const before = await open();
    await aoife.press('button', 'Save as version 2');
    await aoife.sees('dl-toast-list', 'Standard, version 2, holds for new tickets');
    await aoife.sees('.who', 'version 2');
    expect([before > 0, await open()]).toEqual([true, before]);
    await aoife.change('Resolution P4', '60h');
    await aoife.click('.buttons input[type=checkbox]');
    await aoife.press('button', 'Save as version 3');
    await aoife.sees('dl-toast-list', 'and for those that are open');
    await until('none is left on the first version', async () => (await open()) === 0);
  });

  it('are changed by one person at a time: the second is told', async () => {
    const hanna = await stage.person();
    await hanna.enter('Hanna Lindqvist', '/setup/promises');
    await hanna.sees('.who', 'version 3');
    await hanna.change('Resolution P1', '5h');
    await aoife.change('Resolution P1', '3h');
    await aoife.press('button', 'Save as version 4');
    await aoife.sees('.who', 'version 4');
    await hanna.press('button', 'Save as version 4');
    await hanna.sees('dl-toast-list', 'Somebody made version 4 meanwhile');
    expect(await hanna.page.$eval('[aria-label="Resolution P1"]', (e) => (e as HTMLInputElement).value)).toBe('5 h');
    expect(hanna.troubles).toEqual([]);
  });
});
