import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { assetRoutes } from '@core/clients';
import type { Id } from '@core/ground';
import { OwnValuePipe } from '../../desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { PageAddress } from '../../shell/page-address';
import { showRecord } from '../../ui/shown-record';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { UnitBilling } from '../clients/unit-billing';
import { AssetFormPanel } from './asset-form';

@Component({
  selector: 'dl-asset-page',
  imports: [AsyncPipe, RouterLink, StateNote, Story, AssetFormPanel, OwnValuePipe, UnitBilling],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = asset.state$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="asset.again()" />
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
            <dl-asset-form [asset]="a" (saved)="editing = false; asset.again()" (closed)="editing = false; asset.again()" />
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
            @for (f of a.fields; track f.id) {
              <dt>{{ f.name }}</dt>
              <dd [class.soft]="f.words === null">{{ f | ownValue }}</dd>
            }
            <dt>Billed for</dt>
            <dd><dl-unit-billing [unitId]="a.id" /></dd>
            <dt>Open tickets</dt>
            <dd>
              <a [routerLink]="['/tickets']" [queryParams]="{ assetId: a.id }">{{ a.openTickets }} on this asset</a>
            </dd>
          </dl>
          <div class="story"><dl-story [story]="a.story" [earlier]="earlier" /></div>
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
  readonly assetId = input.required<Id<'asset'>>();
  private readonly api = inject(Api);
  private readonly address = inject(PageAddress);
  protected readonly session = inject(Session);
  protected editing = false;
  protected readonly earlier = (before: string) =>
    this.api.call(assetRoutes.getAssetStory, { params: { assetId: this.assetId() }, query: { before } });
  protected readonly asset = showRecord({
    id: this.assetId,
    topics: ['asset'],
    read: (assetId) => this.api.call(assetRoutes.getAsset, { params: { assetId } }),
    take: (a) => this.address.show({ under: '/assets', param: 'assetId', number: a.number, name: `${a.number} ${a.name}` }),
  });
}
