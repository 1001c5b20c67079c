// npm run bench -- load: mail and people at once, and what strangers may do to them. Started by bench.mjs.
import { rmSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { connect, type Socket } from 'node:net';
import { createTransport, type SendMailOptions, type Transporter } from 'nodemailer';
import { parseInstant } from '@core/ground';
import { createToken } from '../packages/server/src/house/access/tokens';
import { openDatabase } from '../packages/server/src/app/database';
import { loadDemo } from '../packages/server/src/app/demo/load-demo';
import { migrate } from '../packages/server/src/app/migrate';
import { startMailStandIn } from '../packages/standins/src/mail/mail-standin';
import { folder, makeDatabase, percentile, say, startBuilt } from './bench-server';

const STORY = parseInstant('2026-11-24T10:40:00Z');
const PEOPLE = 200;
const PEOPLE_SECONDS = 180;
const MAIL_SECONDS = 20;
const MAILS_A_SECOND = 50;
/** Between two presses of one person, on the average. */
const PAUSE_MS = 5000;
const WARM_UP = 400;
const INVOICES = 60;
const DRIPPING = 200;
const MEGABYTE = 1024 * 1024;

const url = await makeDatabase('bench_load');
const knex = openDatabase(url, 4);
await migrate(knex, url);
await loadDemo(knex, { real: STORY, days: 45 });
const people: { id: string }[] = await knex('person').where({ active: true }).select('id');
const tokens = await Promise.all(people.map(async (p) => (await createToken(knex, { personId: p.id, label: 'bench', now: STORY })).secret));
const tickets: string[] = await knex('ticket').where({ status: 'queued' }).limit(200).pluck('id');
const mailbox = await startMailStandIn({
  httpPort: 0,
  smtpPort: 0,
  deliverTo: { port: 1 },
  providerAddress: 'desk@pellworth.example',
  folder: join(folder, 'mailbox'),
});
const { child, port, smtpPort } = await startBuilt(url, { MAIL_OUT: `smtp://127.0.0.1:${mailbox.smtpPort}` });
const base = `http://127.0.0.1:${port}/api`;
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))![1]) / 1024;

const mailer = (): Transporter =>
  createTransport({
    pool: true,
    maxConnections: 4,
    maxMessages: Infinity,
    host: '127.0.0.1',
    port: smtpPort,
    secure: false,
    ignoreTLS: true,
  } as never);
let sent = 0;
const plainMail = (): SendMailOptions => ({
  from: 'orla.devane@hollin.example',
  to: 'desk@pellworth.example',
  subject: `Printer ${++sent}`,
  text: 'It has been putting out blank labels since we opened.\n\nOrla',
  messageId: `<load-${sent}@hollin.example>`,
});

async function timed(run: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await run();
  return performance.now() - began;
}

async function get(path: string, token: string, init: RequestInit = {}): Promise<number> {
  const answer = await fetch(base + path, {
    ...init,
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
  });
  await answer.arrayBuffer();
  return answer.status;
}

/** A reply waits ten seconds for its writer to take it back; what it waits longer is the queue's. */
async function replyBesideInvoices(): Promise<void> {
  const invoices: string[] = await knex('invoice').orderBy('number', 'desc').limit(INVOICES).pluck('id');
  const reply = async () => {
    const { id } = await post(`/tickets/${tickets[1]}/replies`, { text: 'On Monday.', cc: [], then: null, seenMessageId: null });
    const began = performance.now();
    while (!(await knex('message').where({ id }).whereNotNull('left_at').first('id'))) await wait(50);
    return (performance.now() - began) / 1000;
  };
  const alone = await reply();
  await knex.transaction(async (tx) => {
    // As if they had just been issued: what is only appended to gives way for once.
    await tx.raw('set local session_replication_role = replica');
    await tx('invoice_standing').whereIn('invoice_id', invoices).update({ mailed_at: null });
    await tx('invoice_document').whereIn('invoice_id', invoices).delete();
  });
  for (const invoiceId of invoices)
    await knex.raw(`select graphile_worker.add_job('deliver-invoice', ?::json)`, [JSON.stringify({ invoiceId })]);
  say('a reply, seconds until it has left', alone.toFixed(1));
  say(`the same while ${invoices.length} invoices are made and mailed`, (await reply()).toFixed(1));
}

