import { computed, inject, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, map, of, switchMap } from 'rxjs';
import { assetRoutes } from '@core/clients';
import { type FieldRecord, ownFieldRoutes, type OwnFieldWire } from '@core/desk';
import { accessRoutes } from '@core/house';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';
import type { FieldChoices } from './field-lines';

/** The house's own fields on records of a kind; none while they are not there. Called where injection is possible. */
export function fieldsOn(on: FieldRecord): Signal<readonly OwnFieldWire[]> {
  return toSignal(
    inject(Api)
      .call(ownFieldRoutes.listOwnFields, { query: { on } })
      .pipe(
        map((a): readonly OwnFieldWire[] => a.fields),
        catchError(() => of<readonly OwnFieldWire[]>([])),
      ),
    { initialValue: [] },
  );
}

/** The people and assets that own fields can name, read only where a field does. Called where injection is possible. */
export function fieldChoices(fields: Signal<readonly Pick<OwnFieldWire, 'kind'>[]>, clientId: Signal<string | null>): Signal<FieldChoices> {
  const api = inject(Api);
  const named = (kind: OwnFieldWire['kind']) => computed(() => fields().some((f) => f.kind === kind));
  const [wantsPeople, wantsAssets] = [named('person'), named('asset')];
  const people = toSignal(
    toObservable(wantsPeople).pipe(
      switchMap((wanted) =>
        wanted
          ? api.call(accessRoutes.listPeople, {}).pipe(
              map((a): Option[] => a.people.map((p) => ({ value: p.id, label: p.name }))),
              catchError(() => of<Option[]>([])),
            )
          : of<Option[]>([]),
      ),
    ),
    { initialValue: [] },
  );
  const assets = toSignal(
    toObservable(computed(() => (wantsAssets() ? clientId() : null))).pipe(
      distinctUntilChanged(),
      switchMap((of_) =>
        of_
          ? everyPage((page) => api.call(assetRoutes.listAssets, { query: { clientId: of_, ...page } })).pipe(
              map((a): Option[] => a.rows.map((r) => ({ value: r.id, label: `${r.number} ${r.name}` }))),
              catchError(() => of<Option[]>([])),
            )
          : of<Option[]>([]),
      ),
    ),
    { initialValue: [] },
  );
  return computed(() => ({ people: people(), assets: assets() }));
}
