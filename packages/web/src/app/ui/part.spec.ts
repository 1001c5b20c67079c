import { ChangeDetectionStrategy, Component, input, inputBinding, output, outputBinding, signal, type Binding } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { settle } from '../../../testing/answering';
import { Part } from './part';

@Component({
  selector: 'dl-shown',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<button type="button" (click)="pressed.emit()">of {{ of() }}</button>',
})
class Shown {
  readonly of = input('');
  readonly pressed = output<void>();
}

@Component({
  selector: 'dl-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Part],
  template: '<dl-part [load]="load()" [bindings]="bindings()" />',
})
class Page {
  readonly load = input.required<() => Promise<typeof Shown>>();
  readonly bindings = input.required<Binding[]>();
}

describe('a part of a page that is loaded when it is shown', () => {
  const open = async (load: () => Promise<typeof Shown>) => {
    const of = signal('4479');
    let pressed = 0;
    const bindings = [inputBinding('of', of), outputBinding('pressed', () => pressed++)];
    const fixture = TestBed.createComponent(Page);
    fixture.componentRef.setInput('load', load);
    fixture.componentRef.setInput('bindings', bindings);
    const seen = async () => {
      await fixture.whenStable();
      await settle();
      await fixture.whenStable();
      return (fixture.nativeElement as HTMLElement).textContent!.replace(/\s+/g, ' ').trim();
    };
    const press = (words: string) =>
      [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
    return { of, seen, press, pressed: () => pressed };
  };

  it('is bound to what the page gives it, and tells the page', async () => {
    const page = await open(async () => Shown);
    expect(await page.seen()).toContain('of 4479');
    page.of.set('4480');
    expect(await page.seen()).toContain('of 4480');
    page.press('of 4480');
    expect(page.pressed()).toBe(1);
  });

  it('says where it could not be loaded, and is there when tried again', async () => {
    let away = true;
    const page = await open(() => (away ? Promise.reject(new Error('no connection')) : Promise.resolve(Shown)));
    expect(await page.seen()).toBe('This could not be loaded. Try again');
    page.press('Try again');
    expect(await page.seen()).toBe('This could not be loaded. Try again');
    away = false;
    page.press('Try again');
    const now = await page.seen();
    expect([now.includes('could not'), now.includes('of 4479')]).toEqual([false, true]);
  });
});
