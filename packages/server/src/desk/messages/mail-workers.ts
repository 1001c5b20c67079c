import { createHash } from 'node:crypto';
import { resolve } from 'node:path';
import workerpool, { type Pool } from 'workerpool';
import type { ReadMail } from './read-mail';

/** Small mail does not wait behind large: each has threads, and a time, of its own. */
const LANES = {
  small: { upTo: 128 * 1024, threads: 2, wholeMs: 3000 },
  large: { upTo: Infinity, threads: 1, wholeMs: 8000 },
} as const;
const PLAINLY_MS = 3000;
const MOST_MEGABYTES = 128;

/** The worker threads that read mail. */
export class MailWorkers {
  private readonly pools: Readonly<Record<keyof typeof LANES, Pool>>;

  /**
   * @param file the built worker
   * @param ready whether its threads are kept ready: what a thread loads first would be the wait of the first mails
   */
  constructor(file: string, ready: boolean) {
    const pool = (maxWorkers: number) =>
      workerpool.pool(resolve(file), {
        maxWorkers,
        minWorkers: ready ? 'max' : 0,
        workerType: 'thread',
        workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES, maxYoungGenerationSizeMb: 16 } },
      });
    this.pools = { small: pool(LANES.small.threads), large: pool(LANES.large.threads) };
  }

  /** Whole where it can be in time, else its head and a piece of its text. @throws where not even that can be read */
  async read(raw: Buffer): Promise<ReadMail> {
    const lane = raw.length <= LANES.small.upTo ? 'small' : 'large';
    try {
      return await timed({ pool: this.pools[lane], how: 'whole', raw, most: LANES[lane].wholeMs });
    } catch {
      return timed({ pool: this.pools.small, how: 'plainly', raw, most: PLAINLY_MS });
    }
  }

  /** What is known of a mail that cannot be read at all: its bytes. */
  nothingOf(raw: Buffer): ReadMail {
    const sameness = createHash('sha256').update(raw).digest();
    return {
      sameness,
      headers: {},
      messageId: null,
      cites: [],
      from: null,
      to: [],
      cc: [],
      subject: '(not readable)',
      text: '',
      html: null,
      files: [],
      report: null,
      leftOut: ['form'],
    };
  }

  async stop(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.terminate(true)));
  }
}

/** The time counts from when a thread has begun with it: neither its waiting nor the thread's own beginning is the mail's. */
function timed({
  pool,
  how,
  raw,
  most,
}: {
  readonly pool: Pool;
  readonly how: 'whole' | 'plainly';
  readonly raw: Buffer;
  readonly most: number;
}): Promise<ReadMail> {
  return new Promise((done, failed) => {
    const reading = pool.exec(how, [raw], { on: () => void reading.timeout(most) });
    reading.then((mail) => done(mail as ReadMail), failed);
  });
}
