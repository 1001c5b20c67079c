import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { dirname } from 'node:path';
import express from 'express';
import { escape, page } from '../page';

interface Sale {
  readonly id: string;
  readonly key: string;
  /** Amounts of a credit note are what it gives. */
  readonly kind: 'invoice' | 'credit note';
  readonly reference: string;
  readonly corrects: string | null;
  readonly customer: string;
  readonly date: string;
  readonly dueDate: string;
  readonly currency: string;
  readonly netMinor: number;
  readonly taxMinor: number;
  readonly grossMinor: number;
}
interface Receipt {
  readonly seq: number;
  readonly saleId: string;
  readonly reference: string;
  readonly amountMinor: number;
  readonly currency: string;
  readonly receivedAt: string;
}

/** How it behaves: for trying what happens when it is slow, refuses, answers twice, out of order or not at all. */
export type LedgerSwitch = 'normal' | 'refuse' | 'slow' | 'lost answer' | 'receipts twice';

export interface LedgerStandInOptions {
  readonly port: number;
  readonly key: string;
  readonly file: string;
}

/** A small ledger: takes sales documents over HTTP, once for each key, and tells what was received for them. */
export async function startLedgerStandIn(options: LedgerStandInOptions) {
  mkdirSync(dirname(options.file), { recursive: true });
  const state: { sales: Sale[]; receipts: Receipt[] } = existsSync(options.file)
    ? JSON.parse(readFileSync(options.file, 'utf8'))
    : { sales: [], receipts: [] };
  let mode: LedgerSwitch = 'normal';
  const save = () => {
    writeFileSync(`${options.file}.new`, JSON.stringify(state));
    renameSync(`${options.file}.new`, options.file);
  };
  const app = express();
  app.use(express.urlencoded({ extended: false }), express.json());
  app.use('/v1', (req, res, next) => {
    if (req.get('x-api-key') !== options.key) return void res.status(401).json({ error: 'unknown key' });
    if (mode === 'refuse') return void res.status(503).json({ error: 'closed by the stand-in' });
    setTimeout(next, mode === 'slow' ? 3000 : 0);
  });
  app.post('/v1/sales-documents', (req, res) => {
    const key = req.get('idempotency-key');
    if (!key) return void res.status(400).json({ error: 'an Idempotency-Key is needed' });
    const b = req.body;
    if (typeof b.reference !== 'string' || !Number.isInteger(b.grossMinor) || b.netMinor + b.taxMinor !== b.grossMinor)
      return void res.status(422).json({ error: 'reference is needed, and net + tax must be gross' });
    let sale = state.sales.find((s) => s.key === key);
    if (sale && sale.reference !== b.reference) return void res.status(409).json({ error: `the key was used for ${sale.reference}` });
    if (!sale) {
      sale = {
        id: `L${String(state.sales.length + 1).padStart(6, '0')}`,
        key,
        kind: b.kind ?? 'invoice',
        reference: b.reference,
        corrects: b.corrects ?? null,
        customer: b.customer,
        date: b.date,
        dueDate: b.dueDate,
        currency: b.currency,
        netMinor: b.netMinor,
        taxMinor: b.taxMinor,
        grossMinor: b.grossMinor,
      };
      state.sales.push(sale);
      save();
    }
    if (mode === 'lost answer') return void req.socket.destroy();
    res.status(201).json({ id: sale.id });
  });
  app.get('/v1/receipts', (req, res) => {
    const after = Number(req.query['after'] ?? 0);
    const found = state.receipts.filter((r) => r.seq > after);
    res.json({ receipts: mode === 'receipts twice' ? found.flatMap((r) => [r, r]) : found });
  });
  const paid = (sale: Sale) => state.receipts.filter((r) => r.saleId === sale.id).reduce((a, r) => a + r.amountMinor, 0);
  /** @param reference what the payer wrote, where it is not the document's */
  const receive = (sale: Sale, amountMinor: number, reference = sale.reference) => {
    state.receipts.push({
      seq: state.receipts.length + 1,
      saleId: sale.id,
      reference,
      amountMinor,
      currency: sale.currency,
      receivedAt: new Date().toISOString(),
    });
    save();
  };
  const major = (minor: number) => (minor / 100).toFixed(2);
  app.get('/', (_req, res) => {
    const rows = [...state.sales]
      .reverse()
      .map(
        (s) =>
          `<tr><td>${s.id}</td><td>${escape(s.reference)}</td><td>${escape(s.customer)}</td><td>${s.date}</td><td>${s.currency} ${s.kind === 'credit note' ? '−' : ''}${major(s.grossMinor)}</td><td>${s.kind === 'credit note' ? `credit${s.corrects ? ` of ${escape(s.corrects)}` : ''}` : paid(s) >= s.grossMinor ? 'paid' : `<form method="post" action="/sales/${s.id}/receipts"><input name="amount" size="9" value="${major(s.grossMinor - paid(s))}" aria-label="amount for ${escape(s.reference)}"> <button>Mark paid</button></form>`}</td></tr>`,
      );
    res.send(
      page(
        'Ledger',
        `<p>A stand-in for the provider's ledger. It shows what was booked; mark it paid and the provider hears of it.</p><table><tr><th>Number</th><th>Reference</th><th>Customer</th><th>Date</th><th>Gross</th><th>Received</th></tr>${rows.join('')}</table>
<form method="post" action="/switch"><label for="mode">Behaviour</label><select id="mode" name="mode">${['normal', 'refuse', 'slow', 'lost answer', 'receipts twice'].map((m) => `<option${m === mode ? ' selected' : ''}>${m}</option>`).join('')}</select> <button>Set</button></form>`,
      ),
    );
  });
  app.post('/sales/:id/receipts', (req, res) => {
    const sale = state.sales.find((s) => s.id === req.params.id);
    const amount = Math.round(Number(req.body.amount) * 100);
    if (!sale || !(amount > 0)) return void res.status(422).send(page('Not received', '<p>Give an amount above zero, such as 120.50.</p>'));
    receive(sale, amount, req.body.reference || undefined);
    if (req.is('json')) res.json({ received: amount });
    else res.redirect('/');
  });
  app.get('/state.json', (_req, res) => void res.json(state));
  app.post('/switch', (req, res) => {
    mode = req.body.mode as LedgerSwitch;
    if (req.is('json')) res.json({ mode });
    else res.redirect('/');
  });
  const http = createServer(app);
  await new Promise<void>((resolve) => http.listen(options.port, '127.0.0.1', resolve));
  return {
    port: (http.address() as AddressInfo).port,
    stop: () => new Promise<void>((r) => (http.close(() => r()), http.closeAllConnections())),
  };
}
