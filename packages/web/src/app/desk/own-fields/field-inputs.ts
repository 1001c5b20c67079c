import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of, shareReplay, switchMap } from 'rxjs';
import { accessRoutes } from '@core/house';
import { assetRoutes } from '@core/clients';
import { type FactValue } from '@core/ground';
import type { FieldKind } from '@core/desk';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import { Field, type Option } from '../../ui/field';
import { FIELD_INPUTS, YES_NO } from './field-kinds';

/** One own field as it is shown for input. */
export interface FieldInput {
  readonly id: string;
  readonly name: string;
  readonly kind: FieldKind;
  readonly choices: readonly string[];
  readonly value: FactValue;
  readonly required: boolean;
}

/** Inputs for own fields; each change is told with the value as it is kept. */
@Component({
  selector: 'dl-field-inputs',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (f of fields(); track f.id) {
      <dl-field
        [label]="f.name + (f.required ? ' (must be filled)' : '')"
        [kind]="inputs[f.kind]"
        none="not filled"
        [options]="options(f, (people$ | async) ?? [])"
        [value]="f.kind === 'yes/no' ? (f.value === null ? '' : f.value ? 'yes' : 'no') : f.value"
        [error]="errors()[f.id]"
        (changed)="tell(f, $event)"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
  `,
})
export class FieldInputs {
  readonly fields = input.required<readonly FieldInput[]>();
  readonly clientId = input<string | null>(null);
  readonly errors = input<Readonly<Record<string, string>>>({});
  readonly changed = output<{ readonly fieldId: string; readonly value: FactValue }>();
  private readonly api = inject(Api);
  protected readonly inputs = FIELD_INPUTS;
  protected readonly people$ = this.api.call(accessRoutes.listPeople, {}).pipe(
    map((a): Option[] => a.people.map((p) => ({ value: p.id, label: p.name }))),
    catchError(() => of<Option[]>([])),
    shareReplay(1),
  );
  private readonly wantsAssets = computed(() => (this.fields().some((f) => f.kind === 'asset') ? this.clientId() : null));
  private readonly assets = toSignal(
    toObservable(this.wantsAssets).pipe(
      switchMap((clientId) =>
        clientId
          ? everyPage((page) => this.api.call(assetRoutes.listAssets, { query: { clientId, ...page } })).pipe(
              map((a): Option[] => a.rows.map((r) => ({ value: r.id, label: `${r.number} ${r.name}` }))),
              catchError(() => of<Option[]>([])),
            )
          : of<Option[]>([]),
      ),
    ),
    { initialValue: [] },
  );

  protected options(f: FieldInput, people: readonly Option[]): readonly Option[] {
    const by: Partial<Record<FieldKind, readonly Option[]>> = {
      choice: f.choices.map((c) => ({ value: c, label: c })),
      'yes/no': YES_NO,
      person: people,
      asset: this.assets(),
    };
    return by[f.kind] ?? [];
  }

  protected tell(f: FieldInput, typed: unknown): void {
    const value = typed === '' || typed === null ? null : f.kind === 'yes/no' ? typed === 'yes' : (typed as FactValue);
    this.changed.emit({ fieldId: f.id, value });
  }
}
