import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { CellField } from './cell-field';
import type { GridCell } from './grid';

const cell = (text: string, minutes: number): GridCell => ({
  day: '2026-11-23',
  text,
  minutes,
  stored: undefined,
  kept: undefined,
  readOnly: false,
  approved: false,
  label: 'a cell',
});

@Component({
  imports: [CellField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<input #own="dlCell" [dlCell]="cell()" (blur)="left.push([own.shown.minutes, field.value])" #field />`,
})
class OneCell {
  readonly cell = signal(cell('0:30', 30));
  readonly left: [number, string][] = [];
}

describe('the field of a cell', () => {
  const made = async () => {
    const fixture = TestBed.createComponent(OneCell);
    document.body.append(fixture.nativeElement);
    await fixture.whenStable();
    const field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    const store = async (c: GridCell) => (fixture.componentInstance.cell.set(c), await fixture.whenStable());
    return { field, store, left: fixture.componentInstance.left, end: () => fixture.nativeElement.remove() };
  };

  it('shows what is stored meanwhile where nothing is typed, focused or not', async () => {
    const { field, store, end } = await made();
    expect(field.value).toBe('0:30');
    await store(cell('0:40', 40));
    expect(field.value).toBe('0:40');
    field.focus();
    await store(cell('0:50', 50));
    expect(field.value).toBe('0:50');
    end();
  });

  it('keeps what is typed over what is stored meanwhile, and is left with what stood there when typing began', async () => {
    const { field, store, left, end } = await made();
    field.focus();
    field.value = '1:1';
    await store(cell('2:00', 120));
    expect(field.value).toBe('1:1');
    field.value = '1:15';
    field.blur();
    expect(left).toEqual([[30, '1:15']]);
    await store(cell('1:15', 75));
    expect(field.value).toBe('1:15');
    end();
  });

  it('gives back the newest with Escape, and where what is typed is what was there', async () => {
    const { field, store, left, end } = await made();
    field.focus();
    field.value = '9';
    await store(cell('2:00', 120));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    expect(field.value).toBe('2:00');
    field.value = '9';
    await store(cell('3:00', 180));
    field.value = '2:00';
    field.blur();
    expect(left.at(-1)).toEqual([180, '3:00']);
    end();
  });
});
