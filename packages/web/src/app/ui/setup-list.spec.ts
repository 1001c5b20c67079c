import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { object, string, type AnySchema } from 'yup';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { SetupList, type SetupRow, type SetupSection } from './setup-list';

describe('a section of Setup', () => {
  let fixture: ComponentFixture<SetupList<SetupRow, AnySchema>>;
  let rows: SetupRow[];
  let saved: unknown[];
  let said: string[];
  let may: boolean;
  let refuse: boolean;
  const page = (): HTMLElement => fixture.nativeElement;
  const press = async (words: string) => {
    [...page().querySelectorAll('button')].find((b) => b.textContent!.replace(/\s+/g, ' ').includes(words))!.click();
    await fixture.whenStable();
  };
  const keep = (id: string, body: unknown, version: number | undefined) => {
    saved.push([id, body, version]);
    rows = [...rows, { id: String(rows.length), version: 1, name: (body as { name: string }).name, says: 'brass' }];
    return of({ id: 'x' });
  };
  const section = (): SetupSection => ({
    heading: 'Hooks',
    intro: 'Where coats hang.',
    addWords: 'Add a hook',
    none: 'No hook yet.',
    rows: () => of([...rows]),
    draft: 'hook',
    schema: object({ name: string().trim().defined().required('write something') }),
    fresh: () => ({ name: '' }),
    lines: () => [{ name: 'name', label: 'Name' }],
    add: (body) => keep('new', body, undefined),
    edit: (row, version, body) => keep(row.id, body, version),
    archive: (row) => {
      if (refuse) return throwError(() => new Error('A coat hangs on it.'));
      rows = rows.filter((r) => r.id !== row.id);
      return of({});
    },
  });
  const start = async () => {
    TestBed.configureTestingModule({
      providers: [
        { provide: Session, useValue: { may: () => may, zone: 'Europe/Dublin' } },
        { provide: Toasts, useValue: { done: (words: string) => said.push(words), trouble: (fault: Error) => said.push(fault.message) } },
      ],
    });
    fixture = TestBed.createComponent(SetupList<SetupRow, AnySchema>);
    fixture.componentRef.setInput('section', section());
    await fixture.whenStable();
  };
  beforeEach(() => {
    localStorage.clear();
    [rows, saved, said, may, refuse] = [[{ id: '0', version: 4, name: 'Left', says: 'of brass' }], [], [], true, false];
  });

  it('shows its records in words, and says what to do where there is none', async () => {
    await start();
    expect([page().querySelector('.line b')!.textContent, page().querySelector('.line .soft')!.textContent]).toEqual(['Left', 'of brass']);
    await press('put away Left');
    expect([said, page().textContent!.includes('No hook yet.')]).toEqual([['Left is put away; tickets that have it keep it'], true]);
  });

  it('adds and changes in place: a new one without a version, one that is there by the version that was seen', async () => {
    await start();
    await press('Add a hook');
    const input = page().querySelector('input')!;
    await press('Add it');
    expect([saved, page().querySelector('.error')!.textContent]).toEqual([[], 'write something']);
    input.value = 'Right';
    input.dispatchEvent(new Event('input'));
    await press('Add it');
    await press('change Left');
    await press('Save');
    expect(saved).toEqual([
      ['new', { name: 'Right' }, undefined],
      ['0', { name: 'Left' }, 4],
    ]);
    expect([...page().querySelectorAll('.line b')].map((b) => b.textContent)).toEqual(['Left', 'Right', 'Left']);
  });

  it('keeps a record that may not be put away, and says why', async () => {
    refuse = true;
    await start();
    await press('put away Left');
    expect([said, page().querySelectorAll('.line').length]).toEqual([['A coat hangs on it.'], 1]);
  });

  it('offers nothing to be changed to those who may not', async () => {
    may = false;
    await start();
    expect([page().querySelectorAll('button').length, page().querySelectorAll('.line').length]).toEqual([0, 1]);
  });
});
