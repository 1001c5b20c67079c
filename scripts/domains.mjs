// The domains and which of them may use which, in core, server and web alike. Read by the structure check; docs/architecture.md says why.
export const DOMAINS = {
  ground: [],
  house: ['ground'],
  goods: ['ground', 'house'],
  desk: ['ground', 'house', 'goods'],
  clients: ['ground', 'house', 'goods', 'desk'],
  scheduling: ['ground', 'house', 'goods', 'desk', 'clients'],
  time: ['ground', 'house', 'goods', 'desk', 'clients', 'scheduling'],
  billing: ['ground', 'house', 'goods', 'desk', 'clients', 'scheduling', 'time'],
  insight: ['ground', 'house', 'goods', 'desk', 'clients', 'scheduling', 'time', 'billing'],
};

/**
 * What still runs against that table, or in a circle within a domain. Nothing is added here: what happens in one domain is
 * to tell the others by events. A line that holds no more is a fault of the check, so that the list only gets shorter.
 */
export const AGAINST = {
  core: ['house/house → desk'],
  server: ['desk/action-time → time/time-entries', 'desk/messages → billing/invoices', 'house/house → desk/own-fields'],
  web: [
    'desk/action-time → time/absences',
    'desk/action-time → time/approval',
    'desk/action-time → time/expenses',
    'desk/action-time → time/internal-work',
    'desk/routines → clients/clients',
    'desk/tickets → billing/charges',
    'desk/tickets → clients/clients',
    'desk/tickets → scheduling/presence',
    'desk/tickets → time/time-entries',
    'house/house → desk/kinds',
    'house/house → desk/own-fields',
    'house/house → desk/statuses',
    'house/house → desk/umbrellas',
    'scheduling/dispatch → time/time-entries',
  ],
};

/** Capabilities of one domain that still import each other in a circle. */
export const CIRCLES = {
  core: [],
  server: ['desk/clocks desk/flat-fees desk/intake desk/mail-rules desk/messages desk/templates desk/tickets desk/umbrellas'],
  web: ['desk/intake desk/tickets'],
};
