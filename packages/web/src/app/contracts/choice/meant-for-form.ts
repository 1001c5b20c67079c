import { computed, inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { assetRoutes, clientRoutes } from '@core/clients';
import {
  contractChoiceRoutes,
  contractRoutes,
  type ContractWire,
  meantForFormSchema,
  type MeantForWire,
  type Reach,
} from '@core/contracts';
import { SORTED_KINDS } from '@core/desk';
import { houseRoutes } from '@core/house';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';
import type { Line, RecordForm } from '../../ui/record-form';

export const REACH_LABELS: Readonly<Record<Reach, string>> = {
  asset: 'Assets',
  site: 'Sites',
  desk: 'Desks',
  kind: 'Kinds of ticket',
  contact: 'Contacts',
};

/** The short lists come first. */
const FORM_ORDER: readonly Reach[] = ['site', 'desk', 'kind', 'contact', 'asset'];

/** The form that says for what of its client's a contract is; called where injection is possible. */
export function meantForForm(contract: Signal<ContractWire>) {
  const api = inject(Api);
  const { clientId } = contract();
  const named = (all: readonly { readonly id: string; readonly name: string }[]): Option[] =>
    all.map(({ id, name }) => ({ value: id, label: name }));
  const client = toSignal(api.call(clientRoutes.getClient, { params: { clientId } }).pipe(catchError(() => of(undefined))));
  const house = toSignal(api.call(houseRoutes.getHouse, {}).pipe(catchError(() => of(undefined))));
  const assets = toSignal(
    everyPage((page) => api.call(assetRoutes.listAssets, { query: { clientId, ...page } })).pipe(
      map((a) => a.rows.map((r) => ({ value: r.id, label: `${r.number} ${r.name}` }))),
      catchError(() => of([] as Option[])),
    ),
    { initialValue: [] as Option[] },
  );
  const options = computed((): Readonly<Record<Reach, readonly Option[]>> => ({
    asset: assets(),
    site: named(client()?.sites ?? []),
    desk: named(house()?.desks ?? []),
    kind: SORTED_KINDS.map((kind) => ({ value: kind, label: kind })),
    contact: named(client()?.contacts ?? []),
  }));
  return {
    lines: computed(() => FORM_ORDER.map((reach) => lineOf(reach, options()[reach])).filter((l) => l.options!.length)),
    form: (c: ContractWire): RecordForm<typeof meantForFormSchema> => ({
      schema: meantForFormSchema,
      initial: { meantFor: sentOf(c) },
      draft: `meant-for.${c.id}`,
      does: 'Save',
      version: c.version,
      save: (body, version) => api.call(contractChoiceRoutes.setMeantFor, { params: { contractId: c.id }, version: version!, body }),
      stored: () =>
        api
          .call(contractRoutes.getContract, { params: { contractId: c.id } })
          .pipe(map((now) => ({ meantFor: sentOf(now), version: now.version }))),
    }),
  };
}

/** For what a contract is, as it is sent. */
function sentOf({ meantFor }: ContractWire): MeantForWire[] {
  return meantFor.map(({ reach, of: what }) => ({ reach, of: what }));
}

function lineOf(reach: Reach, options: readonly Option[]): Line {
  const all = (values: Readonly<Record<string, unknown>>) => (values['meantFor'] ?? []) as readonly MeantForWire[];
  return {
    name: reach,
    label: REACH_LABELS[reach],
    kind: 'many',
    wide: true,
    options,
    read: (values) =>
      all(values)
        .filter((m) => m.reach === reach)
        .map((m) => m.of),
    write: (value, values) => ({
      meantFor: [...all(values).filter((m) => m.reach !== reach), ...(value as string[]).map((what) => ({ reach, of: what }))],
    }),
  };
}
