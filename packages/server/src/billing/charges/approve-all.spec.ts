import { startBilling } from '../../../testing/billing';
import { startWorld, type World } from '../../../testing/test-server';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
let clientId: string;
const MANY = 1200;
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
  const t = await stage.ticketOf('Brackwater Ferries');
  clientId = t.client_id;
  await world.knex.raw(
    `insert into charge (division_id, client_id, ticket_id, cause, kind, on_date, description, quantity, unit, unit_price, net_minor, currency, tax_category, tax_percent, explanation, odd, oddities)
     select t.division_id, t.client_id, t.id, 'by hand', 'product', date '2026-11-01' + (n % 20), 'Thing ' || n, 1, 'C62', '1.01', 101, 'EUR', 'S', 23, '[]',
            case when n % 100 = 0 then array['no note'] else '{}'::text[] end,
            case when n % 100 = 0 then '[{"is":"no note","has":null,"beside":null,"of":null}]'::jsonb else '[]' end
       from ticket t, generate_series(1, ?) n where t.id = ?`,
    [MANY, t.id],
  );
});
afterAll(() => world.stop());

const waits = async (more: Record<string, string> = {}) =>
  (await stage.billing.do('listChargeClients', { query: { clientId, state: 'proposed', ...more } })).rows[0];

describe('twelve hundred charges of one client', () => {
  it('are all there, page by page, each once, and their sum is over all of them', async () => {
    const all = (await waits())!;
    expect(all.charges).toBeGreaterThanOrEqual(MANY);
    const seen: { id: string; on: string; net: { minor: number } }[] = [];
    let after: string | undefined;
    do {
      const page = await stage.billing.do('listCharges', {
        query: { clientId, state: 'proposed', most: '500', ...(after ? { after } : {}) },
      });
      seen.push(...page.rows);
      after = page.next ?? undefined;
    } while (after);
    expect(new Set(seen.map((c) => c.id)).size).toBe(all.charges);
    expect(seen.reduce((sum, c) => sum + c.net.minor, 0)).toBe(all.net.minor);
    expect(seen.map((c) => c.on)).toEqual(seen.map((c) => c.on).sort());
    const odd = (await waits({ odd: 'true' }))!;
    expect([odd.charges, odd.odd]).toEqual([all.odd, all.odd]);
  });

  it('are approved by one command and taken back by one', async () => {
    const all = (await waits())!;
    const done = await stage.billing.do('approveAll', { body: { clientId, odd: true, charges: all.charges, netMinor: all.net.minor } });
    expect([done.charges, done.net]).toEqual([all.charges, all.net]);
    expect(await waits()).toBeUndefined();
    const [draft] = (await stage.billing.do('listDrafts', { query: { clientId } })).rows;
    expect([draft!.charges, draft!.net]).toEqual([all.charges, all.net]);
    const back = await stage.billing.do('undoApproval', { params: { approvalId: done.id } });
    expect(back.charges).toBe(all.charges);
    expect(await waits()).toEqual(all);
    const again = await stage.billing.ask('undoApproval', { params: { approvalId: done.id } });
    expect(again.body).toMatchObject({ status: 409, detail: expect.stringContaining('decided on again') });
  });

  it('are not approved where they are not what was seen, and what is odd waits if that is asked', async () => {
    const all = (await waits())!;
    const body = { clientId, odd: true, charges: all.charges, netMinor: all.net.minor };
    expect((await stage.billing.ask('approveAll', { body: { ...body, charges: all.charges - 1 } })).status).toBe(412);
    expect((await stage.billing.ask('approveAll', { body: { ...body, netMinor: all.net.minor + 1 } })).status).toBe(412);
    expect(await waits()).toEqual(all);
    const odd = (await waits({ odd: 'true' }))!;
    const plain = { charges: all.charges - odd.charges, netMinor: all.net.minor - odd.net.minor };
    const done = await stage.billing.do('approveAll', { body: { clientId, odd: false, ...plain } });
    expect(done.charges).toBe(plain.charges);
    expect((await waits())!.charges).toBe(odd.charges);
    // Billed since, nothing of it is taken back.
    const [draft] = (await stage.billing.do('listDrafts', { query: { clientId } })).rows;
    const { id } = await stage.billing.do('issueInvoice', { body: { clientId, chargeIds: null, grossMinor: draft!.gross.minor } });
    const invoice = await stage.billing.do('getInvoice', { params: { invoiceId: id } });
    expect([invoice.lines.length, invoice.gross]).toEqual([plain.charges, draft!.gross]);
    const undo = await stage.billing.ask('undoApproval', { params: { approvalId: done.id } });
    expect(undo.body).toMatchObject({ status: 409, detail: expect.stringContaining('on a document already') });
    expect((await world.knex('charge').where({ client_id: clientId, standing: 'billed' })).length).toBe(plain.charges);
  });

  it('approved by two at once are approved once', async () => {
    const left = (await waits())!;
    const body = { clientId, odd: true, charges: left.charges, netMinor: left.net.minor };
    const answers = await Promise.all([0, 1, 2].map(() => stage.billing.ask('approveAll', { body })));
    expect(answers.map((a) => a.status).sort()).toEqual([200, 412, 412]);
  });

  it('are of those who decide on charges', async () => {
    const body = { clientId, odd: true, charges: 1, netMinor: 1 };
    expect((await stage.technician.ask('approveAll', { body })).status).toBe(403);
    expect((await stage.technician.ask('undoApproval', { params: { approvalId: clientId } })).status).toBe(403);
    expect((await stage.billing.ask('undoApproval', { params: { approvalId: clientId } })).status).toBe(404);
  });
});
