import { bookRoutes } from '@core/billing';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { checkBooks } from './check-books';

export function bindBooks(app: App) {
  return bindRoutes(app, bookRoutes, { checkBooks: ({ db }) => checkBooks(db) });
}
