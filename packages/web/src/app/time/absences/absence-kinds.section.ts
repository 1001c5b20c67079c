import { inject } from '@angular/core';
import { map } from 'rxjs';
import { absenceKindFormSchema, absenceRoutes, sayDays, type AbsenceKindWire } from '@core/time';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { isoDay } from '../../ui/time-format';

type Row = AbsenceKindWire & SetupRow;
/** Days are typed as days and kept as halves. */
const inDays = (name: string) => ({
  read: (v: Readonly<Record<string, unknown>>) => Number(v[name]) / 2,
  write: (typed: unknown) => ({ [name]: Number(String(typed).replace(',', '.')) * 2 }),
});

/** Kinds of absence in Setup; called where injection is possible. */
export function absenceKindsSection(): SetupSection<Row, typeof absenceKindFormSchema> {
  const [api, session] = [inject(Api), inject(Session)];
  const hasBalance = (v: Readonly<Record<string, unknown>>) => v['hasBalance'] === true;
  return {
    heading: 'Kinds of absence',
    intro: 'What people ask for, and how many days of it a year gives. Half days count.',
    addWords: 'Add a kind of absence',
    none: 'No kind of absence yet. Add one, such as Annual leave.',
    rows: () =>
      api.call(absenceRoutes.listAbsenceKinds, { query: { year: Number(isoDay(session.now(), session.zone).slice(0, 4)) } }).pipe(
        map(({ kinds }) =>
          kinds.map((k) => ({
            ...k,
            says: k.hasBalance
              ? `${sayDays(k.yearHalves)} a year${k.carryHalves ? `, up to ${sayDays(k.carryHalves)} carried over until ${k.carryUntil}` : ', nothing carried over'}`
              : 'no balance is kept',
          })),
        ),
      ),
    draft: 'absence-kind',
    schema: absenceKindFormSchema,
    fresh: () => ({ name: '', hasBalance: true, yearHalves: 0, carryHalves: 0, carryUntil: '03-31' }),
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'hasBalance', label: 'A balance is kept', kind: 'yes' },
      { name: 'yearHalves', label: 'Days a year', kind: 'number', when: hasBalance, ...inDays('yearHalves') },
      { name: 'carryHalves', label: 'Days carried over at most', kind: 'number', when: hasBalance, ...inDays('carryHalves') },
      { name: 'carryUntil', label: 'To be used by, month and day', when: hasBalance },
    ],
    add: (body) => api.call(absenceRoutes.addAbsenceKind, { body }),
    edit: (row, version, body) => api.call(absenceRoutes.editAbsenceKind, { params: { absenceKindId: row.id }, version, body }),
    archive: (row) => api.call(absenceRoutes.archiveAbsenceKind, { params: { absenceKindId: row.id }, version: row.version }),
  };
}
