import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import { Api } from '../../shell/api';
import { KindChoice, type ChosenKind } from './kind-choice';

const KINDS = [
  { kind: 'incident', offered: true, promiseId: null },
  { kind: 'service request', offered: true, promiseId: null },
  { kind: 'alert', offered: false, promiseId: null },
];

describe('the choice of a kind', () => {
  let fixture: ComponentFixture<KindChoice>;
  let chosen: ChosenKind[];
  const select = () => (fixture.nativeElement as HTMLElement).querySelector('select')!;
  const set = async (inputs: Record<string, unknown>) => {
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
  };
  beforeEach(async () => {
    chosen = [];
    const kinds = [{ id: 'o', version: 1, name: 'loan device', standsFor: 'service request' }];
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: { call: () => of({ kinds }) } }] });
    fixture = TestBed.createComponent(KindChoice);
    fixture.componentInstance.chosen.subscribe((c) => chosen.push(c));
    await set({ kinds: KINDS, kind: 'incident' });
  });

  it('offers what is offered, and names of the house under the kind they stand for', () => {
    expect([...select().options].map((o) => o.text)).toEqual(['incident', 'service request', 'loan device']);
    expect(select().selectedOptions[0]!.text).toBe('incident');
  });

  it('still shows a kind that a ticket has though it is offered no more', async () => {
    await set({ kind: 'alert' });
    expect([...select().options].map((o) => o.text)).toContain('alert');
  });

  it('tells the kind and the name of the house apart', async () => {
    for (const value of ['o', 'service request']) {
      select().value = value;
      select().dispatchEvent(new Event('change'));
    }
    await set({ kind: 'service request', ownKindId: 'o' });
    expect(chosen).toEqual([
      { kind: 'service request', ownKindId: 'o', name: 'loan device' },
      { kind: 'service request', ownKindId: null, name: 'service request' },
    ]);
    expect(select().selectedOptions[0]!.text).toBe('loan device');
  });
});
