import type { ChargeWire, OddityName } from '@core/billing';
import type { Id } from '@core/ground';
import { startBilling } from '../../../testing/billing';
import { startWorld, type World } from '../../../testing/test-server';
import { reviewCharges } from '../approval-rules/approve-by-rule';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
let ticket: { id: Id<'ticket'>; client_id: Id<'client'> };
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
  ticket = await stage.ticketOf('Brackwater Ferries');
});
afterAll(() => world.stop());

const ofEntry = (id: string) => stage.chargeOf(id);
const odd = async (id: string) => (await ofEntry(id)).odd;
const waiting = async (query: Record<string, string> = {}) =>
  (await stage.billing.do('listCharges', { query: { state: 'proposed', ...query } })).rows.map((c) => c.id);
const sums = (query: Record<string, string> = {}) => stage.billing.do('listChargeClients', { query: { state: 'proposed', ...query } });
const decide = (charge: ChargeWire, form: Parameters<typeof stage.decide>[1]) => stage.decide(charge.id, form);

describe('what is odd about a charge', () => {
  it('is said with its figures, follows the estimate, and can be asked for', async () => {
    const entry = await stage.record(ticket.id, '2026-11-24T08:00:00Z', { duration: '95' });
    const spent = async () =>
      Number((await world.knex('time_entry').where({ ticket_id: ticket.id }).whereNull('removed_at').sum('minutes as n').first())!.n);
    const plan = (minutes: number | null) => stage.technician.do('setEstimate', { params: { ticketId: ticket.id }, body: { minutes } });
    await plan((await spent()) - 5);
    expect(await odd(entry.id)).toEqual([
      { is: 'above estimate', has: String(await spent()), beside: String((await spent()) - 5), of: null },
    ]);
    const oddIs: OddityName = 'above estimate';
    expect(await waiting({ oddIs })).toContain((await ofEntry(entry.id)).id);
    expect((await sums()).oddities).toContainEqual({ is: oddIs, charges: (await waiting({ oddIs })).length });
    // More that is recorded on the ticket is more on each of its charges; who has one open can still decide on it.
    const { version } = await ofEntry(entry.id);
    await stage.record(ticket.id, '2026-11-24T10:00:00Z', { duration: '10' });
    expect((await odd(entry.id))[0]!.has).toBe(String(await spent()));
    expect((await ofEntry(entry.id)).version).toBe(version);
    await plan(null);
    expect(await odd(entry.id)).toEqual([]);
    expect(await waiting({ oddIs })).not.toContain((await ofEntry(entry.id)).id);
    expect((await stage.billing.ask('listCharges', { query: { oddIs: 'strange' } })).status).toBe(422);
  });

  it('is a rate that differs from what the client paid for the like', async () => {
    const entries = [];
    for (const hour of ['09', '10', '11', '12', '13', '14'])
      entries.push(await stage.record(ticket.id, `2026-11-19T${hour}:00:00Z`, { duration: '15' }));
    for (const { id } of entries.slice(1)) expect((await decide(await ofEntry(id), { decision: 'approve' })).status).toBe(200);
    const usual = await ofEntry(entries[0]!.id);
    expect((await decide(usual, { decision: 'adjust', reason: 'agreed', unitPrice: String(Number(usual.unitPrice) * 2) })).status).toBe(
      200,
    );
    expect(await odd(entries[0]!.id)).toEqual([
      { is: 'unusual rate', has: String(Number(usual.unitPrice) * 2), beside: usual.unitPrice, of: null },
    ]);
  });

  it('is age, by the limit that the house sets', async () => {
    const entry = await stage.record(ticket.id, '2026-11-17T09:00:00Z', { duration: '20' });
    const limit = async (oldDays: number) => {
      const { version, ratePercent } = await stage.billing.do('listApprovalRules');
      await stage.billing.do('setChargeReview', { version, body: { oldDays, ratePercent } });
    };
    await limit(6);
    expect(await odd(entry.id)).toEqual([{ is: 'old', has: '7', beside: '6', of: null }]);
    await limit(7);
    expect(await odd(entry.id)).toEqual([]);
    const { version } = await stage.billing.do('listApprovalRules');
    const wrong = await stage.billing.ask('setChargeReview', { version, body: { oldDays: 0, ratePercent: 25 } });
    expect([wrong.status, JSON.stringify(wrong.body)]).toEqual([422, expect.stringContaining('oldDays')]);
    const late = await stage.billing.ask('setChargeReview', { version: version - 1, body: { oldDays: 9, ratePercent: 25 } });
    expect(late.status).toBe(412);
    expect((await stage.technician.ask('setChargeReview', { version, body: { oldDays: 9, ratePercent: 25 } })).status).toBe(403);
  });

  it('is a price under what the item costs', async () => {
    const item = (await world.knex('catalogue_item').where('cost', '>', 0).where('basis', 'net').first('id', 'price', 'cost'))!;
    const added = await stage.technician.do('addCharge', { body: { ticketId: ticket.id, itemId: item.id, quantity: '1' } });
    const charge = await stage.billing.do('getCharge', { params: { chargeId: added.id as Id<'charge'> } });
    expect(charge.odd).toEqual([]);
    await decide(charge, { decision: 'adjust', reason: 'a gift', unitPrice: '0.01' });
    const after = await stage.billing.do('getCharge', { params: { chargeId: charge.id } });
    expect(after.odd).toEqual([{ is: 'under cost', has: '0.01', beside: String(Number(item.cost)), of: null }]);
  });
});

