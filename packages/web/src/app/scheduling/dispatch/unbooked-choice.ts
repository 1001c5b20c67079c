import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { map } from 'rxjs';
import { houseRoutes, viewRoutes } from '@core/house';
import { travelRoutes } from '@core/scheduling';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { ONLY_CHOICES } from './unbooked-filter';

/** Which unbooked work is shown: the quick choices, a skill, a desk, a site, or a kept view of tickets. */
@Component({
  selector: 'dl-unbooked-choice',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <select #selectBox class="in" aria-label="Which unbooked work" (change)="chosen.emit(selectBox.value)">
      @for (o of onlys; track o.value) {
        <option [value]="o.value" [selected]="only() === o.value">{{ o.label }}</option>
      }
      <optgroup label="by skill">
        @for (s of skills(); track s.id) {
          <option [value]="'skill:' + s.id" [selected]="only() === 'skill:' + s.id">asks for {{ s.name }}</option>
        }
      </optgroup>
      <optgroup label="by desk">
        @for (k of (desks$ | async) ?? []; track k.id) {
          <option [value]="'desk:' + k.id" [selected]="only() === 'desk:' + k.id">{{ k.name }} desk</option>
        }
      </optgroup>
      <optgroup label="at a site">
        @for (s of (sites$ | async) ?? []; track s.id) {
          <option [value]="'site:' + s.id" [selected]="only() === 'site:' + s.id">{{ s.name }}</option>
        }
      </optgroup>
      <optgroup label="as a kept view of tickets">
        @for (v of (views$ | async) ?? []; track v.id) {
          <option [value]="'view:' + v.query" [selected]="only() === 'view:' + v.query">{{ v.name }}</option>
        }
      </optgroup>
    </select>
  `,
  styles: `
    :host,
    select {
      display: block;
      width: 100%;
    }
  `,
})
export class UnbookedChoice {
  readonly only = input.required<string>();
  readonly skills = input.required<readonly { readonly id: Id<'skill'>; readonly name: string }[]>();
  readonly chosen = output<string>();
  private readonly api = inject(Api);
  protected readonly onlys = ONLY_CHOICES;
  protected readonly desks$ = this.api.call(houseRoutes.getHouse, {}).pipe(map((h) => h.desks));
  protected readonly sites$ = this.api.call(travelRoutes.listPlaces, {}).pipe(map((a) => a.places.filter((p) => p.isSite)));
  protected readonly views$ = this.api.call(viewRoutes.listViews, { query: { list: 'tickets' } }).pipe(map((a) => a.views));
}
