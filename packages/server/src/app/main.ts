import { readConfig } from './config';
import { startServer } from './start-server';

const running = await startServer(readConfig(process.env));
process.send?.({ port: running.port, smtpPort: running.smtpPort });
let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
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
