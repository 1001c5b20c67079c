import { TestBed } from '@angular/core/testing';
import { Answering } from '../../../testing/answering';
import { SpanChoice } from './span-choice';
import type { DateSpan } from './spans';

describe('the choice of a span', () => {
  const open = async (inputs: Record<string, unknown> = {}) => {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers: new Answering({}).providers() });
    const fixture = TestBed.createComponent(SpanChoice);
    fixture.componentRef.setInput('span', { from: '2026-11-09', to: '2026-11-15' });
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    const chosen: DateSpan[] = [];
    fixture.componentInstance.chosen.subscribe((span) => chosen.push(span));
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const set = (n: number, day: string) => {
      const field = host.querySelectorAll<HTMLInputElement>('input')[n]!;
      field.value = day;
      field.dispatchEvent(new Event('change'));
    };
    return { host, chosen, set };
  };

  it('keeps its other end, unless it would end before it begins', async () => {
    const { chosen, set } = await open();
    set(0, '2026-11-12');
    set(0, '2026-11-20');
    set(1, '2026-11-02');
    set(1, '');
    expect(chosen).toEqual([
      { from: '2026-11-12', to: '2026-11-15' },
      { from: '2026-11-20', to: '2026-11-20' },
      { from: '2026-11-02', to: '2026-11-02' },
    ]);
  });

  it('offers spans by name, by the clock of the server', async () => {
    const { host, chosen } = await open();
    for (const words of ['this week', 'last month'])
      [...host.querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
    expect(chosen).toEqual([
      { from: '2026-11-23', to: '2026-11-29' },
      { from: '2026-10-01', to: '2026-10-31' },
    ]);
    expect((await open({ offers: false, words: 'Against' })).host.querySelectorAll('.btn-link')).toHaveLength(0);
  });
});
