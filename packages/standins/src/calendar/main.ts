import { startCalendarStandIn } from './calendar-standin';

const env = process.env;
const day = 86_400_000;
/** The demo's week lies around its story, a Tuesday. */
const story = Date.parse(env['DRUMLINE_NOW'] ?? '2026-11-24T10:40:00Z');
const at = (days: number, hour: number) => new Date(Math.floor(story / day) * day + days * day + hour * 3_600_000);
const running = await startCalendarStandIn({
  port: Number(env['CALENDAR_PORT'] ?? 4650),
  first: {
    deepa: [
      { summary: 'Dentist', start: at(1, 9), end: at(1, 10.5) },
      { summary: 'Evening class', start: at(2, 16), end: at(2, 18), weekly: true },
    ],
  },
});
process.send?.({ ready: true });
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void running.stop().then(() => process.exit(0)));