async function post(path: string, body: object): Promise<{ id: string }> {
  const answer = await fetch(base + path, {
    method: 'POST',
    headers: { authorization: `Bearer ${tokens[0]}`, 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json() as Promise<{ id: string }>;
}

/** A server that has been at work: its code is compiled and its connections are open. */
async function warmUp(): Promise<void> {
  const mail = mailer();
  await Promise.all(Array.from({ length: WARM_UP }, () => mail.sendMail(plainMail())));
  mail.close();
}

/** At a pace that does not wait for answers, as mail comes. */
async function steadyMail(): Promise<void> {
  const mail = mailer();
  const took: number[] = [];
  const all: Promise<unknown>[] = [];
  for (let n = 0; n < MAILS_A_SECOND * MAIL_SECONDS; n++) {
    all.push(timed(() => mail.sendMail(plainMail())).then((ms) => took.push(ms)));
    await wait(1000 / MAILS_A_SECOND);
  }
  await Promise.all(all);
  mail.close();
  say(`a mail at ${MAILS_A_SECOND} a second, ms to its 250, 99 of 100`, percentile(took, 99).toFixed(0));
}

async function atWork(): Promise<void> {
  const took: number[] = [];
  let errors = 0;
  const end = Date.now() + PEOPLE_SECONDS * 1000;
  await Promise.all(
    Array.from({ length: PEOPLE }, async (_, who) => {
      const token = tokens[who % tokens.length]!;
      for (let n = who; Date.now() < end; n++) {
        await wait(PAUSE_MS / 2 + ((n * 7919) % PAUSE_MS));
        const ticket = tickets[(n * 31) % tickets.length];
        const asked: [string, RequestInit?][] = [['/tickets'], [`/tickets/${ticket}`], ['/counts'], ['/clients'], [`/tickets/${ticket}`]];
        if (n % 10 === 0)
          asked.push([`/tickets/${ticket}/notes`, { method: 'POST', body: JSON.stringify({ text: `Looked at it, ${n}.` }) }]);
        const [path, init] = asked[n % asked.length]!;
        took.push(
          await timed(async () => {
            const status = await get(path, token, init).catch(() => 599);
            if (status >= 500 || status === 429) errors++;
          }),
        );
      }
    }),
  );
  say(`${PEOPLE} people for ${PEOPLE_SECONDS} s, each every ${PAUSE_MS / 1000} s: requests`, took.length.toLocaleString('en'));
  say('ms to an answer, 95 of 100', percentile(took, 95).toFixed(0));
  say('errors', String(errors));
}

/** Pages and mail of everybody else, while a stranger does something. */
async function during(what: string, attack: () => Promise<() => void>): Promise<void> {
  const mail = mailer();
  await mail.sendMail(plainMail());
  let most = memory();
  const watching = setInterval(() => (most = Math.max(most, memory())), 100);
  const stop = await attack();
  const [pages, mails]: [number[], number[]] = [[], []];
  for (let n = 0; n < 100; n++) {
    await Promise.all([
      timed(() => get('/tickets', tokens[0]!)).then((ms) => pages.push(ms)),
      timed(() => mail.sendMail(plainMail()).catch(() => undefined)).then((ms) => mails.push(ms)),
    ]);
    await wait(50);
  }
  stop();
  clearInterval(watching);
  mail.close();
  await wait(3000);
  say(`${what}: a page, ms, 99 of 100`, percentile(pages, 99).toFixed(0));
  say(`${what}: a mail, ms, 99 of 100`, percentile(mails, 99).toFixed(0));
  say(`${what}: memory at most and after, MB`, `${most.toFixed(0)}, ${memory().toFixed(0)}`);
}

/** The same hard mail again and again until it is stopped. */
async function keepSending(html: string): Promise<() => void> {
  let on = true;
  const mail = createTransport({ host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true });
  // Composed once: a stranger's machine is not ours, and only what the server does is measured.
  const lines = [
    'From: orla.devane@hollin.example',
    'To: desk@pellworth.example',
    'Content-Type: text/html',
    '',
    ...(html.match(/.{1,900}/g) ?? []),
  ];
  const body = lines.join('\r\n');
  void (async () => {
    const envelope = { from: 'orla.devane@hollin.example', to: 'desk@pellworth.example' };
    for (let n = 0; on; n++) await mail.sendMail({ envelope, raw: `Subject: Hard ${n}\r\n${body}` }).catch(() => undefined);
  })();
  return () => void (on = false);
}

async function begun(): Promise<Socket> {
  const socket = connect(smtpPort, '127.0.0.1').on('error', () => undefined);
  for (const line of ['', 'EHLO x', 'MAIL FROM:<a@hollin.example>', 'RCPT TO:<desk@pellworth.example>', 'DATA']) {
    if (line) socket.write(`${line}\r\n`);
    // Beyond the share of one address a connection is ended at once.
    if (socket.destroyed) return socket;
    await new Promise((done) => socket.once('data', done).once('close', done));
  }
  return socket;
}

await replyBesideInvoices();
await warmUp();
await steadyMail();
await during('0.5 MB of nested elements', () => keepSending('<div>'.repeat(100_000)));
await during('5 MB of "<"', () => keepSending('<'.repeat(5 * MEGABYTE)));
await during('600 MB unannounced', async () => {
  const socket = await begun();
  const block = Buffer.alloc(MEGABYTE, `${'x'.repeat(76)}\r\n`);
  let n = 0;
  const feed = () => {
    while (!socket.destroyed && n++ < 600) if (!socket.write(block)) return void socket.once('drain', feed);
  };
  feed();
  return () => socket.destroy();
});
await during(`${DRIPPING} dripping connections`, async () => {
  const sockets = await Promise.all(Array.from({ length: DRIPPING }, begun));
  const dripping = setInterval(() => sockets.forEach((s) => s.writable && s.write('x')), 1000);
  return () => (clearInterval(dripping), sockets.forEach((s) => s.destroy()));
});
await atWork();
child.kill('SIGTERM');
await knex.destroy();
rmSync(folder, { recursive: true, force: true });
process.exit(0);
