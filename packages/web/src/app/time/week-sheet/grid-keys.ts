import { DestroyRef, Directive, ElementRef, inject, output } from '@angular/core';
import { debounceTime, fromEvent, map, Subscription } from 'rxjs';

const STEPS: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Enter: [1, 0],
};

/** A key that leads out of a cell, or gives up what was typed in it. */
export interface GridKey {
  readonly field: HTMLInputElement;
  /** Where it leads; undefined where what was typed is given up. */
  readonly step: readonly [rows: number, columns: number] | undefined;
  /** It makes what is chosen larger instead of leaving. */
  readonly chooses: boolean;
}

/** What is typed is told of once the keys rest. */
const RESTS_MS = 200;

/**
 * Keys of a grid of fields. It listens by itself and speaks only of keys that lead somewhere, and of what is typed once
 * that rests, so that a figure that is typed draws nothing but its own field.
 */
@Directive({ selector: '[dlGridKeys]' })
export class GridKeys {
  readonly dlGridKeys = output<GridKey>();

  readonly rested = output<HTMLInputElement>();

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const listening = new Subscription();
    listening.add(fromEvent<KeyboardEvent>(host, 'keydown').subscribe((event) => this.key(event)));
    const typed = fromEvent(host, 'input').pipe(
      map((event) => event.target as HTMLInputElement),
      debounceTime(RESTS_MS),
    );
    listening.add(typed.subscribe((field) => field === document.activeElement && this.rested.emit(field)));
    inject(DestroyRef).onDestroy(() => listening.unsubscribe());
  }

  private key(event: KeyboardEvent): void {
    const field = event.target as HTMLInputElement;
    if (!field.matches('input.cell')) return;
    if (event.key === 'Escape') return this.dlGridKeys.emit({ field, step: undefined, chooses: false });
    const step = STEPS[event.key];
    if (!step || event.ctrlKey || event.metaKey || event.altKey) return;
    const whole = field.selectionStart === 0 && field.selectionEnd === field.value.length;
    const edge = event.key === 'ArrowLeft' ? field.selectionEnd === 0 : field.selectionStart === field.value.length;
    if (step[1] !== 0 && !whole && !edge) return;
    event.preventDefault();
    this.dlGridKeys.emit({ field, step, chooses: event.shiftKey && event.key !== 'Enter' });
  }
}
