export const ACCESS_ROLES = ['service manager', 'dispatcher', 'technician', 'billing', 'account manager', 'administrator'] as const;
/** What a person may see and do in Drumline. */
export type AccessRole = (typeof ACCESS_ROLES)[number];

const ALL: readonly AccessRole[] = ACCESS_ROLES;
const DESK: readonly AccessRole[] = ['service manager', 'dispatcher', 'technician', 'administrator'];
const MANAGERS: readonly AccessRole[] = ['service manager', 'administrator'];
const MONEY: readonly AccessRole[] = ['service manager', 'billing', 'administrator'];

/** Which access roles hold each permission. The one table that routes, screens and tests read. */
export const PERMISSIONS = {
  'tickets.read': ALL,
  'tickets.work': DESK,
  'tickets.triage': ['service manager', 'dispatcher', 'administrator'],
  /** Resolve though a closing check stands in the way, with a reason on record. */
  'tickets.override': MANAGERS,
  'dispatch.read': DESK,
  'dispatch.book': ['service manager', 'dispatcher', 'administrator'],
  'time.own': DESK,
  'time.approve': MANAGERS,
  'expenses.pay': MONEY,
  'charges.read': [...MONEY, 'account manager'],
  'charges.decide': MONEY,
  'invoices.read': [...MONEY, 'account manager'],
  'invoices.issue': ['billing', 'administrator'],
  'clients.read': ALL,
  'clients.edit': ['service manager', 'account manager', 'billing', 'administrator'],
  /** What was agreed with clients; who covers work reads what is left. */
  'contracts.read': ALL,
  'contracts.edit': ['service manager', 'billing', 'account manager', 'administrator'],
  /** Say which contract a ticket or time is for, where it did not find the right one. */
  'contracts.choose': ['service manager', 'dispatcher', 'billing', 'account manager', 'administrator'],
  'assets.edit': DESK,
  'catalogue.read': ALL,
  /** What things and hours cost the provider, and its rates. */
  'costs.read': [...MONEY, 'account manager'],
  'catalogue.edit': ['billing', 'account manager', 'administrator'],
  'setup.read': MANAGERS,
  'setup.edit': MANAGERS,
  'tokens.own': ALL,
} as const satisfies Record<string, readonly AccessRole[]>;
export type Permission = keyof typeof PERMISSIONS;

export function holds(role: AccessRole, permission: Permission): boolean {
  return (PERMISSIONS[permission] as readonly AccessRole[]).includes(role);
}

export function permissionsOf(role: AccessRole): Permission[] {
  return (Object.keys(PERMISSIONS) as Permission[]).filter((permission) => holds(role, permission));
}
