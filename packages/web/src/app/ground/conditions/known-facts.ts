import { inject, Injectable } from '@angular/core';
import { catchError, forkJoin, map, type Observable, of, shareReplay } from 'rxjs';
import { clientRoutes } from '@core/clients';
import { FACTS_OF } from '@core/facts';
import { type FactShape, type FactValue } from '@core/ground';
import { houseRoutes } from '@core/house';
import { intakeRoutes, kindRoutes, type FieldKind, type FieldRecord, ownFieldRoutes } from '@core/desk';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';

/** Something that a condition can speak of, as the builder offers it. */
export interface KnownFact {
  readonly path: string;
  readonly label: string;
  readonly shape: FactShape;
  readonly options: readonly Option[];
}

const SHAPES: Readonly<Record<FieldKind, FactShape>> = {
  text: 'words',
  number: 'number',
  choice: 'choice',
  date: 'date',
  'yes/no': 'yes/no',
  person: 'words',
  asset: 'words',
};
const plain = (values: readonly string[] = []): Option[] => values.map((v) => ({ value: v, label: v }));

/** The facts of each kind of record and the house's own fields on it, with what each can be. */
@Injectable({ providedIn: 'root' })
export class KnownFacts {
  private readonly api = inject(Api);
  private readonly all$ = forkJoin([
    this.api.call(ownFieldRoutes.listOwnFields, {}),
    this.api.call(houseRoutes.getHouse, {}),
    this.api.call(intakeRoutes.listCategories, {}),
    everyPage((page) => this.api.call(clientRoutes.listClients, { query: page })),
    this.api.call(kindRoutes.listOwnKinds, {}),
  ]).pipe(
    map(([{ fields }, { desks }, { categories }, clients, own]) => {
      const named: Partial<Record<FactShape, Option[]>> = {
        desk: desks.map((d) => ({ value: d.id, label: d.name })),
        category: categories.map((c) => ({ value: c.id, label: c.parent ? `${c.parent}, ${c.name}` : c.name })),
        'own kind': own.kinds.map((k) => ({ value: k.id, label: k.name })),
        client: clients.rows.map((c) => ({ value: c.id, label: c.name })),
      };
      return (on: FieldRecord): readonly KnownFact[] => [
        ...Object.entries(FACTS_OF[on]).map(([path, f]) => ({
          path,
          label: f.label,
          shape: f.shape,
          options: named[f.shape] ?? plain(f.values),
        })),
        ...fields
          .filter((f) => f.on === on)
          .map((f) => ({ path: `field.${f.id}`, label: f.name, shape: SHAPES[f.kind], options: plain(f.choices) })),
      ];
    }),
    catchError(() => of((): readonly KnownFact[] => [])),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  /** What conditions on records of a kind can speak of. */
  of(on: FieldRecord): Observable<readonly KnownFact[]> {
    return this.all$.pipe(map((factsOf) => factsOf(on)));
  }

  /** A value as it is offered. */
  static words(fact: KnownFact | undefined, value: FactValue): string {
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return fact?.options.find((o) => o.value === value)?.label ?? String(value);
  }
}
