import { inject } from '@angular/core';
import { forkJoin, map } from 'rxjs';
import { accessFormSchema, divisionRoutes, type PersonAccessWire } from '@core/house';
import { ACCESS_ROLES, type AccessRole } from '@core/ground';
import { Api } from '../../shell/api';
import type { Line } from '../../ui/record-form';
import type { SetupRow, SetupSection } from '../../ui/setup-list';

type Row = PersonAccessWire & SetupRow;
type Exceptions = PersonAccessWire['exceptions'];
interface Named {
  readonly id: string;
  readonly name: string;
}
/** What the choice of a division says for no role there; nothing chosen is the role everywhere. */
const NO_ACCESS = 'no access';
const ROLES = ACCESS_ROLES.map((role) => ({ value: role, label: role }));

/** Who may do what, everywhere and by division; called where injection is possible. */
export function accessSection(): SetupSection<Row, typeof accessFormSchema> {
  const api = inject(Api);
  let divisions: readonly Named[] = [];
  return {
    heading: 'Access',
    intro: 'A role says what somebody may see and do. In a division it can be another. Who has no access to a division sees nothing of it.',
    none: 'There is nobody.',
    rows: () =>
      forkJoin([api.call(divisionRoutes.listAccess, {}), api.call(divisionRoutes.listDivisions, {})]).pipe(
        map(([access, known]) => {
          divisions = known.divisions;
          return access.people.map((p) => ({ ...p, id: p.personId, version: 0, says: says(p, divisions) }));
        }),
      ),
    draft: 'access',
    schema: accessFormSchema,
    lines: () => [{ name: 'role', label: 'Role', kind: 'choice', options: ROLES }, ...divisions.map(lineOf)],
    edit: (row, _, body) => api.call(divisionRoutes.setAccess, { params: { personId: row.id }, body }),
  };
}

function lineOf({ id, name }: Named): Line {
  const of = (values: Readonly<Record<string, unknown>>) => (values['exceptions'] ?? []) as Exceptions;
  let exceptions: Exceptions = [];
  return {
    name: `in ${id}`,
    label: `In ${name}`,
    kind: 'choice',
    none: 'the same role',
    options: [...ROLES, { value: NO_ACCESS, label: NO_ACCESS }],
    read: (values) => {
      exceptions = of(values);
      const own = exceptions.find((e) => e.divisionId === id);
      return own ? (own.role ?? NO_ACCESS) : null;
    },
    write: (value) => {
      const others = exceptions.filter((e) => e.divisionId !== id);
      return { exceptions: value ? [...others, { divisionId: id, role: value === NO_ACCESS ? null : (value as AccessRole) }] : others };
    },
  };
}

function says({ role, exceptions }: PersonAccessWire, divisions: readonly Named[]): string {
  const where = exceptions.map((e) => `${e.role ?? NO_ACCESS} in ${divisions.find((d) => d.id === e.divisionId)?.name}`);
  return [role, ...where].join(', ');
}
