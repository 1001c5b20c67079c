import { readConfig } from './config';
import { startServer } from './start-server';
import { ALIVE_MS } from './supervise';

const running = await startServer(readConfig(process.env));
process.send?.({ port: running.port, smtpPort: running.smtpPort });
// Whoever watches this process hears that its events still turn.
if (process.send) setInterval(() => process.connected && process.send!({ alive: true }), ALIVE_MS).unref();

/** After a fault that nobody caught nothing is certain: it is written down, and whoever watches begins anew. */
for (const kind of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(kind, (fault: unknown) => {
    running.app.log.fatal({ fault, kind }, 'a fault that nobody caught; the process ends');
    process.exit(1);
  });

let stopping = false;
// Also where whoever began this process is gone.
for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const)
  process.on(signal as 'SIGTERM', () => {
    if (stopping) return;
    stopping = true;
    running.stop().then(
      () => process.exit(0),
      (fault) => {
        running.app.log.error({ fault }, 'stopping failed');
        process.exit(1);
      },
    );
  });
