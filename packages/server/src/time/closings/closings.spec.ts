import { coverRule } from '../../../testing/contract-forms';
import { drawnContract } from '../../../testing/drawn-contract';
import { ownClient } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let deepa: Script;
beforeAll(async () => {
  world = await startWorld();
  [hanna, deepa] = [await world.as('Hanna'), await world.as('Deepa')];
});
afterAll(() => world.stop());

async function drawn(preset: string, grant: string) {
  const found = await drawnContract({ world, hanna, deepa }, { preset, grant });
  const params = { contractId: found.contractId };
  return {
    ...found,
    close: (to: string, script = hanna) => script.ask('closePeriods', { params, body: { to } }),
    closings: () => hanna.do('getClosings', { params }),
  };
}

describe('periods of a contract', () => {
  it('are closed for good: what their entries drew stays, and late work draws on what is left', async () => {
    const { contractId, contract, form, record, drew, close, closings } = await drawn('hours each month', '2');
    const october = await record('2026-10-20T08:00:00Z', '90');
    const over = await record('2026-10-21T08:00:00Z', '60');
    const november = await record('2026-11-20T08:00:00Z', '60');
    expect(await closings()).toMatchObject({
      closedTo: null,
      next: [
        { to: '2026-10-01', entries: 0 },
        { to: '2026-11-01', entries: 2, undecided: 1 },
      ],
    });
    expect((await close('2026-11-15')).body).toMatchObject({ status: 422, fields: { to: '2026-10-01 or 2026-11-01' } });
    expect((await close('2026-12-01')).status).toBe(422);
    expect((await close('2026-11-01', deepa)).status).toBe(403);
    expect((await close('2026-11-01')).body).toEqual({ entries: 2 });
    expect(await closings()).toEqual({ closedTo: '2026-11-01', next: [] });
    expect((await close('2026-11-01')).body).toMatchObject({ status: 422, fields: { to: 'nothing is over that is open' } });
    // Nobody changes or removes what is closed.
    const entry = await world.knex('time_entry').where({ id: october }).first('version');
    const changed = await deepa.ask('editEntry', {
      params: { entryId: october },
      version: entry.version,
      body: form('2026-10-20T08:00:00Z', '30'),
    });
    expect(changed.status).toBe(409);
    // More hours now: what is open is rated by them, what is closed is not.
    const [{ id: allowanceId, later: _l, blocks: _b, ...allowance }] = (await contract()).allowances as never as [
      { id: string; later: []; blocks: [] },
    ];
    const edit = async (grant: string) =>
      hanna.do('editAllowance', {
        params: { contractId, allowanceId },
        version: (await contract()).version,
        body: { ...allowance, grant } as never,
      });
    await edit('4');
    expect([await drew(october), await drew(over), await drew(november)]).toEqual([
      ['2026-10-01 90'],
      ['2026-10-01 30'],
      ['2026-11-01 60'],
    ]);
    // Late work of October takes what is left of it: 4 h less 2 h that are closed.
    const late = await record('2026-10-10T08:00:00Z', '150');
    expect(await drew(late)).toEqual(['2026-10-01 120']);
    expect((await closings()).next).toEqual([]);
    await edit('2');
    expect(await drew(late)).toEqual(['overage']);
    expect(await drew(october)).toEqual(['2026-10-01 90']);
    // The page shows all of the month, and what is left of it.
    const time = await hanna.do('getContractTime', { params: { contractId }, query: { on: '2026-10-15' } });
    expect(time.draws.map((d) => [d.entryId === late, d.frozen])).toEqual([
      [false, true],
      [false, true],
      [true, false],
    ]);
    expect(time.allowances[0]).toMatchObject({ left: 0, used: 120, points: expect.arrayContaining([{ on: '2026-10-20', left: 30 }]) });
    const { story } = await contract();
    expect(story.some((s) => s.what.includes('closed it until 2026-10-31: 2 entries'))).toBe(true);
  });

  it('count a ticket once, also where its first work is closed, and a cap as it was used', async () => {
    const { contractId, contract, record, drew, close } = await drawn('tickets each month', '1');
    const first = await record('2026-10-20T08:00:00Z', '30');
    await close('2026-11-01');
    // Its ticket is counted already, so the one of November is there for another.
    expect([await drew(first), await drew(await record('2026-11-20T08:00:00Z', '30'))]).toEqual([['2026-10-01 1'], ['covered']]);
    const capped = await drawn('hours each month', '10');
    const rules = [coverRule({ allowanceId: capped.allowanceId, cap: '1' })];
    await hanna.do('setCover', { params: { contractId: capped.contractId }, version: (await capped.contract()).version, body: { rules } });
    await capped.record('2026-10-20T08:00:00Z', '45');
    await capped.close('2026-11-01');
    expect(await capped.drew(await capped.record('2026-10-21T08:00:00Z', '30'))).toEqual(['2026-10-01 15']);
    expect((await contract()).id).toBe(contractId);
  });

  it('sum up what their entries drew, month after month, as adding all of it up again does', async () => {
    const { contractId, record, close } = await drawn('hours each month', '2');
    for (const day of ['2026-09-02', '2026-09-02', '2026-09-20', '2026-10-05']) await record(`${day}T08:00:00Z`, '45');
    await close('2026-10-01');
    await record('2026-09-25T08:00:00Z', '30');
    await close('2026-11-01');
    const { draws } = await world.knex('contract_closed').where({ contract_id: contractId }).first('draws');
    const again = await world.knex.raw(
      `select (e.starts_at at time zone 'Europe/Dublin')::date::text as on, d->>'lot' as lot, sum((d->>'units')::int)::int as units
         from closed_entry z join time_entry e on e.id = z.entry_id join entry_effect x on x.time_entry_id = e.id,
         jsonb_array_elements(x.effect->'under'->'stretches') s, jsonb_array_elements(s->'draws') d
        where e.contract_id = ? group by 1, 2 order by 1, 2`,
      [contractId],
    );
    const sums = draws.map((d: { on: string; lot: string; units: number }) => ({ on: d.on, lot: d.lot, units: d.units }));
    expect(sums.sort((a: { on: string }, b: { on: string }) => (a.on < b.on ? -1 : 1))).toEqual(again.rows);
    expect(again.rows.map((r: { units: number }) => r.units)).toEqual([90, 30, 45]);
  });

  it('are closed once by two at the same time, and never opened', async () => {
    const { contractId, record, close } = await drawn('hours each month', '2');
    await record('2026-10-20T08:00:00Z', '90');
    const both = await Promise.all([close('2026-11-01'), close('2026-11-01')]);
    expect(both.map((b) => b.status).sort()).toEqual([200, 422]);
    expect(await world.knex('contract_closing').where({ contract_id: contractId })).toHaveLength(1);
    for (const table of ['contract_closing', 'closed_entry']) await expect(world.knex(table).delete()).rejects.toThrow('append-only');
  });

  it('are none of a contract that covers no work', async () => {
    const { clientId } = await ownClient(world);
    const body = {
      clientId,
      name: 'Seats',
      startsOn: '2026-09-01',
      lastDay: null,
      preset: 'by the hour',
      grant: null,
      price: null,
    } as const;
    const { id: contractId } = await hanna.do('createContract', { body });
    expect(await hanna.do('getClosings', { params: { contractId } })).toEqual({ closedTo: null, next: [] });
  });
});
