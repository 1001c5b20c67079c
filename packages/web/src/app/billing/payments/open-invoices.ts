import { catchError, map, type Observable, of } from 'rxjs';
import { invoiceRoutes, type InvoiceRowWire } from '@core/billing';
import type { Id } from '@core/ground';
import type { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';

/** Invoices of a client of which something is left, the one that is due first first; none where they cannot be read. */
export function openInvoices(api: Api, clientId: Id<'client'> | '' | null): Observable<readonly InvoiceRowWire[]> {
  if (!clientId) return of([]);
  return everyPage((page) => api.call(invoiceRoutes.listInvoices, { query: { clientId, sort: 'due', ...page } })).pipe(
    map(({ rows }) => rows.filter((i) => i.kind === 'invoice' && i.left.minor > 0)),
    catchError(() => of([])),
  );
}