describe('a charge', () => {
  it('that is adjusted says what it was, and its text can be another', async () => {
    const entry = await stage.record(ticket.id, '2026-11-20T09:00:00Z', { duration: '30' });
    const was = await ofEntry(entry.id);
    await decide(was, { decision: 'adjust', reason: 'agreed on the phone', quantity: '15', description: 'Help with the scanner' });
    await decide(was, { decision: 'adjust', reason: 'less still', quantity: '10' });
    const is = await ofEntry(entry.id);
    expect([is.description, is.quantity, is.net.minor]).toEqual(['Help with the scanner', '10', Math.round((was.net.minor * 10) / 30)]);
    const { description, quantity, unitPrice, net } = was;
    expect(is.original).toEqual({ description, quantity, unitPrice, net });
  });

  it('that is held is on no list to decide on or to bill until its day, and comes back by itself', async () => {
    const entry = await stage.record(ticket.id, '2026-11-20T11:00:00Z', { duration: '40' });
    const charge = await ofEntry(entry.id);
    expect((await decide(charge, { decision: 'hold', reason: null, until: '2026-12-01' })).status).toBe(422);
    expect((await decide(charge, { decision: 'hold', reason: 'x', until: '2026-11-24' })).body).toMatchObject({
      fields: { until: 'a day after today' },
    });
    await decide(charge, { decision: 'approve' });
    const billed = async () => {
      const { rows } = await stage.billing.do('listDrafts', { query: { clientId: ticket.client_id } });
      return rows[0]?.net.minor ?? 0;
    };
    const before = await billed();
    expect((await decide(charge, { decision: 'hold', reason: 'the client asked', until: '2026-12-01' })).status).toBe(200);
    expect(await billed()).toBe(before - charge.net.minor);
    const held = (await stage.billing.do('listCharges', { query: { state: 'held', clientId: ticket.client_id } })).rows;
    expect(held.map((c) => [c.id, c.heldUntil, c.heldWhy])).toEqual([[charge.id, '2026-12-01', 'the client asked']]);
    expect((await decide(charge, { decision: 'waive', reason: 'x' })).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('held'),
    });
    await reviewCharges(world.running.app);
    expect((await ofEntry(entry.id)).heldUntil).toBe('2026-12-01');
    world.clock.forward(7 * 86_400);
    await reviewCharges(world.running.app);
    world.clock.forward(-7 * 86_400);
    expect([(await ofEntry(entry.id)).heldUntil, (await ofEntry(entry.id)).state, await billed()]).toEqual([null, 'approved', before]);
  });
});

