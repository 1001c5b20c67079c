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
  core: [],
  server: ['desk/action-time → time/time-entries'],
  web: ['desk/tickets → billing/charges', 'desk/tickets → time/time-entries', 'scheduling/dispatch → time/time-entries'],
};

/** Capabilities of one domain that still import each other in a circle. */
export const CIRCLES = {
  core: [],
  server: ['desk/clocks desk/flat-fees desk/intake desk/mail-rules desk/messages desk/templates desk/tickets desk/umbrellas'],
  web: [],
};
