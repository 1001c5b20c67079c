import { startBilling } from '../../../testing/billing';
import { deliveryReport } from '../../../testing/delivery-report';
import { startWorld, until, type World } from '../../../testing/test-server';
import { receiveMail } from '../../desk/messages/receive-mail';
import { remindByThemselves } from './send-reminders';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
  // Due at once, and nothing else is opened meanwhile: the clock has less to go on.
  await world.knex('client').update({ payment_days: 0 });
  await world.knex('routine').delete();
});
afterAll(() => world.stop());

let hour = 8;
async function issued(client: string, duration = '1h') {
  const t = await stage.ticketOf(client);
  await stage.record(t.id, `2026-11-19T${String(hour++).padStart(2, '0')}:00:00Z`, { duration });
  const { gross } = await stage.clear(t.client_id);
  const { id, number } = await stage.billing.do('issueInvoice', {
    body: { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor },
  });
  const { dueOn } = await stage.billing.do('getInvoice', { params: { invoiceId: id } });
  return { id, number, dueOn, minor: gross.minor, clientId: t.client_id as string, client };
}
/** Lets the clock go on to ten in the morning of so many days after a day. */
const goTo = (day: string, days: number) => {
  const at = Date.parse(`${day}T10:00:00Z`) / 1000 + days * 86_400;
  world.clock.forward(at - world.clock.now());
};
const due = () => stage.billing.do('listDueReminders');
const send = (clientIds: string[] | null, seen: { invoices: number; total: { minor: number } }) =>
  stage.billing.ask('sendReminders', { body: { clientIds, invoices: seen.invoices, totalMinor: seen.total.minor } });
const of = (invoiceId: string) => stage.billing.do('getInvoiceReminders', { params: { invoiceId } });
const pay = (i: { clientId: string; minor: number; id: string }) =>
  stage.billing.do('recordPayment', {
    body: { clientId: i.clientId, amount: (i.minor / 100).toFixed(2), receivedOn: '2026-11-24', reference: 'paid', invoiceId: i.id },
  });
const mailsTo = async (part: string) => (await world.mailbox()).filter((m) => m.subject.includes(part));

