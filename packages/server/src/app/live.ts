import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import pg from 'pg';
import type { Logger } from 'pino';
import type { LiveEvent } from '@core/ground';
import { isGood, openedBy, type OpenedBy } from './opened-by';

const CHANNEL = 'drumline_live';
const RELAY_LOCK = 820_417;
const TICK_MS = 100;
const BATCH = 500;
const RELISTEN_MS = 500;
const READ_AT_ONCE = 2000;
/** Who missed more loads anew: that is less than reading it all. */
const MOST_MISSED = 5000;
/** Who reads so slowly is ended; the browser comes back and asks for what it missed. */
const MOST_UNREAD_BYTES = 1_000_000;

interface Sent extends LiveEvent {
  readonly seq: number;
  /** Of its record, where that belongs to one. */
  readonly division: string | null;
}

/** Topics of what concerns one person alone. */
const PRIVATE = new Set(['notice']);

/** Where live changes are read from, and whom they are kept apart for. */
interface LiveFrom {
  readonly knex: Knex;
  /** Of the connection that listens. */
  readonly url: string;
  readonly log: Logger;
  readonly divisionIds: () => readonly string[];
}

/**
 * Live changes. One relay among all server processes numbers what stands in the outbox, in order of commit,
 * and notifies; every process listens, reads what is new and sends it to its browsers. A browser that was
 * away names the last number it saw and gets the rest.
 */
export class Live {
  private readonly streams = new Set<Stream>();
  private readonly handlers = new Map<string, () => Promise<void>>();
  private told: (topic: string) => void = () => undefined;
  private last = 0;
  private listener: pg.Client | undefined;
  private stopped = false;
  private timer: NodeJS.Timeout | undefined;
  private reading: Promise<void> = Promise.resolve();
  private readonly keepAlive: NodeJS.Timeout;

  constructor(private readonly from: LiveFrom) {
    this.keepAlive = setInterval(() => {
      for (const { res } of this.streams) if (!res.writableEnded) res.write(': here\n\n');
      void this.endStreams().catch((fault: unknown) => this.from.log.debug({ fault }, 'live: the database is away'));
    }, 15_000);
    this.handlers.set('access', () => this.endStreams());
  }

  /** What this process itself does when something of a topic changed, in whichever process. */
  on(topic: string, handle: () => Promise<void>): void {
    this.handlers.set(topic, handle);
  }

  /** What this process does whenever something changed, by its topic; not waited for. */
  onAny(handle: (topic: string) => void): void {
    this.told = handle;
  }

  /** Who looks now, by what they may see, each once. */
  viewers(): Viewer[] {
    const found = new Map<string, Viewer>();
    for (const { by } of this.streams) found.set(viewerKey(by), { role: by.role, divisions: by.divisions });
    return [...found.values()];
  }

  /** Sends what is no change of a record, such as figures that were counted anew, to all who may see the same. */
  push(viewer: Viewer, event: string, data: unknown): void {
    for (const { res, by } of this.streams)
      if (viewerKey(by) === viewerKey(viewer) && !res.writableEnded && !res.destroyed && res.writableLength <= MOST_UNREAD_BYTES)
        res.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  }

