import type { TicketFeeWire, TicketWire } from '@core/desk';
import { tokenOf } from '../../house/access/secret-address';
import { detailOf, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
let ngozi: Script;
const fees: Record<string, { id: string; version: number }> = {};
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa, ngozi] = [await world.as('Aoife'), await world.as('Deepa'), await world.as('Ngozi')];
  for (const fee of (await aoife.do('listFees')).fees) fees[fee.name] = fee;
});
afterAll(() => world.stop());

const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const feeOf = (ticketId: string): Promise<TicketFeeWire> => aoife.do('getTicketFee', { params: { ticketId } });
const set = (ticketId: string, name: string, quantity = 1) =>
  deepa.ask('setFee', { params: { ticketId }, body: { feeId: fees[name]!.id, quantity } });
const charges = (ticketId: string) => world.knex('charge').where({ ticket_id: ticketId, kind: 'fee' });
let taken: string[] = [];
async function someTicket(): Promise<string> {
  const row = await world
    .knex('ticket as t')
    .join('contact as k', 'k.id', 't.contact_id')
    .where({ 't.status': 'queued', 't.kind': 'incident' })
    .whereNull('t.umbrella_id')
    .whereNotIn('t.id', taken)
    .orderBy('t.number', 'desc')
    .first('t.id');
  taken = [...taken, row.id];
  return row.id;
}

