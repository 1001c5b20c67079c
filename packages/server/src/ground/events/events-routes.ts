import { eventRoutes } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readEvents } from './read-events';

export function bindEvents(app: App) {
  return bindRoutes(app, eventRoutes, {
    readEvents: ({ db, query }) => readEvents(db, query.after, query.most),
  });
}
