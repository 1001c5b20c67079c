import { paymentRoutes } from '@core/billing';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { listCredit } from './list-credit';
import { settleInvoice, takeSettlementBack } from './settle-invoice';
import { recordPayment, setPaymentClient } from './take-payment';

export function bindPayments(app: App) {
  return bindRoutes(app, paymentRoutes, {
    listCredit: ({ db, query }) => listCredit(db, query),
    recordPayment: ({ work, body }) => recordPayment(work, body),
    setPaymentClient: ({ work, params, body }) => setPaymentClient(work, params.paymentId, body.clientId),
    settleInvoice: ({ work, params, body }) => settleInvoice(work, params.invoiceId, body),
    takeSettlementBack: ({ work, params, body }) => takeSettlementBack(work, params.settlementId, body.reason),
  });
}
