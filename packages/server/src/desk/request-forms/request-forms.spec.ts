import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let day: string;
let category: string;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
  category = (await aoife.do('listCategories')).categories.find((c) => c.name === 'Files')!.id;
  day = (
    await aoife.do('addOwnField', {
      body: { name: 'Moving day', on: 'ticket', kind: 'date', choices: [], shown: true, required: true, asked: ['opening'] },
    })
  ).id;
});
afterAll(() => world.stop());

const BODY = { name: 'We move', intro: 'Tell us where to.', kind: 'service request' } as const;
const at = (path: string) => `http://127.0.0.1:${world.running.port}/request/${path}`;
const send = async (path: string, typed: Record<string, string>) => {
  const answer = await fetch(at(path), { method: 'POST', body: new URLSearchParams(typed) });
  return { status: answer.status, page: await answer.text() };
};

describe('request forms', () => {
  it('stand at their address, once, and ask for nothing that nobody outside may see', async () => {
    await aoife.do('addRequestForm', { body: { ...BODY, path: 'we-move', categoryId: category, fields: [day] } });
    expect(
      (await aoife.ask('addRequestForm', { body: { ...BODY, name: 'Other', path: 'WE-MOVE', categoryId: null, fields: [] } })).body,
    ).toMatchObject({
      fields: { path: 'another address' },
    });
    expect(
      (await aoife.ask('addRequestForm', { body: { ...BODY, name: 'Odd', path: 'we move', categoryId: null, fields: [] } })).status,
    ).toBe(422);
    const inside = await aoife.do('addOwnField', {
      body: { name: 'Whose', on: 'ticket', kind: 'person', choices: [], shown: true, required: false, asked: [] },
    });
    const no = await aoife.ask('addRequestForm', { body: { ...BODY, name: 'Spy', path: 'spy', categoryId: null, fields: [inside.id] } });
    expect(detailOf(no)).toContain('nobody outside may see');
    const rack = await aoife.do('addOwnField', {
      body: { name: 'Rack', on: 'asset', kind: 'text', choices: [], shown: true, required: false, asked: [] },
    });
    const odd = await aoife.ask('addRequestForm', { body: { ...BODY, name: 'Odd', path: 'odd', categoryId: null, fields: [rack.id] } });
    expect(detailOf(odd)).toBe('Rack is a field of every asset, not of tickets.');
    expect((await fetch(at('nowhere'))).status).toBe(404);
    expect(await (await fetch(at('we-move'))).text()).toContain('Moving day');
  });

  it('name what is missing and keep what was typed', async () => {
    const { status, page } = await send('we-move', {
      name: 'Orla Devane',
      email: 'not an address',
      subject: '<b>Desk</b>',
      text: 'Two desks.',
    });
    expect([status, page.includes('Nothing you typed is lost'), page.includes('&#60;b&#62;Desk'), page.includes('Two desks.')]).toEqual([
      422,
      true,
      true,
      true,
    ]);
    const bare = await send('we-move', { name: 'Orla Devane', email: 'orla.devane@hollin.example', subject: 'Desk', text: 'Two desks.' });
    expect([bare.status, bare.page.includes('Please fill Moving day.')]).toEqual([422, true]);
    const odd = await send('we-move', { name: 'O', email: 'orla.devane@hollin.example', subject: 'Desk', text: 'x', [day]: '31.12.2026' });
    expect([odd.status, odd.page.includes('a date such as 2026-11-24')]).toEqual([422, true]);
    expect(await world.knex('ticket').whereNotNull('request_form_id').first('id')).toBeUndefined();
  });

  it('land unsorted, with the contact known by address, the fields filled, and kind and category proposed for sure', async () => {
    const typed = {
      name: 'Orla Devane',
      email: 'Orla.Devane@hollin.example',
      subject: 'Two desks',
      text: 'To the upper floor.',
      [day]: '2026-12-01',
    };
    expect((await send('we-move', typed)).status).toBe(200);
    const row = await world.knex('ticket').whereNotNull('request_form_id').first();
    const t = await aoife.do('getTicket', { params: { ticketId: row.id } });
    expect([
      t.kind,
      t.contact,
      t.client,
      t.fields.find((f) => f.id === day)!.words,
      t.messages[0]!.text,
      t.messages[0]!.fromClient,
    ]).toEqual(['unsorted', 'Orla Devane', 'Hollin Veterinary Group', '2026-12-01', 'To the upper floor.', true]);
    const p = await aoife.do('getProposals', { params: { ticketId: row.id } });
    expect([p.kind?.value, p.kind?.sure, p.category?.value, p.category?.why]).toEqual([
      'service request',
      true,
      category,
      [{ rule: 'it came by the request form', figure: { value: 'We move' } }].map((s) => expect.objectContaining({ rule: s.rule })),
    ]);
    expect(t.clocks.find((c) => c.clock === 'triage')!.state).toBe('running');
    expect(t.story[0]).toMatchObject({ who: 'Orla Devane', what: 'opened it with the form We move', via: 'page' });
  });

  it('take a stranger as a stranger, and open nothing for what only machines fill', async () => {
    const before = Number((await world.knex('ticket').count('* as n').first())!['n']);
    const typed = { name: 'Somebody', email: 'somebody@nowhere.example', subject: 'Hello', text: 'Hello.', [day]: '2026-12-01' };
    expect((await send('we-move', { ...typed, website: 'spam.example' })).status).toBe(200);
    expect(Number((await world.knex('ticket').count('* as n').first())!['n'])).toBe(before);
    expect((await send('we-move', typed)).status).toBe(200);
    const row = await world.knex('ticket').where({ sender_email: 'somebody@nowhere.example' }).first();
    expect([row.client_id, row.contact_id, row.sender_name]).toEqual([null, null, 'Somebody']);
  });
});
