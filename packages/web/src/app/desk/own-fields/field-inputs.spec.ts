import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import type { FactValue } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { FieldInputs, type FieldInput } from './field-inputs';

const FIELD = { choices: [], value: null, required: false };
const FIELDS: readonly FieldInput[] = [
  { ...FIELD, id: 't', name: 'Seat', kind: 'text', required: true },
  { ...FIELD, id: 'c', name: 'Cause', kind: 'choice', choices: ['wear', 'tear'], value: 'tear' },
  { ...FIELD, id: 'y', name: 'Urgent', kind: 'yes/no', value: false },
  { ...FIELD, id: 'p', name: 'Who', kind: 'person' },
  { ...FIELD, id: 'd', name: 'Day', kind: 'date', value: '2026-12-01' },
];

describe('inputs of own fields', () => {
  let fixture: ComponentFixture<FieldInputs>;
  let told: { readonly fieldId: string; readonly value: FactValue }[];
  const page = (): HTMLElement => fixture.nativeElement;
  const input = (label: string) => {
    const found = [...page().querySelectorAll('label')].find((l) => l.textContent!.trim().startsWith(label))!;
    return page().querySelector<HTMLInputElement>(`#${found.htmlFor}`)!;
  };
  const set = async (label: string, value: string, event: string) => {
    input(label).value = value;
    input(label).dispatchEvent(new Event(event));
    await fixture.whenStable();
  };
  beforeEach(async () => {
    told = [];
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Api, useValue: { call: () => of({ people: [{ id: 'd-1', name: 'Deepa' }] }) } },
        { provide: Session, useValue: { zone: 'Europe/Dublin' } },
      ],
    });
    fixture = TestBed.createComponent(FieldInputs);
    fixture.componentRef.setInput('fields', FIELDS);
    fixture.componentInstance.changed.subscribe((change) => told.push(change));
    await fixture.whenStable();
  });

  it('show what is kept, and which must be filled', () => {
    expect([input('Seat (must be filled)').value, input('Cause').value, input('Urgent').value, input('Day').value]).toEqual([
      '',
      'tear',
      'no',
      '1 Dec 2026',
    ]);
  });

  it('tell each change with the value as it is kept: "no" is a value, nothing is nothing', async () => {
    await set('Seat', 'Second row', 'input');
    await set('Cause', 'wear', 'change');
    await set('Urgent', 'yes', 'change');
    await set('Urgent', '', 'change');
    await set('Who', 'd-1', 'change');
    await set('Day', '', 'change');
    expect(told).toEqual([
      { fieldId: 't', value: 'Second row' },
      { fieldId: 'c', value: 'wear' },
      { fieldId: 'y', value: true },
      { fieldId: 'y', value: null },
      { fieldId: 'p', value: 'd-1' },
      { fieldId: 'd', value: null },
    ]);
  });

  it('name what was refused at its field', async () => {
    fixture.componentRef.setInput('errors', { t: 'up to 1000 characters' });
    await fixture.whenStable();
    expect([page().querySelector('.error')!.textContent, input('Seat').getAttribute('aria-invalid')]).toEqual([
      'up to 1000 characters',
      'true',
    ]);
  });
});
