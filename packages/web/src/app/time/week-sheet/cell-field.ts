import { Directive, ElementRef, inject, input, type OnChanges } from '@angular/core';
import type { GridCell } from './grid';

/**
 * The field of a cell. It shows what the cell holds, and lets go of nothing that is typed in it: what another device
 * stores meanwhile waits until it is left, so that the server can tell one from the other.
 */
@Directive({ selector: 'input[dlCell]', exportAs: 'dlCell', host: { '(blur)': 'left()', '(keydown.escape)': 'giveUp()' } })
export class CellField implements OnChanges {
  readonly dlCell = input.required<GridCell>();
  /** The cell as its field shows it: the newest, or the one that was there when typing began. */
  shown!: GridCell;
  private readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  ngOnChanges(): void {
    if (!this.shown || !this.isTypedIn()) this.show();
  }

  /** What was typed is given up for what the cell holds. */
  protected giveUp(): void {
    this.show();
    this.field.select();
  }

  protected left(): void {
    if (this.field.value === this.shown.text) this.show();
  }

  private isTypedIn(): boolean {
    return this.field === document.activeElement && this.field.value !== this.shown.text;
  }

  private show(): void {
    this.shown = this.dlCell();
    if (this.field.value !== this.shown.text) this.field.value = this.shown.text;
  }
}
