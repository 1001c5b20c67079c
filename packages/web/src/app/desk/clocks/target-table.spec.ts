import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { PromiseTargets } from '@core/desk';
import { TargetTable } from './target-table';

const each = (minutes: number) => ({
  P1: { minutes, on: 'provider' as const },
  P2: { minutes: minutes * 2, on: 'provider' as const },
  P3: { minutes: minutes * 4, on: 'client' as const },
  P4: { minutes: minutes * 8, on: 'round the clock' as const },
});
const TARGETS: PromiseTargets = {
  defaultPriority: 'P3',
  warnAt: [75],
  triage: { minutes: 15, on: 'provider' },
  response: each(30),
  update: each(60),
  resolution: each(120),
};

describe('the table of targets', () => {
  let fixture: ComponentFixture<TargetTable>;
  let last: PromiseTargets | undefined;
  const host = (): HTMLElement => fixture.nativeElement;
  const field = (label: string) => host().querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
  const type = async (element: HTMLInputElement | HTMLSelectElement, text: string) => {
    element.value = text;
    element.dispatchEvent(new Event('change'));
    await fixture.whenStable();
  };
  beforeEach(async () => {
    last = undefined;
    fixture = TestBed.createComponent(TargetTable);
    fixture.componentRef.setInput('targets', TARGETS);
    fixture.componentInstance.changed.subscribe((t) => (last = t));
    await fixture.whenStable();
  });

  it('shows durations as people say them, and whose hours they count on', () => {
    expect([field('Triage').value, field('First reply P3').value, field('Resolution P4').value]).toEqual(['15 min', '2 h', '16 h']);
    expect(field('Next word P4 counts on').value).toBe('round the clock');
  });

  it.each([
    ['25', 25],
    ['1:30', 90],
    ['1.5', 90],
    ['1 h 40', 100],
    ['90m', 90],
  ])('takes %s for %i minutes, and changes nothing else', async (text, minutes) => {
    await type(field('Next word P2'), text);
    expect(last).toEqual({ ...TARGETS, update: { ...TARGETS.update, P2: { minutes, on: 'provider' } } });
  });

  it('says what a time looks like, keeps what was typed, and goes on when it is right', async () => {
    await type(field('Triage'), 'at once');
    expect([last, host().querySelector('.late')!.textContent, field('Triage').value]).toEqual([
      undefined,
      'a time such as 30, 1:30 or 2 h',
      'at once',
    ]);
    await type(field('Triage'), '10');
    expect([last!.triage, host().querySelector('.late')]).toEqual([{ minutes: 10, on: 'provider' }, null]);
  });

  it('changes whose hours a target counts on', async () => {
    await type(field('Triage counts on'), 'round the clock');
    expect(last!.triage).toEqual({ minutes: 15, on: 'round the clock' });
    await type(field('First reply P1 counts on'), 'client');
    expect(last!.response.P1).toEqual({ minutes: 30, on: 'client' });
  });

  it.each([
    ['50, 75', [50, 75]],
    ['', []],
    ['90', [90]],
  ])('warns at %s', async (text, warnAt) => {
    const warn = [...host().querySelectorAll<HTMLInputElement>('.more input')][0]!;
    await type(warn, text);
    expect(last!.warnAt).toEqual(warnAt);
  });

  it.each(['75, 50', '0', '100', '12.5', 'often'])('refuses warnings such as %s', async (text) => {
    const warn = [...host().querySelectorAll<HTMLInputElement>('.more input')][0]!;
    await type(warn, text);
    expect([last, host().querySelector('.more .late')!.textContent]).toEqual([undefined, expect.stringContaining('from 1 to 99')]);
  });
});
