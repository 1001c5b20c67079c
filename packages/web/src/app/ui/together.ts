import { Directive, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { OnTheWay } from '../shell/on-the-way';

/**
 * What stands in here reads its own parts, each in its own time. It is shown when all of them came (or could not), so
 * that nothing moves from under the pointer.
 */
@Directive({ selector: '[dlTogether]', host: { '[style.visibility]': "arrived() ? null : 'hidden'", '[attr.aria-busy]': '!arrived()' } })
export class Together {
  protected readonly arrived = signal(false);

  constructor() {
    inject(OnTheWay)
      .settled$.pipe(takeUntilDestroyed())
      .subscribe(() => this.arrived.set(true));
  }
}
