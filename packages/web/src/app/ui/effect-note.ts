import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Effect } from '@core/time';
import { Why } from './why';

/** What time does to the client, said before it is stored, with the steps behind it. */
@Component({
  selector: 'dl-effect',
  imports: [Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span class="does">{{ effect().sentence }}</span> <dl-why [explanation]="effect().why" [of]="of()" />`,
  styles: `
    .does {
      font-weight: 600;
    }
  `,
})
export class EffectNote {
  readonly effect = input.required<Pick<Effect, 'sentence' | 'why'>>();
  /** What the steps explain: "what this time comes to". */
  readonly of = input.required<string>();
}
