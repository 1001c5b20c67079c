import type { DocumentKind } from '@core/billing';
import { number, object, string, array, type InferType } from 'yup';

const WAIT_MS = 8000;

const receiptSchema = object({
  seq: number().integer().required(),
  reference: string().required(),
  amountMinor: number().integer().required(),
  currency: string().required(),
  receivedAt: string().required(),
});
const pageSchema = object({ receipts: array(receiptSchema.required()).required() });
export type Receipt = InferType<typeof receiptSchema>;

export interface LedgerDocument {
  readonly kind: DocumentKind;
  readonly reference: string;
  /** The reference of what a credit note corrects. */
  readonly corrects: string | null;
  readonly customer: string;
  readonly date: string;
  readonly dueDate: string;
  readonly currency: string;
  readonly netMinor: number;
  readonly taxMinor: number;
  readonly grossMinor: number;
}

/** Speaks to the ledger over its HTTP API. */
export class LedgerClient {
  constructor(
    private readonly url: string,
    private readonly key: string,
  ) {}

  /** Books a sales document; the same key again books nothing more and gives the same id. */
  async bookSale(document: LedgerDocument, idempotencyKey: string): Promise<string> {
    const answer = await this.ask({
      method: 'POST',
      path: '/v1/sales-documents',
      body: document,
      headers: { 'idempotency-key': idempotencyKey },
    });
    return object({ id: string().required() }).validateSync(answer).id;
  }

  /** What clients paid, in the ledger's order, after the number given. */
  async receiptsAfter(seq: number): Promise<Receipt[]> {
    return pageSchema.validateSync(await this.ask({ method: 'GET', path: `/v1/receipts?after=${seq}` })).receipts;
  }

  /** @throws where the ledger is away or refuses, with its words */
  private async ask({
    method,
    path,
    body,
    headers = {},
  }: {
    readonly method: string;
    readonly path: string;
    readonly body?: unknown;
    readonly headers?: Record<string, string>;
  }): Promise<unknown> {
    const response = await fetch(new URL(path, this.url), {
      method,
      signal: AbortSignal.timeout(WAIT_MS),
      headers: { 'x-api-key': this.key, 'content-type': 'application/json', ...headers },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    if (!response.ok) throw new Error(`the ledger answered ${response.status}: ${(await response.text()).slice(0, 300)}`);
    return response.json();
  }
}
