import { randomUUID } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import express from 'express';
import { simpleParser, type ParsedMail } from 'mailparser';
import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { escape, page } from '../page';

export interface MailStandInOptions {
  readonly httpPort: number;
  readonly smtpPort: number;
  /** Where mail written here goes: the provider's mail server. */
  readonly deliverTo: { readonly port: number };
  readonly providerAddress: string;
  /** Kept mails are files here, so that they outlive a restart. */
  readonly folder: string;
}

interface Kept {
  readonly id: string;
  readonly way: 'sent' | 'received';
  readonly at: string;
  readonly mail: ParsedMail;
  readonly raw: Buffer;
}

/** How it behaves: for trying what happens when mail is slow, refused or gone. */
export type MailSwitch = 'normal' | 'refuse' | 'slow' | 'twice';

/** A small mail server with a mailbox page: write as any client contact, read what the provider sent. */
export async function startMailStandIn(options: MailStandInOptions) {
  mkdirSync(options.folder, { recursive: true });
  const kept: Kept[] = [];
  let mode: MailSwitch = 'normal';
  const keep = async (raw: Buffer, way: Kept['way'], name = `${Date.now()}-${way}-${randomUUID()}`) => {
    writeFileSync(join(options.folder, `${name}.eml`), raw);
    kept.push({ id: name, way, at: new Date(Number(name.split('-')[0])).toISOString(), mail: await simpleParser(raw), raw });
  };
  for (const file of readdirSync(options.folder)
    .filter((f) => f.endsWith('.eml'))
    .sort()) {
    const name = file.slice(0, -4);
    const raw = readFileSync(join(options.folder, file));
    kept.push({
      id: name,
      way: name.includes('-sent-') ? 'sent' : 'received',
      at: new Date(Number(name.split('-')[0])).toISOString(),
      mail: await simpleParser(raw),
      raw,
    });
  }

  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    logger: false,
    onData(stream, _session, callback) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        if (mode === 'refuse') return callback(Object.assign(new Error('refused by the stand-in'), { responseCode: 451 }));
        setTimeout(() => void keep(Buffer.concat(chunks), 'received').then(() => callback(), callback), mode === 'slow' ? 3000 : 0);
        return undefined;
      });
    },
  });
  smtp.on('error', () => undefined);

  const write = async ({
    from,
    subject,
    text,
    answers,
  }: {
    readonly from: string;
    readonly subject: string;
    readonly text: string;
    readonly answers?: string;
  }) => {
    const earlier = kept.find((k) => k.id === answers)?.mail;
    const references = earlier
      ? [...(typeof earlier.references === 'string' ? [earlier.references] : (earlier.references ?? [])), earlier.messageId ?? ''].filter(
          Boolean,
        )
      : [];
    const mail = {
      from,
      to: options.providerAddress,
      subject,
      text,
      messageId: `<${randomUUID()}@${from.split('@')[1]?.replace(/>$/, '') ?? 'client.example'}>`,
      ...(earlier?.messageId ? { inReplyTo: earlier.messageId, references } : {}),
    };
    const composed = (await createTransport({ streamTransport: true, buffer: true }).sendMail(mail)) as unknown as { message: Buffer };
    const times = mode === 'twice' ? 2 : 1;
    for (let i = 0; i < times; i++)
      await createTransport({ host: '127.0.0.1', port: options.deliverTo.port, secure: false, ignoreTLS: true }).sendMail({
        envelope: { from, to: [options.providerAddress] },
        raw: composed.message,
      });
    await keep(composed.message, 'sent');
  };

  const app = express();
  app.use(express.urlencoded({ extended: false }), express.json());
  const threadOf = (k: Kept) =>
    (Array.isArray(k.mail.references) ? k.mail.references[0] : k.mail.references) ?? k.mail.inReplyTo ?? k.mail.messageId ?? k.id;
  const names = (k: Kept) =>
    (k.way === 'sent'
      ? k.mail.from?.text
      : [k.mail.to]
          .flat()
          .map((t) => t?.text)
          .join(', ')) ?? '';
  app.get('/', (req, res) => {
    const who = String(req.query['who'] ?? '').toLowerCase();
    const rows = [...kept]
      .reverse()
      .filter((k) => !who || names(k).toLowerCase().includes(who))
      .slice(0, 200);
    res.send(
      page(
        'Mailbox',
        `<p>A stand-in for every client's mail. <a href="/write">Write as a client contact</a></p><form><label for="who">Only mail of</label><input type="text" id="who" name="who" value="${escape(who)}" placeholder="an address or a name"></form>
<table><tr><th>When</th><th>Who</th><th>Subject</th></tr>${rows.map((k) => `<tr class="${k.way === 'sent' ? 'in' : 'out'}"><td><small>${k.at.slice(0, 19).replace('T', ' ')}</small></td><td>${k.way === 'sent' ? 'from' : 'to'} ${escape(names(k))}</td><td><a href="/mail/${k.id}">${escape(k.mail.subject ?? '(no subject)')}</a></td></tr>`).join('')}</table>
<form method="post" action="/switch"><label for="mode">Behaviour</label><select id="mode" name="mode">${['normal', 'refuse', 'slow', 'twice'].map((m) => `<option${m === mode ? ' selected' : ''}>${m}</option>`).join('')}</select> <button>Set</button></form>`,
      ),
    );
  });
  app.get('/write', (req, res) => {
    const answers = kept.find((k) => k.id === req.query['answers']);
    const from = answers ? ([answers.mail.to].flat()[0]?.value[0]?.address ?? '') : String(req.query['from'] ?? '');
    const subject = answers ? `Re: ${answers.mail.subject ?? ''}` : '';
    res.send(
      page(
        answers ? 'Answer' : 'Write',
        `<form method="post" action="/write"><input type="hidden" name="answers" value="${escape(answers?.id ?? '')}"><label for="from">From</label><input type="text" id="from" name="from" required value="${escape(from)}" placeholder="orla.devane@hollin.example"><label for="subject">Subject</label><input type="text" id="subject" name="subject" value="${escape(subject)}"><label for="text">Text</label><textarea id="text" name="text" rows="10" required></textarea><p><button>Send</button></p></form>`,
      ),
    );
  });
  app.post('/write', async (req, res) => {
    try {
      await write({
        from: String(req.body.from),
        subject: String(req.body.subject ?? ''),
        text: String(req.body.text ?? ''),
        answers: req.body.answers || undefined,
      });
      if (req.is('json')) res.json({ sent: true });
      else res.redirect('/');
    } catch (fault) {
      res
        .status(502)
        .send(
          page(
            'Not sent',
            `<p>The provider's mail server did not take it: ${escape(String(fault))}</p><p>Go back and try again; your text is still in the form.</p>`,
          ),
        );
    }
  });
  app.get('/mail/:id', (req, res) => {
    const found = kept.find((k) => k.id === req.params.id);
    if (!found) return void res.status(404).send(page('Not here', '<p>No such mail.</p>'));
    const thread = kept.filter((k) => threadOf(k) === threadOf(found));
    res.send(
      page(
        found.mail.subject ?? '(no subject)',
        `<p><a href="/">Mailbox</a> · ${thread.length} in this thread</p>${thread
          .map(
            (k) =>
              `<div class="${k.way === 'sent' ? 'in' : 'out'}" style="padding-left:12px;margin:16px 0"><b>${escape(k.mail.from?.text ?? '')}</b> to ${escape(
                [k.mail.to]
                  .flat()
                  .map((t) => t?.text)
                  .join(', '),
              )} <small>${k.at.slice(0, 19)}</small><pre>${escape(k.mail.text ?? '')}</pre>${k.mail.attachments.map((a, i) => `<a href="/mail/${k.id}/attachment/${i}">${escape(a.filename ?? 'attachment')}</a> `).join('')}${k.way === 'received' ? `<p><a href="/write?answers=${k.id}">Answer</a></p>` : ''}</div>`,
          )
          .join('')}`,
      ),
    );
  });
  app.get('/mail/:id/attachment/:n', (req, res) => {
    const a = kept.find((k) => k.id === req.params.id)?.mail.attachments[Number(req.params.n)];
    if (a) res.type(a.contentType).attachment(a.filename).send(a.content);
    else res.status(404).end();
  });
  app.get(
    '/mails.json',
    (_req, res) =>
      void res.json(
        kept.map((k) => ({
          id: k.id,
          way: k.way,
          from: k.mail.from?.text,
          to: [k.mail.to].flat().map((t) => t?.text),
          subject: k.mail.subject,
          text: k.mail.text,
          messageId: k.mail.messageId,
          inReplyTo: k.mail.inReplyTo,
          references: k.mail.references,
          attachments: k.mail.attachments.map((a) => a.filename),
        })),
      ),
  );
  app.post('/switch', (req, res) => {
    mode = req.body.mode as MailSwitch;
    if (req.is('json')) res.json({ mode });
    else res.redirect('/');
  });

  const http = createServer(app);
  await new Promise<void>((resolve) => http.listen(options.httpPort, '127.0.0.1', resolve));
  await new Promise<void>((resolve) => smtp.listen(options.smtpPort, '127.0.0.1', () => resolve()));
  return {
    httpPort: (http.address() as AddressInfo).port,
    smtpPort: (smtp.server.address() as AddressInfo).port,
    setDeliverTo: (port: number) => void Object.assign(options.deliverTo, { port }),
    stop: async () => {
      await Promise.all([
        new Promise<void>((r) => smtp.close(() => r())),
        new Promise<void>((r) => (http.close(() => r()), http.closeAllConnections())),
      ]);
    },
  };
}
