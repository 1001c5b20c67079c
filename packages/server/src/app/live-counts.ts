import type { Logger } from 'pino';
import { type Live, type Viewer, viewerKey } from './live';

/** The topics whose changes can alter a figure of the rail. */
const COUNTED = new Set(['ticket', 'charge', 'invoice', 'booking', 'mail-aside']);
const GATHER_MS = 250;

/**
 * Counts the figures of the rail after changes, once for all who may see the same, and sends them where they differ from those
 * sent last: two hundred open screens cost what one does.
 */
export function sendCounts(live: Live, log: Logger, count: (viewer: Viewer) => Promise<unknown>): void {
  const sent = new Map<string, string>();
  let waiting: NodeJS.Timeout | undefined;
  const send = async (): Promise<void> => {
    const viewers = live.viewers().filter((v) => v.role);
    // Whoever comes reads for themselves first: what was sent before nobody was there says nothing of what they have.
    for (const key of [...sent.keys()]) if (!viewers.some((v) => viewerKey(v) === key)) sent.delete(key);
    for (const viewer of viewers) {
      const key = viewerKey(viewer);
      const figures = await count(viewer);
      if (sent.get(key) === JSON.stringify(figures)) continue;
      sent.set(key, JSON.stringify(figures));
      live.push(viewer, 'counts', figures);
    }
  };
  const soon = (): void => {
    waiting ??= setTimeout(() => {
      waiting = undefined;
      send().catch((fault: unknown) => {
        log.debug({ fault }, 'counts: the database is away');
        soon();
      });
    }, GATHER_MS).unref();
  };
  live.onAny((topic) => COUNTED.has(topic) && soon());
}
