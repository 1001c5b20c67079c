import { TestBed } from '@angular/core/testing';
import { Answering, refusal } from '../../../../testing/answering';
import { ContractClosings } from './contract-closings';

const eur = (minor: number) => ({ minor, currency: 'EUR' });
const NEXT = [
  { to: '2026-10-01', entries: 1, undecided: 0, pays: eur(0) },
  { to: '2026-11-01', entries: 12, undecided: 2, pays: eur(7500) },
];

async function shown(answers: Readonly<Record<string, unknown>>, permissions: readonly string[] = ['charges.decide']) {
  const api = new Answering(answers);
  TestBed.configureTestingModule({ providers: api.providers({ permissions: permissions as never }) });
  const fixture = TestBed.createComponent(ContractClosings);
  fixture.componentRef.setInput('contract', { id: 'contract' });
  const page = fixture.nativeElement as HTMLElement;
  const stable = async () => {
    await fixture.whenStable();
    fixture.detectChanges();
    await fixture.whenStable();
  };
  await stable();
  const press = async (words: string) => {
    [...page.querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
    await stable();
  };
  const until = async (to: string) => {
    const box = page.querySelector('select')!;
    box.value = to;
    box.dispatchEvent(new Event('change'));
    await stable();
  };
  return { api, page, press, until, says: () => page.textContent!.replace(/\s+/g, ' ') };
}

describe('closing periods of a contract', () => {
  it('says what it closes before it does, for each day that can be chosen', async () => {
    const { api, press, until, says } = await shown({ getClosings: { closedTo: '2026-09-01', next: NEXT }, closePeriods: { entries: 1 } });
    expect(says()).toContain('Closed until 31 Aug 2026.');
    await press('close until 31 Oct 2026');
    expect(says()).toContain('12 entries are closed for good');
    expect(says()).toContain('€75.00 of it is to be paid. 2 charges of it wait for a decision.');
    await until('2026-10-01');
    expect(says()).toContain('One entry is closed for good');
    expect(says()).not.toContain('wait');
    await press('Close for good');
    expect(api.of('closePeriods')).toMatchObject([{ params: { contractId: 'contract' }, body: { to: '2026-10-01' } }]);
  });

  it('stays open to try again where it is refused', async () => {
    const { press, page } = await shown({
      getClosings: { closedTo: null, next: NEXT },
      closePeriods: refusal(422, 'It is closed already'),
    });
    await press('close until');
    await press('Close for good');
    expect(page.querySelector<HTMLButtonElement>('.btn-main')!.disabled).toBe(false);
  });

  it('is offered to nobody who may not decide on charges', async () => {
    const { page, says } = await shown({ getClosings: { closedTo: '2026-09-01', next: NEXT } }, []);
    expect([page.querySelector('button'), says().trim()]).toEqual([null, 'Closed until 31 Aug 2026.']);
  });
});
