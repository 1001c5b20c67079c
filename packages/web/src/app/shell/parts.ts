import type { Provider } from '@angular/core';
import { UNIT_BILLING } from '../clients/clients/unit-billing';
import { CONTRACT_SECTIONS } from '../contracts/contracts/contract-sections';
import { TIME_FORM } from '../desk/action-time/time-form';
import { TICKET_SECTIONS } from '../desk/tickets/ticket-sections';

/** What pages show of domains that they do not know, each loaded when it is shown: the one list of it. */
export const PARTS: readonly Provider[] = [
  { provide: TIME_FORM, useValue: () => import('../time/time-entries/log-time').then((m) => m.LogTime) },
  {
    provide: TICKET_SECTIONS,
    useValue: {
      'its contract': () => import('../time/contract-time/ticket-contract').then((m) => m.TicketContract),
      'after the facts': () => import('../time/time-entries/ticket-entries').then((m) => m.TicketEntries),
      'at the end': () => import('../billing/charges/ticket-charges').then((m) => m.TicketCharges),
    },
  },
  { provide: UNIT_BILLING, useValue: () => import('../contracts/seats/unit-seats').then((m) => m.UnitSeats) },
  {
    provide: CONTRACT_SECTIONS,
    useValue: {
      'what was drawn': () => import('../time/contract-time/contract-time').then((m) => m.ContractTime),
      'next invoice': () => import('../billing/recurring-charges/next-invoice').then((m) => m.NextInvoice),
    },
  },
];
