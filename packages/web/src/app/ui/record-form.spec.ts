import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { jest } from '@jest/globals';
import { of, throwError } from 'rxjs';
import { object, string } from 'yup';
import { ProblemError, UNREACHABLE } from '../shell/problem';
import { RecordFormPanel, type Line, type RecordForm } from './record-form';

const schema = object({
  name: string().defined().required('write something'),
  colour: string().defined().nullable(),
  size: string().defined().nullable(),
});
const LINES: readonly Line[] = [
  { name: 'name', label: 'Name' },
  {
    name: 'colour',
    label: 'Colour',
    kind: 'choice',
    none: 'none',
    options: [
      { value: 'r', label: 'Rust' },
      { value: 'o', label: 'Ochre' },
    ],
  },
  { name: 'size', label: 'Size' },
];
const stale = new ProblemError({ type: '', title: 'Changed meanwhile', status: 412, detail: 'Look at both.' });

describe('the form for records', () => {
  let fixture: ComponentFixture<RecordFormPanel<typeof schema>>;
  const host = (): HTMLElement => fixture.nativeElement;
  const field = (label: string) => {
    const l = [...host().querySelectorAll('label')].find((e) => e.textContent?.trim() === label)!;
    return document.getElementById(l.htmlFor) as HTMLInputElement;
  };
  const type = async (label: string, text: string) => {
    const element = field(label);
    element.value = text;
    element.dispatchEvent(new Event(element.tagName === 'SELECT' ? 'change' : 'input'));
    await fixture.whenStable();
  };
  const press = async (words: string) => {
    [...host().querySelectorAll('button')].find((b) => b.textContent?.includes(words))!.click();
    await fixture.whenStable();
  };
  const open = async (form: Partial<RecordForm<typeof schema>> = {}) => {
    fixture = TestBed.createComponent(RecordFormPanel<typeof schema>);
    document.body.append(fixture.nativeElement);
    fixture.componentRef.setInput('form', {
      schema,
      initial: { name: 'Vase', colour: 'r', size: 'small' },
      draft: 'vase',
      does: 'Save',
      version: 4,
      save: () => of({ id: '1' }),
      ...form,
    });
    fixture.componentRef.setInput('lines', LINES);
    await fixture.whenStable();
  };
  beforeEach(() => localStorage.clear());
  afterEach(() => fixture.nativeElement.remove());

  it('saves what its schema allows, an empty field as nothing, with the version that was seen', async () => {
    const save = jest.fn((_body: unknown, _version: number | undefined) => of({ id: '7' }));
    await open({ save });
    const saved = jest.fn();
    fixture.componentInstance.saved.subscribe(saved);
    await type('Size', '');
    await press('Save');
    expect(save).toHaveBeenCalledWith({ name: 'Vase', colour: 'r', size: null }, 4);
    expect(saved).toHaveBeenCalledWith('7');
  });

  it('names what is wrong at its field, asks nobody, and keeps what was typed', async () => {
    const save = jest.fn(() => of({ id: '7' }));
    await open({ save });
    await type('Name', '');
    await press('Save');
    expect(host().querySelector('.error')!.textContent).toBe('write something');
    expect(save).not.toHaveBeenCalled();
    await type('Name', 'Jug');
    expect(host().querySelector('.error')).toBeNull();
  });

  it('shows what the server refuses at the field it names', async () => {
    const refusal = new ProblemError({ ...stale.problem, status: 422, fields: { size: 'no such size' } });
    await open({ save: () => throwError(() => refusal) });
    await press('Save');
    expect([host().querySelector('.error')!.textContent, field('Name').value]).toEqual(['no such size', 'Vase']);
  });

  it('keeps what was typed when the page is left, and the version it was typed on', async () => {
    await open();
    await type('Name', 'Jug');
    fixture.destroy();
    const save = jest.fn((_body: unknown, _version: number | undefined) => of({ id: '1' }));
    await open({ version: 9, save });
    expect(field('Name').value).toBe('Jug');
    await press('Save');
    expect(save.mock.calls[0]![1]).toBe(4);
  });

  it('forgets what was typed when it is left on purpose, or saved', async () => {
    for (const way of ['Leave it', 'Save']) {
      await open();
      await type('Name', 'Jug');
      await press(way);
      fixture.destroy();
      await open();
      expect([way, field('Name').value]).toEqual([way, 'Vase']);
      fixture.destroy();
    }
    await open();
  });

  describe('when somebody else changed the record meanwhile', () => {
    const theirs = { name: 'Vase', colour: 'o', size: 'large', version: 6 };
    let bodies: unknown[];
    beforeEach(async () => {
      bodies = [];
      await open({
        save: (body, version) => (bodies.push([body, version]), version === 6 ? of({ id: '1' }) : throwError(() => stale)),
        stored: () => of(theirs),
      });
      await type('Name', 'Jug');
      await press('Save');
    });

    it('shows both where they differ, choices by their words', async () => {
      expect(host().querySelector('[role=alert]')!.textContent).toContain('Somebody changed this meanwhile');
      expect([...host().querySelectorAll('.late')].map((e) => e.textContent!.replace(/\s+/g, ' ').trim())).toEqual([
        'theirs: Vase take this one',
        'theirs: Ochre take this one',
        'theirs: large take this one',
      ]);
      await press('take this one');
      expect([field('Name').value, host().querySelectorAll('.late').length]).toEqual(['Vase', 2]);
    });

    it('saves mine over theirs', async () => {
      await press('Save mine');
      expect(bodies.at(-1)).toEqual([{ name: 'Jug', colour: 'r', size: 'small' }, 6]);
    });

    it('takes theirs', async () => {
      await press('Take theirs');
      expect(field('Size').value).toBe('large');
      await press('Save');
      expect(bodies.at(-1)).toEqual([{ name: 'Vase', colour: 'o', size: 'large' }, 6]);
    });
  });

  it('says that the server is away, and keeps what was typed', async () => {
    await open({ save: () => throwError(() => new ProblemError(UNREACHABLE)) });
    await type('Name', 'Jug');
    await press('Save');
    expect([field('Name').value, host().querySelector<HTMLButtonElement>('.btn-main')!.disabled]).toEqual(['Jug', false]);
  });
});
