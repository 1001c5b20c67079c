import { chargeRoutes } from '@core/billing';
import { parseLocalDate, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { approveAll, undoApproval } from './approve-all';
import { chargeItem } from './charge-item';
import { listChargeClients, listCharges, readCharge } from './charges-read-model';
import { decideCharge } from './decide-charge';
import { shareEntry } from './share-entry';

export function bindCharges(app: App) {
  return bindRoutes(app, chargeRoutes, {
    listCharges: ({ db, query }) => listCharges(db, query),
    listChargeClients: ({ db, query }) => listChargeClients(db, app.house, query),
    approveAll: ({ work, body }) => approveAll(work, body),
    undoApproval: ({ work, params }) => undoApproval(work, params.approvalId),
    getCharge: async ({ db, params }) => (await readCharge(db, params.chargeId)) ?? refuse('not-found', 'There is no such charge.'),
    addCharge: ({ work, body }) => chargeItem(work, app.house, body),
    shareEntry: ({ work, params, body }) => shareEntry(work, app.house, { entryId: params.entryId, body }),
    decideCharge: ({ work, params, version, body }) =>
      decideCharge(work, {
        chargeId: params.chargeId,
        version,
        form: {
          decision: body.decision,
          reason: body.reason,
          quantity: body.quantity ?? null,
          unitPrice: body.unitPrice ?? null,
          description: body.description ?? null,
          until: body.until ? parseLocalDate(body.until) : null,
        },
      }),
  });
}