describe('what is not odd', () => {
  it('is approved over all clients by one command, and taken back by one', async () => {
    const other = await stage.ticketOf('Quillfeather Press');
    await stage.record(other.id, '2026-11-23T09:00:00Z', { duration: '25' });
    await stage.record(other.id, '2026-11-23T10:00:00Z', { duration: '25', note: '' });
    const { charges, notOdd } = await sums();
    const oddOnes = await waiting({ odd: 'true' });
    expect([notOdd.charges, oddOnes.length > 0]).toEqual([charges - oddOnes.length, true]);
    const body = { clientId: null, odd: false, charges: notOdd.charges, netMinor: notOdd.net.minor };
    const done = await stage.billing.do('approveAll', { body });
    expect([done.charges, new Set(await waiting())]).toEqual([notOdd.charges, new Set(oddOnes)]);
    await stage.billing.do('undoApproval', { params: { approvalId: done.id } });
    expect((await sums()).notOdd).toEqual(notOdd);
  });

  it('is approved by a rule once it is of age, and waits for a person where one took that back', async () => {
    const rule = await stage.billing.do('setApprovalRule', { body: { clientId: ticket.client_id, kind: 'labour', afterDays: 2 } });
    const again = await stage.billing.do('setApprovalRule', { body: { clientId: ticket.client_id, kind: 'labour', afterDays: 1 } });
    expect([again.id, again.version]).toEqual([rule.id, 2]);
    const young = await stage.record(ticket.id, '2026-11-24T09:40:00Z', { duration: '5' });
    const old = await stage.record(ticket.id, '2026-11-18T09:00:00Z', { duration: '5' });
    const noNote = await stage.record(ticket.id, '2026-11-18T10:00:00Z', { duration: '5', note: '' });
    const states = async () => Promise.all([young, old, noNote].map(async (e) => (await ofEntry(e.id)).state));
    await reviewCharges(world.running.app);
    expect(await states()).toEqual(['proposed', 'approved', 'proposed']);
    expect((await ofEntry(old.id)).decidedBy).toBe('approval rule');
    await decide(await ofEntry(old.id), { decision: 'reopen' });
    await reviewCharges(world.running.app);
    expect(await states()).toEqual(['proposed', 'proposed', 'proposed']);
    await stage.billing.do('takeApprovalRuleAway', { params: { approvalRuleId: rule.id as Id<'approval_rule'> } });
    expect((await stage.billing.do('listApprovalRules')).rules).toEqual([]);
    await stage.billing.do('giveApprovalRuleBack', { params: { approvalRuleId: rule.id as Id<'approval_rule'> } });
    expect((await stage.billing.do('listApprovalRules')).rules).toMatchObject([{ kind: 'labour', afterDays: 1 }]);
  });
});

describe('a question to a charge', () => {
  it('makes it odd until it is answered, once, and stays with it', async () => {
    const charge = await ofEntry((await stage.record(ticket.id, '2026-11-24T09:00:00Z', { duration: '20' })).id);
    const asked = await stage.billing.do('askAboutCharge', {
      params: { chargeId: charge.id },
      body: { askedBy: 'Bram Gantry', question: 'Was that not under guarantee?' },
    });
    const read = () => stage.billing.do('getCharge', { params: { chargeId: charge.id } });
    expect((await read()).odd).toEqual([{ is: 'asked about', has: null, beside: null, of: 'Bram Gantry' }]);
    const answer = (text: string) =>
      stage.billing.ask('answerAboutCharge', { params: { questionId: asked.id as Id<'charge_question'> }, body: { answer: text } });
    expect((await answer('')).status).toBe(422);
    expect((await answer('No, since October.')).status).toBe(200);
    expect((await answer('Yes.')).status).toBe(409);
    const after = await read();
    expect(after.odd).toEqual([]);
    expect(after.questions).toMatchObject([
      { askedBy: 'Bram Gantry', answer: 'No, since October.', answeredBy: expect.stringContaining('Ngozi') },
    ]);
    await expect(world.knex('charge_question').where({ id: asked.id }).update({ answer: 'Yes.' })).rejects.toThrow('answered once');
  });
});
