import type { Socket } from 'node:net';
import type { Readable } from 'node:stream';
import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from 'smtp-server';
import type { App } from '../../app/app';
import { receiveMail } from './receive-mail';

const MEGABYTE = 1024 * 1024;
const MOST_BYTES = 30 * MEGABYTE;
/** What all mails that are just coming in may hold in memory together. */
const MOST_BYTES_IN_ALL = 120 * MEGABYTE;
const MOST_RECIPIENTS = 100;
/** Of one address; a mail server of one's own may have many at a time. */
const MOST_BY_ADDRESS = 50;
const MOST_CONNECTIONS = 200;
/** A whole mail; RFC 5321, 4.5.3.2 asks for minutes of patience between pieces, and for no more of them. */
const WHOLE_DATA_MS = 120_000;
const SILENT_MS = 60_000;
const LINGER_MS = 2000;

interface Limits {
  /** Bytes of all mails that are just coming in. */
  held: number;
  readonly connections: Map<string, number>;
}

/**
 * Takes mail on loopback. 250 is answered only after the mail is committed; 451 asks the sender to try again. What is
 * too large is ended where it is, and nobody holds more than their share.
 */
export function makeSmtpReceiver(app: App): SMTPServer {
  const limits: Limits = { held: 0, connections: new Map() };
  const smtp: SMTPServer = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    maxClients: MOST_CONNECTIONS,
    socketTimeout: SILENT_MS,
    banner: 'Drumline',
    logger: false,
    onConnect(session, callback) {
      const now = limits.connections.get(session.remoteAddress) ?? 0;
      limits.connections.set(session.remoteAddress, now + 1);
      callback(now < MOST_BY_ADDRESS ? null : smtpError(421, `At most ${MOST_BY_ADDRESS} connections at a time. Try again later.`));
    },
    onClose(session) {
      const left = (limits.connections.get(session.remoteAddress) ?? 1) - 1;
      if (left > 0) limits.connections.set(session.remoteAddress, left);
      else limits.connections.delete(session.remoteAddress);
    },
    onRcptTo(_address, session, callback) {
      callback(session.envelope.rcptTo.length < MOST_RECIPIENTS ? null : smtpError(452, `At most ${MOST_RECIPIENTS} recipients a mail.`));
    },
    onData(stream, session, callback) {
      readData(stream, limits, (code, words) => hangUp({ smtp, session, code, words }))
        .then(async (raw) => {
          if (!raw) return;
          const end = app.metrics.mailsTaken.startTimer();
          const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : '';
          try {
            const received = await receiveMail(app, raw, { from, to: session.envelope.rcptTo.map((r) => r.address) });
            end({ did: received.did });
            app.log.info({ received }, 'mail taken');
            callback(null, `taken: ${received.did}`);
          } finally {
            limits.held -= raw.length;
          }
        })
        .catch((fault) => {
          app.log.error({ fault }, 'mail could not be stored; the sender is asked to try again');
          callback(smtpError(451, 'The message could not be stored. Try again later.'));
        });
    },
  });
  return smtp;
}

/** Reads a mail as long as it fits. @returns undefined where it did not, and the connection was ended */
function readData(
  stream: SMTPServerDataStream & Readable,
  limits: Limits,
  end: (code: number, words: string) => void,
): Promise<Buffer | undefined> {
  return new Promise((done, failed) => {
    let chunks: Buffer[] = [];
    let bytes = 0;
    let ended = false;
    const stop = (code: number, words: string) => {
      if (ended) return;
      ended = true;
      clearTimeout(whole);
      limits.held -= bytes;
      chunks = [];
      end(code, words);
      done(undefined);
    };
    const whole = setTimeout(() => stop(421, `A whole mail may take ${WHOLE_DATA_MS / 1000} seconds.`), WHOLE_DATA_MS);
    stream.on('data', (chunk: Buffer) => {
      if (ended) return;
      bytes += chunk.length;
      limits.held += chunk.length;
      chunks.push(chunk);
      if (bytes > MOST_BYTES) stop(552, `The message is larger than ${MOST_BYTES} bytes.`);
      else if (limits.held > MOST_BYTES_IN_ALL) stop(452, 'Too much mail at once. Try again later.');
    });
    stream.on('error', (fault) => {
      if (!ended) limits.held -= bytes;
      ended = true;
      clearTimeout(whole);
      failed(fault);
    });
    stream.on('close', () => stop(421, 'The connection was lost.'));
    stream.on('end', () => {
      if (ended) return;
      ended = true;
      clearTimeout(whole);
      done(Buffer.concat(chunks));
    });
  });
}

/** Answers and ends a connection in the middle of a mail: to wait for the end of one that is too large is to take it. */
function hangUp({
  smtp,
  session,
  code,
  words,
}: {
  readonly smtp: SMTPServer;
  readonly session: SMTPServerSession;
  readonly code: number;
  readonly words: string;
}): void {
  const open = smtp.connections as unknown as Set<{ session: SMTPServerSession; _socket: Socket }>;
  for (const connection of open) {
    if (connection.session.id !== session.id) continue;
    connection._socket.end(`${code} ${words}\r\n`);
    // What still comes is dropped for a moment, so that the answer is not lost with a connection that is reset.
    setTimeout(() => connection._socket.destroy(), LINGER_MS).unref();
  }
}

function smtpError(responseCode: number, message: string): Error {
  return Object.assign(new Error(message), { responseCode });
}
