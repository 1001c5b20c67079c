import { fileURLToPath } from 'node:url';
import { supervise } from './supervise';

/** The program that is started: it keeps the server running, whatever ends it. */
const supervised = supervise({
  file: fileURLToPath(new URL('./main.js', import.meta.url)),
  silentMs: 30_000,
  pauseMs: 100,
  mostPauseMs: 10_000,
  settledMs: 60_000,
  onReady: (message) => process.connected && process.send?.(message),
  onNeverReady: (code) => process.exit(code),
  say: (words) => console.error(`Drumline: ${words}.`),
});
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => void supervised.stop(signal).then((code) => process.exit(code)));
process.on('disconnect', () => void supervised.stop('SIGTERM').then((code) => process.exit(code)));
