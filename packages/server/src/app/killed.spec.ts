import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { createToken } from '../house/access/tokens';
import { beginBuilt, killed } from '../../testing/built-server';
import { makeTestDatabase, Script, STORY, until } from '../../testing/test-server';

let database: Awaited<ReturnType<typeof makeTestDatabase>>;
let folder: string;
beforeAll(async () => {
  database = await makeTestDatabase();
  folder = await mkdtemp(join(tmpdir(), 'drumline-killed-'));
});
afterAll(async () => {
  await database.drop();
  await rm(folder, { recursive: true, force: true });
});

const begin = () => beginBuilt(database.url, folder);

describe('a server killed with -9', () => {
  it('has lost no mail that it acknowledged, and doubles none that is sent again', async () => {
    const acknowledged = new Set<string>();
    const sent = new Map<string, object>();
    for (let round = 0; round < 4; round++) {
      const { child, smtpPort } = await begin();
      const senders = Array.from({ length: 6 }, async (_, sender) => {
        for (let n = 0; ; n++) {
          const messageId = `<kill-${round}-${sender}-${n}@hollin.example>`;
          const mail = {
            messageId,
            from: 'orla.devane@hollin.example',
            to: 'desk@pellworth.example',
            subject: `Mail ${round} ${sender} ${n}`,
            date: new Date(0),
            text: 'hold on to this',
            attachments: [{ filename: 'a.txt', content: messageId }],
          };
          sent.set(messageId, mail);
          await createTransport({ host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true }).sendMail(mail);
          acknowledged.add(messageId);
        }
      });
      const done = Promise.allSettled(senders);
      const enough = acknowledged.size + 7 + round * 5;
      await until('mails were taken', async () => acknowledged.size >= enough, 40_000);
      await killed(child);
      await done;
    }
    const stored = async () =>
      new Map(
        (
          await database.knex('message').where('message_id', 'like', '<kill-%').select('message_id').count('* as n').groupBy('message_id')
        ).map((r) => [r['message_id'] as string, Number(r['n'])]),
      );
    const first = await stored();
    expect(acknowledged.size).toBeGreaterThan(20);
    expect([...acknowledged].filter((id) => first.get(id) !== 1)).toEqual([]);
    // What was not acknowledged is sent again, as mail servers do: then each is there just once.
    const { child, smtpPort } = await begin();
    for (const [id, mail] of sent)
      if (!acknowledged.has(id))
        await createTransport({ host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true }).sendMail(mail);
    await killed(child);
    const all = await stored();
    expect([...sent.keys()].filter((id) => all.get(id) !== 1)).toEqual([]);
    const whole = await database
      .knex('message as m')
      .where('m.message_id', 'like', '<kill-%')
      .leftJoin('attachment as a', 'a.message_id', 'm.id')
      .leftJoin('ticket_clock as c', 'c.ticket_id', 'm.ticket_id')
      .groupBy('m.id')
      .select('m.id')
      .count({ clocks: 'c.clock' })
      .countDistinct({ files: 'a.id' });
    expect(whole.every((r) => Number(r['clocks']) === 3 && Number(r['files']) === 1)).toBe(true);
  });

  it('has issued whole invoices or none, without a gap, whatever it was doing', async () => {
    const billing = await database.knex('person').where({ role: 'billing' }).first('id');
    const { secret } = await createToken(database.knex, { personId: billing.id, label: 'kill', now: STORY });
    const client = await database.knex('client').where({ name: 'Saltmarsh Ceramics' }).first();
    const ids: string[] = [];
    for (let i = 0; i < 120; i++) {
      const id = randomUUID();
      ids.push(id);
      await database.knex('charge').insert({
        id,
        division_id: client.division_id,
        client_id: client.id,
        kind: 'product',
        state: 'approved',
        cause: 'by hand',
        on_date: '2026-11-20',
        description: `Thing ${i}`,
        quantity: 1,
        unit: 'C62',
        unit_price: '10',
        net_minor: 1000,
        currency: 'EUR',
        tax_category: 'S',
        tax_percent: '23',
        explanation: '[]',
      });
    }
    const told: string[] = [];
    for (let round = 0; round < 4; round++) {
      const { child, port } = await begin();
      const script = new Script(`http://127.0.0.1:${port}`, secret);
      const workers = Array.from({ length: 5 }, async (_, w) => {
        for (const id of ids.filter((_id, i) => i % 5 === w)) {
          const answer = await script.ask('issueInvoice', { body: { clientId: client.id, chargeIds: [id], grossMinor: null } });
          if (answer.status === 200) told.push((answer.body as { number: string }).number);
        }
      });
      const done = Promise.allSettled(workers);
      const enough = told.length + 2 + round;
      await until('invoices were issued', async () => told.length >= enough, 40_000);
      await killed(child);
      await done;
    }
    const invoices = await database.knex('invoice').orderBy('sequence').select('id', 'number', 'sequence', 'net_minor', 'gross_minor');
    expect(invoices.length).toBeGreaterThan(5);
    expect(invoices.map((i) => i.sequence)).toEqual(invoices.map((_, i) => invoices[0].sequence + i));
    expect((await database.knex('invoice_series').where({ prefix: 'PH-' }).first('last_number')).last_number).toBe(
      invoices.at(-1)!.sequence,
    );
    expect(told.filter((number) => !invoices.some((i) => i.number === number))).toEqual([]);
    for (const invoice of invoices) {
      const [lines, charges, tax, jobs] = await Promise.all([
        database.knex('invoice_line').where({ invoice_id: invoice.id }),
        database
          .knex('billing_link as l')
          .join('charge as ch', 'ch.id', 'l.charge_id')
          .where({ 'l.invoice_id': invoice.id, 'ch.standing': 'billed' }),
        database.knex('invoice_tax').where({ invoice_id: invoice.id }),
        database.knex.raw(`select key from graphile_worker.jobs where key in (?, ?)`, [
          `deliver-invoice:${invoice.id}`,
          `push-invoice:${invoice.id}`,
        ]),
      ]);
      expect([lines.length, charges.length, tax.length, jobs.rows.length]).toEqual([1, 1, 1, 2]);
    }
    const unlinked = database.knex('billing_link as l').whereRaw('l.charge_id = ch.id').select('l.id');
    expect(await database.knex('charge as ch').where({ standing: 'billed' }).whereNotExists(unlinked)).toEqual([]);
  });
});

