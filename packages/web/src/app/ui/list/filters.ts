import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, DestroyRef } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { debounceTime, Subject } from 'rxjs';
import type { Option } from '../field';
import type { ListState } from './list-state';

const TYPING_MS = 250;

/** Narrows a list by words as they are typed. */
@Component({
  selector: 'dl-filter-words',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let query = list().query$ | async;
    <input
      #textBox
      class="in"
      type="search"
      [attr.aria-label]="label()"
      [placeholder]="label()"
      [value]="query?.['q'] ?? ''"
      (input)="typed.next(textBox.value)"
    />
  `,
  styles: `
    input {
      width: 140px;
    }
  `,
})
export class FilterWords<Row extends { readonly id: string }> {
  readonly list = input.required<ListState<Row>>();
  readonly label = input.required<string>();
  protected readonly typed = new Subject<string>();

  constructor() {
    this.typed
      .pipe(debounceTime(TYPING_MS), takeUntilDestroyed(inject(DestroyRef)))
      .subscribe((q) => this.list().set({ q: q || undefined }, true));
  }
}

/** Narrows a list by one of some choices. */
@Component({
  selector: 'dl-filter-choice',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let query = list().query$ | async;
    <select #selectBox class="in" [attr.aria-label]="label()" (change)="choose(selectBox.value)">
      <option value="">{{ any() }}</option>
      @for (option of options(); track option.value) {
        <option [value]="option.value" [selected]="option.value === query?.[name()]">{{ option.label }}</option>
      }
    </select>
  `,
  styles: `
    select {
      width: auto;
      max-width: 150px;
    }
  `,
})
export class FilterChoice<Row extends { readonly id: string }> {
  readonly list = input.required<ListState<Row>>();
  /** The word of the address. */
  readonly name = input.required<string>();
  readonly label = input.required<string>();
  /** What it says where it does not narrow. */
  readonly any = input.required<string>();
  readonly options = input.required<readonly Option[]>();

  protected choose(value: string): void {
    this.list().set({ [this.name()]: value || undefined });
  }
}
