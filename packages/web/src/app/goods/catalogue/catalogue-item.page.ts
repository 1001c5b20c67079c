import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { catalogueRoutes } from '@core/goods';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { showRecord } from '../../ui/shown-record';
import { UnitPricePipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { CatalogueForm } from './catalogue-form';

@Component({
  selector: 'dl-catalogue-item-page',
  imports: [AsyncPipe, StateNote, Story, UnitPricePipe, CatalogueForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = item.state$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="item.again()" />
    } @else if (now) {
      @let i = now.value;
      <div class="page">
        <header class="page-head">
          <span class="mono soft">{{ i.number }}</span>
          <h1>{{ i.name }}</h1>
          @if (i.archived) {
            <span class="tag">put away</span>
          }
          <span class="grow"></span>
          @if (session.may('catalogue.edit')) {
            <button type="button" class="btn-plain" (click)="editing = !editing">Change</button>
          }
        </header>
        <div class="page-body">
          @if (editing) {
            <dl-catalogue-form [item]="i" (saved)="editing = false; item.again()" (closed)="editing = false; item.again()" />
          }
          <dl class="facts" style="max-width: 560px">
            <dt>Category</dt>
            <dd>{{ i.category }}</dd>
            <dt>Price</dt>
            <dd>
              <span class="mono">{{ i.netPrice | unitPrice: i.currency }}</span> without tax,
              <span class="mono">{{ i.grossPrice | unitPrice: i.currency }}</span> with {{ i.taxPercent }} % tax; typed
              {{ i.basis === 'net' ? 'without' : 'with' }} tax
            </dd>
            @if (i.cost) {
              <dt>Cost</dt>
              <dd>
                <span class="mono">{{ i.cost | unitPrice: i.currency }}</span>, margin {{ i.marginPercent ? i.marginPercent + ' %' : '–' }}
              </dd>
            }
            @if (!i.asTyped) {
              <dt>Mind</dt>
              <dd class="late">
                An invoice of one comes to {{ i.invoicedGross | unitPrice: i.currency }}, not to {{ i.price | unitPrice: i.currency }}.
              </dd>
            }
          </dl>
          <div class="story"><dl-story [story]="i.story" [earlier]="earlier" /></div>
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
export class CatalogueItemPage {
  readonly itemId = input.required<Id<'catalogue_item'>>();
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected editing = false;
  protected readonly earlier = (before: string) =>
    this.api.call(catalogueRoutes.getItemStory, { params: { itemId: this.itemId() }, query: { before } });
  protected readonly item = showRecord({
    id: this.itemId,
    topics: ['item'],
    read: (itemId) => this.api.call(catalogueRoutes.getItem, { params: { itemId } }),
  });
}
