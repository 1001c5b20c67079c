import { flatFeeRoutes } from '@core/desk';
import { isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { askForFee } from './ask-for-fee';
import { addFee, archiveFee, editFee, readFees } from './fees';
import { readTicketFee } from '../tickets/read-ticket-fee';
import { dismissFeeHint, removeFee, setFee, setFeeResult } from './ticket-fee';

export function bindFlatFees(app: App) {
  const { house } = app;
  return bindRoutes(app, flatFeeRoutes, {
    listFees: async ({ db }) => ({ fees: await readFees(db) }),
    addFee: ({ work, body }) => addFee(work, body),
    editFee: ({ work, params, version, body }) => editFee(work, { id: params.feeId, version, form: body }),
    archiveFee: ({ work, params, version }) => archiveFee(work, params.feeId, version),
    getTicketFee: ({ db, params }) => readTicketFee(db, params.ticketId),
    setFee: async ({ work, params, body }) => {
      const set = await setFee(work, house, { ticketId: params.ticketId, choice: body });
      if (isRefusal(set) || set.state !== 'asked') return set;
      const asked = await askForFee(app, work, params.ticketId);
      return isRefusal(asked) ? asked : set;
    },
    removeFee: ({ work, params, body }) => removeFee(work, house, { ticketId: params.ticketId, reason: body.reason }),
    setFeeResult: ({ work, params, body }) =>
      setFeeResult(work, { ticketId: params.ticketId, result: body.result, note: body.note ?? null }),
    dismissFeeHint: ({ work, params }) => dismissFeeHint(work, params.ticketId),
  });
}
