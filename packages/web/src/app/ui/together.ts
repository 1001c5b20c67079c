import { Directive, effect, inject, input, signal } from '@angular/core';
import { OnTheWay } from '../shell/on-the-way';

/**
 * What stands in here reads its own parts, each in its own time. It is shown when all of them came (or could not), so
 * that nothing moves from under the pointer; and anew where it is of another record.
 */
@Directive({ selector: '[dlTogether]', host: { '[style.visibility]': "arrived() ? null : 'hidden'", '[attr.aria-busy]': '!arrived()' } })
export class Together {
  /** The id of the record that all of it is of. */
  readonly of = input.required<string>({ alias: 'dlTogether' });
  protected readonly arrived = signal(false);
  private readonly onTheWay = inject(OnTheWay);

  constructor() {
    effect((end) => {
      this.of();
      this.arrived.set(false);
      const settled = this.onTheWay.settled$.subscribe(() => this.arrived.set(true));
      end(() => settled.unsubscribe());
    });
  }
}
