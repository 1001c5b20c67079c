import { TestBed } from '@angular/core/testing';
import { TiersInput, type TypedTier } from './tiers-input';

describe('prices above so many', () => {
  it('are a row each, which is added, typed and taken away', async () => {
    const fixture = TestBed.createComponent(TiersInput);
    const page = fixture.nativeElement as HTMLElement;
    const told: (readonly TypedTier[])[] = [];
    fixture.componentInstance.changed.subscribe((tiers) => {
      told.push(tiers);
      fixture.componentRef.setInput('value', tiers);
    });
    await fixture.whenStable();
    const press = async (words: string) => {
      [...page.querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
      await fixture.whenStable();
    };
    const type = async (label: string, text: string) => {
      const box = page.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
      box.value = text;
      box.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    await press('add a tier');
    await type('Above how many, tier 1', '10');
    await type('Price of each, tier 1', '8.00');
    await press('add a tier');
    expect(told.at(-1)).toEqual([
      { above: '10', price: '8.00' },
      { above: '', price: '' },
    ]);
    await press('tier 1');
    expect(told.at(-1)).toEqual([{ above: '', price: '' }]);
  });
});
