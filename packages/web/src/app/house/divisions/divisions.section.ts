import { inject } from '@angular/core';
import { map } from 'rxjs';
import { divisionFormSchema, divisionRoutes, type DivisionWire } from '@core/house';
import { Api } from '../../shell/api';
import type { SetupRow, SetupSection } from '../../ui/setup-list';

type Row = DivisionWire & SetupRow;

/** Divisions in Setup, each with what it has of its own; called where injection is possible. */
export function divisionsSection(): SetupSection<Row, typeof divisionFormSchema> {
  const api = inject(Api);
  return {
    heading: 'Divisions',
    intro: 'What a division leaves empty is the same as for the whole provider. A client belongs to one, with all that is done for them.',
    none: 'There is no division.',
    rows: () => api.call(divisionRoutes.listDivisions, {}).pipe(map(({ divisions }) => divisions.map((d) => ({ ...d, says: says(d) })))),
    draft: 'division',
    schema: divisionFormSchema,
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'brand', label: 'Clients know it as', placeholder: 'the name of the provider' },
      { name: 'mailFrom', label: 'Mail leaves from', placeholder: 'the address of the provider' },
      { name: 'labourTaxPercent', label: 'Tax of labour in percent', placeholder: 'as for the provider' },
    ],
    edit: (row, version, body) => api.call(divisionRoutes.editDivision, { params: { divisionId: row.id }, version, body }),
  };
}

function says({ brand, mailFrom, labourTaxPercent, series }: DivisionWire): string {
  const tax = labourTaxPercent === null ? null : `labour at ${labourTaxPercent} % tax`;
  const numbers = series.length ? `numbers ${series.join(', ')}` : null;
  return [brand && `known as ${brand}`, mailFrom, tax, numbers].filter(Boolean).join(' · ');
}
