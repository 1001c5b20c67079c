import { inject, Injectable } from '@angular/core';
import { catchError, forkJoin, map, of, shareReplay, type Observable } from 'rxjs';
import { assetRoutes, type AssetRowWire, clientRoutes } from '@core/clients';
import { houseRoutes } from '@core/house';
import { deskSettingsRoutes, intakeRoutes } from '@core/desk';
import type { Id } from '@core/ground';
import { categoryGroups } from './category-groups';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';

/** What can be chosen in intake: desks and their lines, categories, clients and the assets of one. */
@Injectable()
export class IntakeChoices {
  private readonly api = inject(Api);
  /** Where to, and what as. */
  readonly house$ = forkJoin([this.api.call(houseRoutes.getHouse, {}), this.api.call(deskSettingsRoutes.getDeskSettings, {})]).pipe(
    map(([{ desks }, { kinds }]) => ({ desks, kinds })),
    shareReplay(1),
  );
  readonly clients$ = everyPage((page) => this.api.call(clientRoutes.listClients, { query: page })).pipe(
    map((a) => a.rows),
    catchError(() => of([])),
    shareReplay(1),
  );
  readonly categories$ = this.api.call(intakeRoutes.listCategories, {}).pipe(
    map((a) => categoryGroups(a.categories)),
    catchError(() => of([])),
    shareReplay(1),
  );
  private readonly lines$ = this.api.call(intakeRoutes.listDeskLines, {}).pipe(
    map((a) => a.lines),
    catchError(() => of([])),
    shareReplay(1),
  );
  /** The desks that have a second line, by id. */
  readonly seconds$ = this.lines$.pipe(map((lines) => new Set(lines.filter((l) => l.line === 'second').map((l) => l.deskId))));

  assetsOf(clientId: Id<'client'> | null): Observable<readonly AssetRowWire[]> {
    if (!clientId) return of([]);
    return everyPage((page) => this.api.call(assetRoutes.listAssets, { query: { clientId, ...page } })).pipe(
      map((a) => a.rows),
      catchError(() => of([])),
    );
  }
}
