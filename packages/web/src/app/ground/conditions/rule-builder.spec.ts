import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import { ruleOf, type Rule } from '@core/ground';
import { KnownFacts, type KnownFact } from './known-facts';
import { RuleBuilder } from './rule-builder';
import { ruleNames } from './rule-names';

const FACTS: readonly KnownFact[] = [
  {
    path: 'ticket.kind',
    label: 'kind',
    shape: 'choice',
    options: [
      { value: 'incident', label: 'incident' },
      { value: 'alert', label: 'alert' },
    ],
  },
  { path: 'ticket.minutes', label: 'minutes logged', shape: 'number', options: [] },
  { path: 'ticket.asset', label: 'an asset is named', shape: 'yes/no', options: [] },
  { path: 'ticket.desk', label: 'desk', shape: 'desk', options: [{ value: 'd-1', label: 'Support' }] },
];

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RuleBuilder],
  template: `<dl-rule-builder label="Shown" [rule]="rule()" (changed)="rule.set($event)" />`,
})
class Host {
  readonly rule = signal<Rule>(true);
}

describe('the builder of conditions', () => {
  let fixture: ComponentFixture<Host>;
  const page = (): HTMLElement => fixture.nativeElement;
  const field = (label: string) => page().querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
  const choose = async (label: string, value: string) => {
    field(label).value = value;
    field(label).dispatchEvent(new Event('change'));
    await fixture.whenStable();
  };
  const press = async (words: string) => {
    [...page().querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
    await fixture.whenStable();
  };
  const type = async (text: string) => {
    const box = page().querySelector('textarea')!;
    box.value = text;
    box.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const rule = () => fixture.componentInstance.rule();
  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [{ provide: KnownFacts, useValue: { of: () => of(FACTS) } }] });
    fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
  });

  it('says always and never without a test', async () => {
    expect(field('Shown').value).toBe('always');
    await choose('Shown', 'never');
    expect([rule(), page().querySelectorAll('.test').length]).toEqual([false, 0]);
  });

  it('builds tests of which all or any must hold, each with what its fact can be', async () => {
    await choose('Shown', 'all');
    expect(rule()).toEqual(ruleOf({ join: 'all', tests: [{ fact: 'ticket.kind', is: 'is', value: 'incident' }] }));
    await press('and another test');
    await choose('Shown, fact 2', 'ticket.minutes');
    await choose('Shown, comparison 2', 'is at least');
    await choose('Shown, value 2', '15');
    await choose('Shown', 'any');
    expect(rule()).toEqual(
      ruleOf({
        join: 'any',
        tests: [
          { fact: 'ticket.kind', is: 'is', value: 'incident' },
          { fact: 'ticket.minutes', is: 'is at least', value: 15 },
        ],
      }),
    );
    await press('take away');
    expect(rule()).toEqual(ruleOf({ join: 'any', tests: [{ fact: 'ticket.minutes', is: 'is at least', value: 15 }] }));
  });

  it('offers comparisons that fit the fact, and no value where none is looked at', async () => {
    await choose('Shown', 'all');
    const offered = () => [...field('Shown, comparison 1').querySelectorAll('option')].map((o) => o.value);
    expect(offered()).toEqual(['is', 'is not', 'is set', 'is empty']);
    await choose('Shown, comparison 1', 'is empty');
    expect([rule(), field('Shown, value 1')]).toEqual([{ and: [{ '!': [{ var: 'ticket.kind' }] }] }, null]);
    await choose('Shown, fact 1', 'ticket.asset');
    expect(rule()).toEqual({ and: [{ '===': [{ var: 'ticket.asset' }, true] }] });
    await choose('Shown, value 1', 'false');
    expect(rule()).toEqual({ and: [{ '===': [{ var: 'ticket.asset' }, false] }] });
  });

  it('shows as JSON what it cannot show otherwise, and gives on what does not read as it is typed, so that no form takes it', async () => {
    fixture.componentInstance.rule.set({ '>': [{ '+': [{ var: 'ticket.minutes' }, 5] }, 20] });
    await fixture.whenStable();
    expect([field('Shown').value, JSON.parse(page().querySelector('textarea')!.value)]).toEqual(['json', rule()]);
    await type('{"==": [1');
    expect([rule(), page().querySelector('[role=alert]')!.textContent]).toEqual([
      '{"==": [1',
      expect.stringContaining('This is no JSON yet'),
    ]);
    await type('{"==": [1, 1]}');
    expect([rule(), page().querySelector('[role=alert]')]).toEqual([{ '==': [1, 1] }, null]);
  });

  it('gives facts and values the names people know', () => {
    const names = ruleNames(FACTS);
    expect([
      names.fact('ticket.desk'),
      names.value('ticket.desk', 'd-1'),
      names.value('ticket.asset', true),
      names.fact('field.gone'),
    ]).toEqual(['desk', 'Support', 'yes', 'a field that was put away']);
  });
});
