import { TestBed } from '@angular/core/testing';
import { Answering, refusal } from '../../../../testing/answering';
import { LineReadings } from './line-readings';

const LINE = {
  id: 'line',
  name: 'Storage',
  readCount: 13,
  readings: [{ id: 'r', on: '2026-11-03', quantity: '60', key: null, source: 'by hand' }],
};

async function shown(answers: Readonly<Record<string, unknown>>, permissions: readonly string[] = ['contracts.edit']) {
  const api = new Answering(answers);
  TestBed.configureTestingModule({ providers: api.providers({ permissions: permissions as never }) });
  const fixture = TestBed.createComponent(LineReadings);
  fixture.componentRef.setInput('contract', { id: 'contract' });
  fixture.componentRef.setInput('line', LINE);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const press = async (words: string) => {
    [...page.querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
    await fixture.whenStable();
  };
  const box = () => page.querySelector<HTMLTextAreaElement>('textarea')!;
  const type = async (text: string) => {
    box().value = text;
    box().dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  return { api, page, press, type, box, says: () => page.textContent!.replace(/\s+/g, ' ') };
}

describe('readings of a meter', () => {
  beforeEach(() => localStorage.clear());

  it('are recorded as they were understood, and what was not is named', async () => {
    const { api, press, type, says } = await shown({ addReadings: { added: 1, known: 1 } });
    expect(says()).toContain('read 13 times');
    expect(says()).toContain('And 12 before them.');
    await press('add readings');
    await type('3.11.2026;60;a\nsoon;4\n4.11.2026;5');
    expect(says()).toContain('2 understood, 1 not.');
    expect(says()).toContain('Row 2, “soon;4”: soon is no day.');
    await press('Record 2');
    expect(api.of('addReadings')[0]).toMatchObject({
      params: { contractId: 'contract', lineId: 'line' },
      body: {
        source: 'by hand',
        readings: [
          { on: '2026-11-03', quantity: '60', key: 'a' },
          { on: '2026-11-04', quantity: '5', key: null },
        ],
      },
    });
    expect(localStorage.length).toBe(0);
  });

  it('stay as they were typed where they are refused, and where the page is left', async () => {
    const { press, type, box } = await shown({ addReadings: refusal(409, 'a is known with 61') });
    await press('add readings');
    await type('3.11.2026;60;a');
    await press('Record 1');
    expect(box().value).toBe('3.11.2026;60;a');
    TestBed.resetTestingModule();
    const again = await shown({});
    await again.press('add readings');
    expect(again.box().value).toBe('3.11.2026;60;a');
    await again.press('Leave it');
    expect(localStorage.length).toBe(0);
  });

  it('are added by nobody who may not change contracts', async () => {
    const { page } = await shown({}, []);
    expect(page.querySelector('button')).toBeNull();
  });
});