describe('reminders', () => {
  it('go out step by step as one mail a client, once however many press, and end when it is paid', async () => {
    const [one, two] = [await issued('Larkspur Seed Co-op'), await issued('Larkspur Seed Co-op', '2h')];
    expect((await due()).due).toEqual([]);
    expect((await of(one.id)).next).toMatchObject({ is: 'on', step: 1 });
    goTo(one.dueOn, 7);
    const first = await due();
    expect(first).toMatchObject({
      invoices: 2,
      total: { minor: one.minor + two.minor },
      due: [{ client: 'Larkspur Seed Co-op', step: 1 }],
    });
    expect(first.due[0]!.text).toContain(`${one.number}, due 24 November 2026: €`);
    expect((await send(null, { invoices: 1, total: first.total })).body).toMatchObject({
      detail: expect.stringContaining('now 2 invoices'),
    });
    const both = await Promise.all([send(null, first), send(null, first)]);
    expect(both.filter((a) => a.status === 200)).toHaveLength(1);
    await until('the reminder is mailed', async () => (await mailsTo(`A reminder: ${one.number}, ${two.number}`)).length === 1);
    expect((await of(one.id)).sent).toMatchObject([{ step: 1, by: expect.stringContaining('Ngozi') }]);
    expect((await due()).due).toEqual([]);
    await pay(one);
    goTo(one.dueOn, 21);
    const second = await due();
    expect(second.due).toMatchObject([{ step: 2, invoices: [{ number: two.number, step: 2 }] }]);
    expect(second.due[0]!.subject).toBe(`Second reminder: ${two.number}`);
    await pay(two);
    expect((await due()).due).toEqual([]);
    expect((await of(two.id)).next.is).toBe('nothing owed');
  });

  it('wait while a client or an invoice is paused, and go on the day after', async () => {
    const [one, two] = [await issued('Hollin Veterinary Group'), await issued('Hollin Veterinary Group', '90m')];
    goTo(one.dueOn, 8);
    const later = new Date((world.clock.now() + 5 * 86_400) * 1000).toISOString().slice(0, 10);
    const body = { clientId: one.clientId, invoiceId: one.id, until: later, reason: 'they look into it' };
    const { id } = await stage.billing.do('pauseReminders', { body });
    expect((await due()).due[0]!.invoices.map((i) => i.number)).toEqual([two.number]);
    expect((await of(one.id)).pauses).toMatchObject([{ id, reason: 'they look into it', until: later }]);
    const whole = await stage.billing.do('pauseReminders', { body: { ...body, invoiceId: null, until: null } });
    expect(await due()).toMatchObject({ due: [], paused: [{ number: one.number }, { number: null }] });
    expect((await of(two.id)).next.is).toBe('paused');
    await stage.billing.do('endPause', { params: { pauseId: whole.id } });
    expect((await stage.billing.ask('endPause', { params: { pauseId: whole.id } })).status).toBe(409);
    world.clock.forward(6 * 86_400);
    expect((await due()).due[0]!.invoices).toHaveLength(2);
    const wrong = await stage.billing.ask('pauseReminders', { body: { ...body, until: '2026-01-01' } });
    expect(wrong.body).toMatchObject({ status: 422, fields: { until: 'today or a day to come' } });
    const other = await stage.billing.ask('pauseReminders', {
      body: { ...body, clientId: (await stage.ticketOf('Saltmarsh Ceramics')).client_id },
    });
    expect(other.status).toBe(422);
    await pay(one);
    await pay(two);
  });

  it('go by themselves in the morning where the house wants it, each step once', async () => {
    const one = await issued('Saltmarsh Ceramics');
    await until('the invoice itself is mailed', async () => (await mailsTo(one.number)).length === 1);
    goTo(one.dueOn, 10);
    await remindByThemselves(world.running.app);
    expect((await of(one.id)).sent).toEqual([]);
    const steps = await stage.billing.do('getReminderSteps');
    const changed = steps.steps.map((s, n) => (n ? s : { ...s, subject: 'Still open: {invoices}' }));
    await stage.billing.do('setReminderSteps', { version: steps.version, body: { byThemselves: true, steps: changed } });
    expect(
      (await stage.billing.ask('setReminderSteps', { version: steps.version, body: { byThemselves: true, steps: changed } })).status,
    ).toBe(412);
    world.clock.forward(-3 * 3600);
    await remindByThemselves(world.running.app);
    expect((await of(one.id)).sent).toEqual([]);
    world.clock.forward(3 * 3600);
    await Promise.all([remindByThemselves(world.running.app), remindByThemselves(world.running.app)]);
    await until('it is mailed', async () => (await mailsTo(`Still open: ${one.number}`)).length === 1);
    expect((await of(one.id)).sent).toHaveLength(1);
    expect(await mailsTo(one.number)).toHaveLength(2);
  });

  it('that do not arrive say so with their invoices', async () => {
    const one = await issued('Quillfeather Press');
    goTo(one.dueOn, 7);
    const now = await due();
    const mine = now.due.find((d) => d.clientId === one.clientId)!;
    await send([one.clientId], { invoices: mine.invoices.length, total: mine.total });
    await until('it is mailed', async () => (await of(one.id)).sent[0]?.mailedAt);
    const [mail] = await mailsTo(one.number).then((all) => all.filter((m) => !m.subject.startsWith('Invoice')));
    const report = deliveryReport({
      id: '<bounced-reminder@mx.example>',
      address: 'x@quillfeather.example',
      action: 'failed',
      status: '5.1.1',
      original: mail!.messageId,
    });
    await receiveMail(world.running.app, Buffer.from(report), { from: '', to: ['desk@pellworth.example'] });
    expect((await of(one.id)).sent[0]!.undeliveredAt).not.toBeNull();
  });

  it('stand in the ageing, which comes to what is left and expects each cent once', async () => {
    const ageing = await stage.billing.do('getAgeing');
    const [{ left }] = (
      await world.knex.raw(
        `select sum(gross_minor - settled_minor)::int as left from invoice i join invoice_standing s on s.invoice_id = i.id where i.kind = 'invoice'`,
      )
    ).rows;
    expect(ageing.left.minor).toBe(left);
    expect(ageing.ages.reduce((sum, a) => sum + a.minor, 0)).toBe(left);
    expect(ageing.weeks.reduce((sum, w) => sum + w.amount.minor, ageing.later.minor + ageing.unknown.amount.minor)).toBe(left);
    expect(ageing.clients.find((c) => c.client === 'Quillfeather Press')).toMatchObject({
      reminders: 1,
      overdue: { minor: expect.any(Number) },
    });
    expect((await stage.technician.ask('getAgeing')).status).toBe(403);
  });
});
