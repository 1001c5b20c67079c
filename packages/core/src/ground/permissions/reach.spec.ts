import fc from 'fast-check';
import { ACCESS_ROLES, holds, type AccessRole, type Permission, PERMISSIONS } from './permissions';
import { permissionsAnywhere, reachOf, type Access } from './reach';

const DIVISIONS = ['services', 'workshop'];
const inWorkshop = (role: AccessRole | null, everywhere: AccessRole = 'technician'): Access => ({
  role: everywhere,
  exceptions: [{ divisionId: 'workshop', role }],
});

describe('where somebody may do something', () => {
  it('is everywhere where nothing else is said', () => {
    expect(reachOf({ role: 'technician', exceptions: [] }, 'time.own', DIVISIONS)).toEqual({ is: 'everywhere', role: 'technician' });
    expect(reachOf({ role: 'technician', exceptions: [] }, 'invoices.issue', DIVISIONS)).toEqual({ is: 'nowhere' });
  });

  it('is in the divisions whose role holds the permission, as the role that may least', () => {
    expect(reachOf(inWorkshop(null), 'tickets.work', DIVISIONS)).toEqual({ is: 'in some', role: 'technician', divisions: ['services'] });
    expect(reachOf(inWorkshop('dispatcher'), 'dispatch.book', DIVISIONS)).toEqual({
      is: 'in some',
      role: 'dispatcher',
      divisions: ['workshop'],
    });
    expect(reachOf(inWorkshop('dispatcher'), 'dispatch.read', DIVISIONS)).toEqual({ is: 'everywhere', role: 'technician' });
    expect(reachOf(inWorkshop(null), undefined, DIVISIONS)).toMatchObject({ divisions: ['services'] });
  });

  it('is nowhere for what concerns the house, unless it is held in every division', () => {
    expect(reachOf(inWorkshop(null, 'administrator'), 'setup.edit', DIVISIONS)).toEqual({ is: 'nowhere' });
    expect(reachOf(inWorkshop('service manager', 'administrator'), 'setup.edit', DIVISIONS)).toMatchObject({ is: 'everywhere' });
    expect(permissionsAnywhere(inWorkshop('billing'), DIVISIONS)).toEqual(expect.arrayContaining(['time.own', 'invoices.issue']));
    expect(permissionsAnywhere(inWorkshop('billing'), DIVISIONS)).not.toContain('expenses.pay');
  });

  it('never reaches a division whose role does not hold it', () => {
    const role = fc.constantFrom(...ACCESS_ROLES);
    const access = fc.record({
      role,
      exceptions: fc.uniqueArray(fc.record({ divisionId: fc.constantFrom(...DIVISIONS), role: fc.option(role) }), {
        selector: (e) => e.divisionId,
      }),
    });
    fc.assert(
      fc.property(access, fc.constantFrom(...(Object.keys(PERMISSIONS) as Permission[])), (given, permission) => {
        const reach = reachOf(given, permission, DIVISIONS);
        const reached = reach.is === 'nowhere' ? [] : reach.is === 'everywhere' ? DIVISIONS : reach.divisions;
        for (const id of reached) {
          const exception = given.exceptions.find((e) => e.divisionId === id);
          const there = exception ? exception.role : given.role;
          expect(there !== null && holds(there, permission)).toBe(true);
          expect(reach.is !== 'nowhere' && holds(reach.role, permission)).toBe(true);
        }
      }),
    );
  });
});
