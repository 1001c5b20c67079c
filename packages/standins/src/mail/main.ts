import { startMailStandIn } from './mail-standin';

const env = process.env;
const running = await startMailStandIn({
  httpPort: Number(env['MAILBOX_PORT'] ?? 4640),
  smtpPort: Number(env['MAILBOX_SMTP_PORT'] ?? 4626),
  deliverTo: { port: Number(env['SMTP_PORT'] ?? 4625) },
  providerAddress: env['PROVIDER_ADDRESS'] ?? 'desk@pellworth.example',
  folder: env['MAILBOX_DIR'] ?? '.drumline/mailbox',
});
process.send?.({ ready: true });
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void running.stop().then(() => process.exit(0)));
