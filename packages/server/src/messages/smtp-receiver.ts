import { SMTPServer } from 'smtp-server';
import type { App } from '../app/app';
import { receiveMail } from './receive-mail';

const MOST_BYTES = 30 * 1024 * 1024;

/** Takes mail on loopback. 250 is answered only after the mail is committed; 451 asks the sender to try again. */
export function makeSmtpReceiver(app: App): SMTPServer {
  return new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    banner: 'Drumline',
    logger: false,
    onData(stream, session, callback) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('error', callback);
      stream.on('end', () => {
        if (stream.sizeExceeded) return callback(smtpError(552, `The message is larger than ${MOST_BYTES} bytes.`));
        const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : '';
        const end = app.metrics.mailsTaken.startTimer();
        receiveMail(app, Buffer.concat(chunks), { from, to: session.envelope.rcptTo.map((r) => r.address) })
          .then((received) => {
            end({ did: received.did });
            app.log.info({ received }, 'mail taken');
            callback(null, `taken: ${received.did}`);
          })
          .catch((fault) => {
            app.log.error({ fault }, 'mail could not be stored; the sender is asked to try again');
            callback(smtpError(451, 'The message could not be stored. Try again later.'));
          });
        return undefined;
      });
    },
  });
}

function smtpError(responseCode: number, message: string): Error {
  return Object.assign(new Error(message), { responseCode });
}
