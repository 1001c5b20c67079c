import { startLedgerStandIn } from './ledger-standin';

const env = process.env;
const running = await startLedgerStandIn({
  port: Number(env['LEDGER_PORT'] ?? 4630),
  key: env['LEDGER_KEY'] ?? 'demo-ledger-key',
  file: env['LEDGER_FILE'] ?? '.drumline/ledger.json',
});
process.send?.({ ready: true });
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void running.stop().then(() => process.exit(0)));