describe('a flat-fee job', () => {
  it('charges its fee once at its quantity; another choice replaces it, and its labour is recorded and not charged', async () => {
    const id = await someTicket();
    const remote = (await deepa.do('getHouse')).activities.find((a) => a.name === 'remote')!;
    await deepa.do('addEntry', {
      body: {
        workId: id,
        startsAt: '2026-11-24T09:30:00Z',
        duration: '20',
        activityId: remote.id,
        note: 'Set up',
        billable: true,
        reason: null,
      },
    });
    expect((await read(id)).charges.some((c) => c.description.includes('Set up'))).toBe(true);
    expect((await set(id, 'Open an account', 2)).body).toMatchObject({ state: 'agreed' });
    const t = await read(id);
    expect([t.kind, t.charges.map((c) => [c.description, c.minor])]).toEqual(['flat-fee job', [['Open an account', 12_000]]]);
    expect(t.minutes).toBe(20);
    const kind = await deepa.ask('changeKind', { params: { ticketId: id }, version: t.version, body: { kind: 'incident' } });
    expect([kind.status, detailOf(kind)]).toEqual([409, expect.stringContaining('Take the fee off first.')]);
    // To a client who pays no tax, the fee goes without.
    const exempt = await world.knex('client').where({ tax_exempt: true }).first('id');
    const back = t.clientId!;
    for (const [clientId, tax] of [
      [exempt.id, 'E'],
      [back, 'S'],
    ]) {
      const { version } = await read(id);
      await aoife.do('moveToClient', { params: { ticketId: id }, version, body: { clientId, contactId: null, seen: true } });
      expect((await charges(id)).map((c) => [c.client_id, c.tax_category])).toEqual([[clientId, tax]]);
    }
    await set(id, 'Close an account', 1);
    await set(id, 'Close an account', 3);
    expect((await charges(id)).map((c) => [c.description, c.net_minor])).toEqual([['Close an account', 13_500]]);
    expect((await feeOf(id)).fee).toMatchObject({
      name: 'Close an account',
      quantity: 3,
      state: 'agreed',
      net: { minor: 13_500, currency: 'EUR' },
    });
  });

  it('is not changed once its fee is decided on, and removed only by who may, with a reason', async () => {
    const id = await someTicket();
    await set(id, 'Prepare a till');
    const [charge] = await charges(id);
    await ngozi.do('decideCharge', {
      params: { chargeId: charge.id },
      version: charge.version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null },
    });
    expect(detailOf(await set(id, 'Prepare a till', 2))).toContain('Its fee is approved already.');
    const remove = (script: Script, reason: string) => script.ask('removeFee', { params: { ticketId: id }, body: { reason } });
    expect((await remove(deepa, 'wrong')).status).toBe(403);
    expect((await remove(ngozi, ' ')).status).toBe(422);
    expect((await remove(ngozi, 'wrong ticket')).status).toBe(409);
    const now = await world.knex('charge').where({ id: charge.id }).first('version');
    await ngozi.do('decideCharge', {
      params: { chargeId: charge.id },
      version: now.version,
      body: { decision: 'reopen', reason: 'wrong ticket', quantity: null, unitPrice: null, description: null, until: null },
    });
    expect((await remove(ngozi, 'wrong ticket')).status).toBe(200);
    const t = await read(id);
    expect([t.kind, await charges(id), t.story.some((s) => s.what === 'took the flat fee off: wrong ticket')]).toEqual([
      'service request',
      [],
      true,
    ]);
  });

  it('asks the client first where they must agree, and charges when they press yes, once', async () => {
    const id = await someTicket();
    expect((await set(id, 'Prepare a tablet', 4)).body).toMatchObject({ state: 'asked' });
    expect(await charges(id)).toEqual([]);
    expect((await read(id)).obstacles.map((o) => o.check)).toContain('fee not agreed');
    const { contactEmail } = await read(id);
    const mail = await until('the question', async () => {
      const all = await world.mailbox();
      return all.find(
        (m) => m.to.some((t) => t.includes(contactEmail!)) && m.text.includes('flat fee: 4 × Prepare a tablet, €140.00 before tax'),
      );
    });
    const path = new URL(/http\S+\/fee\/yes/.exec(mail.text)![0]).pathname;
    expect((await fetch(world.base + path)).status).toBe(200);
    expect(await charges(id)).toEqual([]);
    const press = () => fetch(world.base + path, { method: 'POST', redirect: 'manual' });
    expect([(await press()).status, (await press()).status]).toEqual([303, 303]);
    expect((await charges(id)).map((c) => c.net_minor)).toEqual([14_000]);
    expect((await feeOf(id)).fee!.state).toBe('agreed');
  });

  it('takes a no as a message that owes a reply, and charges nothing', async () => {
    const id = await someTicket();
    await set(id, 'Prepare a tablet');
    const { nonce } = await world.knex('status_link').where({ ticket_id: id }).first('nonce');
    const token = tokenOf(world.running.app, 'follow', nonce);
    await fetch(`${world.base}/follow/${token}/fee/no`, { method: 'POST', redirect: 'manual' });
    const t = await read(id);
    expect([(await feeOf(id)).fee!.state, await charges(id), t.replyOwedSince !== null]).toEqual(['refused', [], true]);
    expect(t.story.find((s) => s.what === 'did not agree to the flat fee')).toMatchObject({ who: t.contact, via: 'page' });
  });

  it('asks at resolving whether it succeeded, and what failed', async () => {
    const id = await someTicket();
    await set(id, 'Open an account');
    expect((await read(id)).obstacles.map((o) => o.check)).toContain('no fee result');
    const say = (body: object) => deepa.ask('setFeeResult', { params: { ticketId: id }, body });
    expect(((await say({ result: 'failed', note: null })).body as { fields: object }).fields).toEqual({ note: 'say what failed' });
    await say({ result: 'failed', note: 'No licence was left.' });
    const t = await read(id);
    expect([t.obstacles.map((o) => o.check), t.story.at(-1)!.what]).toEqual([
      expect.not.arrayContaining(['no fee result']),
      'the job failed: No licence was left.',
    ]);
  });

  it('is pointed out where a ticket looks like one, and stands in the way until it is taken or said to be none', async () => {
    const id = await someTicket();
    await world.knex('ticket').where({ id }).update({ subject: 'Another till for the shop' });
    expect((await feeOf(id)).hint).toMatchObject({ name: 'Prepare a till', why: 'the words "another till"' });
    expect((await read(id)).obstacles.find((o) => o.check === 'missing fee')).toMatchObject({
      what: 'it looks like "Prepare a till, by the words "another till"" and has no flat fee',
      id: fees['Prepare a till']!.id,
    });
    await deepa.do('dismissFeeHint', { params: { ticketId: id } });
    expect([(await feeOf(id)).hint, (await read(id)).obstacles.some((o) => o.check === 'missing fee')]).toEqual([null, false]);
  });

  it('is set when a ticket is opened by hand, and then sorted as one', async () => {
    const contact = await world.knex('contact').where({ name: 'Orla Devane' }).first('id', 'client_id');
    const body = { clientId: contact.client_id, contactId: contact.id, subject: 'One more', text: 'From Monday', byCall: false };
    const made = await deepa.do('createTicket', { body: { ...body, feeId: fees['Open an account']!.id, feeQuantity: 2 } });
    expect((await charges(made.id)).map((c) => c.net_minor)).toEqual([12_000]);
    expect((await aoife.do('getProposals', { params: { ticketId: made.id } })).kind).toMatchObject({ value: 'flat-fee job', sure: true });
  });
});

describe('the fees', () => {
  it('are kept in Setup, with a version, and put away', async () => {
    const item = await world.knex('catalogue_item').where({ name: 'Open an account' }).first('id');
    const body = {
      name: 'Move a desk',
      itemId: item.id,
      asksClient: false,
      categoryId: null,
      words: ['move a desk'],
      forNewPerson: false,
      forNewAsset: false,
    };
    const made = await aoife.do('addFee', { body });
    const wrong = await aoife.ask('addFee', { body: { ...body, itemId: '00000000-0000-4000-8000-000000000000' } });
    expect((wrong.body as { fields: object }).fields).toEqual({ itemId: 'choose one of the catalogue' });
    const edited = await aoife.do('editFee', { params: { feeId: made.id }, version: made.version, body: { ...body, name: 'Move desks' } });
    expect((await aoife.ask('editFee', { params: { feeId: made.id }, version: made.version, body })).status).toBe(412);
    await aoife.do('archiveFee', { params: { feeId: made.id }, version: edited.version });
    expect((await aoife.do('listFees')).fees.map((f) => f.name)).not.toContain('Move desks');
    expect((await deepa.ask('addFee', { body })).status).toBe(403);
  });
});
