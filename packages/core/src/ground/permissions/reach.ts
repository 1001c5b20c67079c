import type { Id } from '../ids';
import { type AccessRole, holds, type Permission, PERMISSIONS, permissionsOf } from './permissions';

/** What a person may: a role everywhere, and where it is another, or none. */
export interface Access {
  readonly role: AccessRole;
  readonly exceptions: readonly { readonly divisionId: Id<'division'>; readonly role: AccessRole | null }[];
}

/** Where something may be done, and as what. */
export type Reach =
  | { readonly is: 'nowhere' }
  | { readonly is: 'everywhere'; readonly role: AccessRole }
  | { readonly is: 'in some'; readonly role: AccessRole; readonly divisions: readonly string[] };

/** What concerns the whole house: it needs its permission in every division. */
const OF_THE_HOUSE: readonly Permission[] = ['setup.read', 'setup.edit', 'catalogue.edit', 'expenses.pay'];

/** Of several roles the one that may least stands for all of them, where something is asked of the role itself. */
const LEAST_FIRST: readonly AccessRole[] = ['technician', 'dispatcher', 'account manager', 'billing', 'service manager', 'administrator'];

/**
 * The divisions in which a person holds a permission.
 * @param permission undefined for what everybody may who is there
 * @param divisions all there are
 */
export function reachOf({ role, exceptions }: Access, permission: Permission | undefined, divisions: readonly string[]): Reach {
  const may = (r: AccessRole | null): r is AccessRole => r !== null && (permission === undefined || holds(r, permission));
  if (!exceptions.length) return may(role) ? { is: 'everywhere', role } : { is: 'nowhere' };
  const roles = divisions.map((id) => {
    const exception = exceptions.find((e) => e.divisionId === id);
    return { id, role: exception ? exception.role : role };
  });
  const held = roles.flatMap((d) => (may(d.role) ? [{ id: d.id, role: d.role }] : []));
  const [least] = held.map((d) => d.role).sort((a, b) => LEAST_FIRST.indexOf(a) - LEAST_FIRST.indexOf(b));
  if (!least) return { is: 'nowhere' };
  if (held.length === divisions.length) return { is: 'everywhere', role: least };
  if (permission && OF_THE_HOUSE.includes(permission)) return { is: 'nowhere' };
  return { is: 'in some', role: least, divisions: held.map((d) => d.id) };
}

/** All that a person may do anywhere. */
export function permissionsAnywhere(access: Access, divisions: readonly string[]): Permission[] {
  if (!access.exceptions.length) return permissionsOf(access.role);
  return (Object.keys(PERMISSIONS) as Permission[]).filter((permission) => reachOf(access, permission, divisions).is !== 'nowhere');
}