describe('a server asked to stop', () => {
  it('finishes what it took, takes nothing new, and ends by itself', async () => {
    const { child, port, smtpPort } = await begin();
    const person = await database.knex('person').where({ role: 'account manager' }).first('id');
    const { secret } = await createToken(database.knex, { personId: person.id, label: 'stop', now: STORY });
    const script = new Script(`http://127.0.0.1:${port}`, secret);
    const client = (n: number) => ({
      name: `Client ${n}`,
      domains: `client${n}.example`,
      zone: 'Europe/Dublin',
      street: 'Quay',
      city: 'Pellworth',
      postcode: 'PW1',
      country: 'IE',
      taxNumber: null,
      invoiceEmail: `a@client${n}.example`,
      paymentDays: 30,
      taxExempt: false,
    });
    const told: string[] = [];
    const asking = Array.from({ length: 8 }, async (_, w) => {
      for (let n = 0; ; n++) {
        const answer = await script.ask('createClient', { body: client(w * 10_000 + n) });
        expect(answer.status).toBe(200);
        told.push((answer.body as { id: string }).id);
      }
    });
    const mails: string[] = [];
    const mailing = Array.from({ length: 4 }, async (_, w) => {
      for (let n = 0; ; n++) {
        const messageId = `<stop-${w}-${n}@hollin.example>`;
        await createTransport({ host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true }).sendMail({
          messageId,
          from: 'orla.devane@hollin.example',
          to: 'desk@pellworth.example',
          subject: messageId,
          text: 'x',
        });
        mails.push(messageId);
      }
    });
    const ended = Promise.allSettled([...asking, ...mailing]);
    await until('it is busy', async () => told.length > 20 && mails.length > 4, 40_000);
    const exit = new Promise<[number | null, NodeJS.Signals | null]>((done) => child.once('exit', (code, signal) => done([code, signal])));
    child.kill('SIGTERM');
    expect(await exit).toEqual([0, null]);
    // What came after was refused at the door, not dropped half way: only connections failed, no answer was a fault.
    for (const result of await ended)
      expect(String((result as PromiseRejectedResult).reason)).toMatch(/fetch failed|ECONN|socket|closed|421/i);
    const stored = await database.knex('client').whereIn('id', told).count('* as n').first();
    expect(Number(stored!['n'])).toBe(told.length);
    const kept = await database.knex('message').whereIn('message_id', mails).count('* as n').first();
    expect(Number(kept!['n'])).toBe(mails.length);
    expect(await database.knex('client').where('name', 'like', 'Client %').count('* as n').first()).toEqual({ n: told.length });
  });
});
