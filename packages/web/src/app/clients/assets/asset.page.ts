import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BehaviorSubject, combineLatest, filter, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { assetRoutes } from '@core/clients';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { PageAddress } from '../../shell/page-address';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { AssetFormPanel } from './asset-form';

@Component({
  selector: 'dl-asset-page',
  imports: [AsyncPipe, RouterLink, StateNote, Story, AssetFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = asset$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      @let a = now.value;
      <div class="page">
        <header class="page-head">
          <h1 class="mono">{{ a.number }}</h1>
          <span>{{ a.name }}</span><span class="soft">{{ a.make }}</span>
          @if (a.archived) {
            <span class="tag">put away</span>
          }
          <span class="grow"></span>
          @if (session.may('assets.edit')) {
            <button type="button" class="btn-plain" (click)="editing = !editing">Change</button>
          }
        </header>
        <div class="page-body">
          @if (editing) {
            <dl-asset-form [asset]="a" (saved)="editing = false; again.next()" (closed)="editing = false; again.next()" />
          }
          <dl class="facts" style="max-width: 560px">
            <dt>Client</dt>
            <dd>
              <a class="ink-link" [routerLink]="['/clients', a.clientId]">{{ a.client }}</a>
            </dd>
            <dt>Site</dt>
            <dd>{{ a.site ?? 'none' }}</dd>
            <dt>Used by</dt>
            <dd>{{ a.contact ?? 'nobody' }}</dd>
            <dt>Open tickets</dt>
            <dd>
              <a [routerLink]="['/tickets']" [queryParams]="{ assetId: a.id }">{{ a.openTickets }} on this asset</a>
            </dd>
          </dl>
          <div class="story"><dl-story [story]="a.story" /></div>
        </div>
      </div>
    }
  `,
  styles: `
    .story {
      max-width: 720px;
    }
  `,
})
export class AssetPage {
  readonly assetId = input.required<string>();
  private readonly api = inject(Api);
  private readonly address = inject(PageAddress);
  protected readonly session = inject(Session);
  private readonly id = new BehaviorSubject('');
  protected readonly again = new Subject<void>();
  protected editing = false;
  protected readonly asset$ = loading(
    combineLatest([this.id, merge(inject(Live).about('asset'), this.again).pipe(startWith(undefined))]).pipe(
      map(([id]) => id),
      filter(Boolean),
    ),
    (assetId) => this.api.call(assetRoutes.getAsset, { params: { assetId } }),
  ).pipe(
    tap(
      (a) =>
        a.is === 'there' &&
        this.address.show({ under: '/assets', param: 'assetId', number: a.value.number, name: `${a.value.number} ${a.value.name}` }),
    ),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  constructor() {
    effect(() => this.id.next(this.assetId()));
  }
}