  async start(): Promise<void> {
    const [position] = await this.from.knex('outbox_position').select('last_seq');
    this.last = position!.last_seq;
    await new Promise<void>((resolve) => void this.listen(resolve));
    this.timer = setTimeout(() => void this.tick(), TICK_MS);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.timer);
    clearInterval(this.keepAlive);
    for (const { res } of this.streams) res.end();
    await this.listener?.end().catch(() => undefined);
  }

  /**
   * GET /api/live: server-sent events after the number in Last-Event-ID, else from now on. Who was away for too much,
   * or for longer than events are kept, is told to load anew. The stream ends with what it was opened by.
   */
  serve = async (req: Request, res: Response): Promise<void> => {
    if (this.stopped) return void res.writeHead(503, { connection: 'close' }).end();
    const from = Number(req.get('last-event-id') ?? req.query['after'] ?? NaN);
    res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' });
    const stream: Stream = { res, by: openedBy(req, this.from.divisionIds()) };
    // A browser that goes in the middle of a word is no fault.
    res.on('error', () => this.streams.delete(stream));
    req.on('close', () => this.streams.delete(stream));
    // Catching up and joining happen after one another in the queue of reads, so nothing falls between.
    this.reading = this.reading
      .then(async () => {
        if (res.destroyed) return;
        res.write(`retry: 1000\nid: ${Number.isSafeInteger(from) ? Math.min(from, this.last) : this.last}\nevent: hello\ndata: {}\n\n`);
        if (Number.isSafeInteger(from) && from < this.last) await this.catchUp(stream, from);
        if (!res.writableEnded) this.streams.add(stream);
      })
      .catch((fault) => {
        this.from.log.warn({ fault }, 'live: catch-up failed');
        res.end();
      });
  };

  private async catchUp(stream: Stream, from: number): Promise<void> {
    const first = await this.from.knex('outbox').whereNotNull('seq').orderBy('seq').first('seq');
    const isKept = first !== undefined && first.seq! <= from + 1;
    if (!isKept || this.last - from > MOST_MISSED) {
      stream.res.write(`id: ${this.last}\nevent: anew\ndata: {}\n\n`);
      return;
    }
    for (let at = from; at < this.last;) {
      const events = await this.read(at, this.last);
      if (!events.length) return;
      for (const event of events) write(stream, event);
      at = events.at(-1)!.seq;
    }
  }

  /** Ends the streams of whoever has signed out meanwhile, whose token was revoked, or who may see something else now. */
  async endStreams(): Promise<void> {
    for (const stream of [...this.streams])
      if (!(await isGood(this.from.knex, stream.by))) {
        this.streams.delete(stream);
        stream.res.end();
      }
  }

  /** Holds one listening connection; where it is lost, the next is made after a pause, one at a time. */
  private async listen(first: () => void): Promise<void> {
    while (!this.stopped) {
      const client = new pg.Client({ connectionString: this.from.url });
      const lost = new Promise<void>((resolve) => client.once('end', resolve).on('error', () => resolve()));
      client.on('notification', () => this.forward());
      try {
        await client.connect();
        await client.query(`listen ${CHANNEL}`);
        this.listener = client;
        first();
        this.forward();
        await lost;
      } catch (fault) {
        this.from.log.debug({ fault }, 'live: the database is away');
      }
      await client.end().catch(() => undefined);
      if (!this.stopped) await new Promise((resolve) => setTimeout(resolve, RELISTEN_MS));
    }
  }

  private forward(): void {
    this.reading = this.reading
      .then(async () => {
        for (let events = await this.readNew(); events.length; events = await this.readNew())
          for (const event of events) {
            await this.handlers.get(event.topic)?.();
            this.told(event.topic);
            this.last = event.seq;
            for (const stream of this.streams) write(stream, event);
          }
      })
      .catch((fault) => {
        this.from.log.warn({ fault }, 'live: reading failed, tried again');
        // Not only at the next event: perhaps none comes, and screens would show what is over.
        if (!this.stopped) setTimeout(() => this.forward(), RELISTEN_MS);
      });
  }

  private readNew(): Promise<Sent[]> {
    return this.read(this.last, Number.MAX_SAFE_INTEGER);
  }

  private async read(after: number, upTo: number): Promise<Sent[]> {
    const rows = await this.from
      .knex('outbox')
      .where('seq', '>', after)
      .andWhere('seq', '<=', upTo)
      .orderBy('seq')
      .limit(READ_AT_ONCE)
      .select('seq', 'topic', 'subject_id', 'payload', 'ticket_id', 'client_id', 'person_id', 'division_id');
    return rows.map((row) => ({
      seq: row.seq!,
      topic: row.topic,
      id: row.subject_id,
      ticketId: row.ticket_id,
      clientId: row.client_id,
      personId: row.person_id,
      by: row.payload.by ?? null,
      division: row.division_id,
    }));
  }

  private async tick(): Promise<void> {
    try {
      await this.relay();
    } catch (fault) {
      this.from.log.debug({ fault }, 'relay: the database is away');
    }
    if (!this.stopped) this.timer = setTimeout(() => void this.tick(), TICK_MS);
  }

  private async relay(): Promise<void> {
    const waiting = await this.from.knex('outbox').whereNull('seq').first('id');
    if (!waiting) return;
    await this.from.knex.transaction(async (tx) => {
      const lock = await tx.raw('select pg_try_advisory_xact_lock(?) as got', [RELAY_LOCK]);
      if (!lock.rows[0].got) return;
      const numbered = await tx.raw(
        `with p as (select last_seq from outbox_position), n as (select id, row_number() over (order by id) as k from outbox where seq is null order by id limit ?)
         update outbox o set seq = p.last_seq + n.k from n, p where o.id = n.id`,
        [BATCH],
      );
      await tx('outbox_position').increment('last_seq', numbered.rowCount);
      await tx.raw(`select pg_notify(?, '')`, [CHANNEL]);
    });
  }
}

/** What somebody may see who looks. */
export type Viewer = Pick<OpenedBy, 'role' | 'divisions'>;
export const viewerKey = ({ role, divisions }: Viewer) => `${role} ${divisions ? [...divisions].sort().join(' ') : 'all'}`;

interface Stream {
  readonly res: Response;
  readonly by: OpenedBy;
}

/** What a viewer may not see is not sent. */
function write({ res, by }: Stream, { seq, division, ...event }: Sent): void {
  if (res.writableEnded || res.destroyed) return;
  if (by.divisions && division && !by.divisions.includes(division)) return;
  if (PRIVATE.has(event.topic) && event.personId && event.personId !== by.personId) return;
  if (res.writableLength > MOST_UNREAD_BYTES) return void res.end();
  res.write(`id: ${seq}\ndata: ${JSON.stringify(event)}\n\n`);
}
