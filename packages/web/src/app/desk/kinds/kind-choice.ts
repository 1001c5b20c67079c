import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { type Kind, kindRoutes, type KindRuleWire, type OwnKindWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';

export interface ChosenKind {
  readonly kind: Exclude<Kind, 'unsorted'>;
  readonly ownKindId: Id<'own_kind'> | null;
  /** As people call it. */
  readonly name: string;
}

/** Chooses a kind: those that are offered, and under each those of the house's own that stand for it. */
@Component({
  selector: 'dl-kind-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <select #selectBox class="in" aria-label="Kind" (change)="choose(selectBox.value)">
      @for (k of kinds(); track k.kind) {
        @if (k.offered || k.kind === kind()) {
          <option [value]="k.kind" [selected]="k.kind === kind() && !ownKindId()">{{ k.kind }}</option>
          @for (own of of(k.kind); track own.id) {
            <option [value]="own.id" [selected]="own.id === ownKindId()">{{ own.name }}</option>
          }
        }
      }
    </select>
  `,
  styles: `
    :host {
      display: block;
    }
  `,
})
export class KindChoice {
  readonly kinds = input.required<readonly KindRuleWire[]>();
  readonly kind = input.required<Kind>();
  readonly ownKindId = input<Id<'own_kind'> | null>(null);
  readonly chosen = output<ChosenKind>();
  private readonly own = toSignal(
    inject(Api)
      .call(kindRoutes.listOwnKinds, {})
      .pipe(
        map((a): readonly OwnKindWire[] => a.kinds),
        catchError(() => of<readonly OwnKindWire[]>([])),
      ),
    { initialValue: [] },
  );

  protected of(kind: Kind): readonly OwnKindWire[] {
    return this.own().filter((o) => o.standsFor === kind);
  }

  protected choose(value: string): void {
    const own = this.own().find((o) => o.id === value);
    const plain = this.kinds().find((k) => k.kind === value);
    if (own) this.chosen.emit({ kind: own.standsFor, ownKindId: own.id, name: own.name });
    else if (plain) this.chosen.emit({ kind: plain.kind, ownKindId: null, name: plain.kind });
  }
}
