import { computed, inject, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, type Observable, of, switchMap } from 'rxjs';
import { assetRoutes, clientRoutes } from '@core/clients';
import {
  ANCHORED,
  contractRoutes,
  type ContractWire,
  COUNTED,
  LINE_FREQUENCIES,
  type LineForm,
  lineFormSchema,
  type LineWire,
  PAID,
  PRICED,
  priceStepSchema,
  PRORATIONS,
  seatsFormSchema,
  USUAL_LINE,
} from '@core/contracts';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';
import type { Line, RecordForm } from '../../ui/record-form';
import { isoDay } from '../../ui/time-format';

export const plainly = (values: readonly string[]): Option[] => values.map((value) => ({ value, label: value }));

const COUNTED_LABELS: Readonly<Record<(typeof COUNTED)[number], string>> = {
  flat: 'one always',
  seat: 'seats: people',
  asset: 'assets',
  metered: 'what a meter says',
};
const PRICED_LABELS: Readonly<Record<(typeof PRICED)[number], string>> = {
  'one price': 'the same for all',
  tiers: 'tiers: more of them cost another price',
  volume: 'volume: all cost what their number reaches',
};
type Values = Readonly<Record<string, unknown>>;
const isOnce = (v: Values) => v['frequency'] === 'once';
const counts =
  (...counted: readonly string[]) =>
  (v: Values) =>
    counted.includes(v['counted'] as string);
const hasUnits = counts('seat', 'asset');
const isMetered = counts('metered');
const hasTiers = (v: Values) => v['priced'] === 'tiers' || v['priced'] === 'volume';

const TIERS: Line = { name: 'tiers', label: 'Another price above so many', kind: 'tiers', wide: true };
export const LINE_FIELDS: readonly Line[] = [
  { name: 'name', label: 'Line' },
  { name: 'counted', label: 'Counts', kind: 'choice', options: COUNTED.map((value) => ({ value, label: COUNTED_LABELS[value] })) },
  { name: 'price', label: 'Price of one for a period', kind: 'money' },
  {
    name: 'priced',
    label: 'Price of many',
    kind: 'choice',
    options: PRICED.map((value) => ({ value, label: PRICED_LABELS[value] })),
    when: (v) => hasUnits(v) || isMetered(v),
  },
  { ...TIERS, when: (v) => (hasUnits(v) || isMetered(v)) && hasTiers(v) },
  { name: 'frequency', label: 'Billed', kind: 'choice', options: plainly(LINE_FREQUENCIES) },
  { name: 'anchored', label: 'Periods begin with', kind: 'choice', options: plainly(ANCHORED), when: (v) => !isOnce(v) },
  { name: 'paid', label: 'Paid', kind: 'choice', options: plainly(PAID), when: (v) => !isMetered(v) },
  {
    name: 'leadDays',
    label: 'Days before it begins',
    kind: 'number',
    placeholder: 'as the client’s',
    when: (v) => v['paid'] === 'in advance' && !isMetered(v),
  },
  { name: 'proration', label: 'Part of a period', kind: 'choice', options: plainly(PRORATIONS), when: (v) => !isOnce(v) && !isMetered(v) },
  { name: 'minimum', label: 'At least', kind: 'number', when: hasUnits },
  { name: 'maximum', label: 'At most', kind: 'number', when: hasUnits },
  { name: 'startsOn', label: 'First day', kind: 'date' },
  { name: 'lastDay', label: 'Last day, if any', kind: 'date', when: (v) => !isOnce(v) },
  { name: 'unitCost', label: 'What one costs us', kind: 'money' },
  { name: 'namesOnInvoice', label: 'Invoices name who or what is on it', kind: 'yes', when: hasUnits },
];

/** A line without what its form does not ask for. */
function lineBody(form: LineForm): LineForm {
  const flat = form.counted === 'flat';
  return {
    ...form,
    ...(flat || form.priced === 'one price' ? { priced: 'one price', tiers: [] } : {}),
    ...(form.counted === 'metered' ? { paid: 'in arrears' } : {}),
    ...(form.frequency === 'once' ? { lastDay: null } : {}),
    ...(hasUnits(form) ? {} : { minimum: null, maximum: null, namesOnInvoice: false }),
  };
}

/** The fields of another price of a line. */
export function priceFields({ priced }: LineWire): readonly Line[] {
  return [
    { name: 'from', label: 'From', kind: 'date' },
    { name: 'price', label: 'Price of one for a period', kind: 'money' },
    ...(priced === 'one price' ? [] : [TIERS]),
  ];
}

/** The forms of a contract's lines; called where injection is possible. */
export function lineForms() {
  const [api, session] = [inject(Api), inject(Session)];
  const today = isoDay(session.now(), session.zone);
  return {
    addLine: (c: ContractWire): RecordForm<typeof lineFormSchema> => ({
      schema: lineFormSchema,
      initial: { ...USUAL_LINE, name: '', counted: 'seat', price: '', startsOn: c.startsOn },
      draft: `new-line.${c.id}`,
      does: 'Add the line',
      save: (body) => api.call(contractRoutes.addLine, { params: { contractId: c.id }, body: lineBody(body) }),
    }),
    price: (c: ContractWire, line: LineWire): RecordForm<typeof priceStepSchema> => ({
      schema: priceStepSchema,
      initial: { from: today, price: '', tiers: line.prices.at(-1)?.tiers ?? line.tiers },
      draft: `price.${line.id}`,
      does: 'Let it hold from then',
      save: (body) => api.call(contractRoutes.setLinePrice, { params: { contractId: c.id, lineId: line.id }, body }),
    }),
    seats: (c: ContractWire, line: LineWire): RecordForm<typeof seatsFormSchema> => ({
      schema: seatsFormSchema,
      initial: { unitIds: [], startsOn: today < line.startsOn ? line.startsOn : today, lastDay: null },
      draft: `seats.${line.id}`,
      does: 'Put them on it',
      save: (body) =>
        api
          .call(contractRoutes.addSeats, { params: { contractId: c.id, lineId: line.id }, body })
          .pipe(map(({ ids }) => ({ id: ids[0]! }))),
    }),
  };
}

/** The lines of the form that puts people or assets on a line, besides those who are on it already; called where injection is possible. */
export function seatLines(
  asked: Signal<
    { readonly clientId: Id<'client'>; readonly counted: LineWire['counted']; readonly besides: ReadonlySet<string> } | undefined
  >,
): Signal<readonly Line[]> {
  const api = inject(Api);
  const units = toSignal(
    toObservable(asked).pipe(
      switchMap((line): Observable<Option[]> => {
        if (!line) return of([]);
        const { clientId, counted, besides } = line;
        const all: Observable<Option[]> =
          counted === 'asset'
            ? everyPage((page) => api.call(assetRoutes.listAssets, { query: { clientId, ...page } })).pipe(
                map((a) => a.rows.map((r) => ({ value: r.id, label: `${r.number} ${r.name}` }))),
              )
            : api
                .call(clientRoutes.getClient, { params: { clientId } })
                .pipe(map((c) => c.contacts.map((k) => ({ value: k.id, label: k.name }))));
        return all.pipe(
          map((units) => units.filter((u) => !besides.has(u.value))),
          catchError(() => of([])),
        );
      }),
    ),
    { initialValue: [] as Option[] },
  );
  return computed(() => [
    { name: 'unitIds', label: asked()?.counted === 'asset' ? 'Assets' : 'People', kind: 'many', options: units(), wide: true },
    { name: 'startsOn', label: 'First day', kind: 'date' },
    { name: 'lastDay', label: 'Last day, if any', kind: 'date' },
  ]);
}
