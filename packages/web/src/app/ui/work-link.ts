import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type NamedWork, sayWork, sayWorkShortly } from '@core/ground';

/** Names work wherever something is done on it; a ticket leads to its page. */
@Component({
  selector: 'dl-work-link',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@if (work().workKind === 'ticket') {
      <a class="ink-link" [routerLink]="['/tickets', work().workId]">{{ words() }}</a>
    } @else {
      {{ words() }}
    }`,
  styles: `
    :host {
      display: inline-block;
      min-width: 0;
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      vertical-align: bottom;
    }
  `,
})
export class WorkLink {
  readonly work = input.required<NamedWork>();
  /** A ticket by its number alone. */
  readonly short = input(false);
  protected readonly words = computed(() => (this.short() ? sayWorkShortly(this.work()) : sayWork(this.work())));
}
