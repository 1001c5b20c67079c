import { TestBed } from '@angular/core/testing';
import { Answering, settle } from '../../../../testing/answering';
import { AbsenceAsk } from './absence-ask';
import { TeamAbsences } from './team-absences';

const KIND = {
  id: '22222222-2222-4222-8222-222222222222',
  version: 1,
  name: 'Annual leave',
  hasBalance: true,
  yearHalves: 50,
  carryHalves: 0,
  carryUntil: '03-31',
};

describe('asking for time off', () => {
  it('says what it takes, what would be left, and what is in the way, before it is asked for', async () => {
    const api = new Answering({
      previewAbsence: {
        halves: 7,
        left: [{ year: 2026, halves: -3 }],
        overdrawn: 3,
        bookings: 2,
        away: [{ personId: 'h', person: 'Hanna Lindqvist', from: '2026-11-24', to: '2026-11-24', what: 'away', decided: false }],
      },
    });
    TestBed.configureTestingModule({ providers: api.providers() });
    localStorage.clear();
    const fixture = TestBed.createComponent(AbsenceAsk);
    fixture.componentRef.setInput('kinds', [KIND]);
    await fixture.whenStable();
    await settle();
    await fixture.whenStable();
    const said = (fixture.nativeElement as HTMLElement).querySelector('[role=status]')!.textContent!.replace(/\s+/g, ' ');
    expect(said).toContain('It takes 3½ days');
    expect(said).toContain('−1½ days of 2026 would be left, 1½ days more than there is');
    expect(said).toContain('2 bookings of yours lie in it');
    expect(said).toContain('Hanna Lindqvist (24 November, asked for)');
    expect(api.of('previewAbsence').at(-1)!.query).toEqual({
      kindId: KIND.id,
      from: '2026-11-24',
      to: '2026-11-24',
      fromMiddle: 'no',
      toMiddle: 'no',
    });
  });
});

describe('the team by month', () => {
  it('marks who is away, outlines what is asked for, and greys days that nobody works', async () => {
    const missing = ({
      personId,
      from,
      to,
      decided,
    }: {
      readonly personId: string;
      readonly from: string;
      readonly to: string;
      readonly decided: boolean;
    }) => ({
      personId,
      person: personId,
      from,
      to,
      what: 'away',
      decided,
    });
    const api = new Answering({
      listTeamAbsences: {
        people: [
          { id: 'a', name: 'Ana', team: null },
          { id: 'b', name: 'Ben', team: null },
        ],
        missing: [
          missing({ personId: 'a', from: '2026-10-30', to: '2026-11-03', decided: true }),
          missing({ personId: 'b', from: '2026-11-05', to: '2026-11-05', decided: false }),
        ],
        holidays: [{ day: '2026-11-17', name: 'Harbour day' }],
      },
    });
    TestBed.configureTestingModule({ providers: api.providers() });
    const fixture = TestBed.createComponent(TeamAbsences);
    await fixture.whenStable();
    await settle(20);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const [ana, ben] = [...host.querySelectorAll('tbody tr')];
    expect(ana!.querySelectorAll('.away:not(.asked)')).toHaveLength(3);
    expect([ben!.querySelectorAll('.away').length, ben!.querySelectorAll('.asked').length]).toEqual([1, 1]);
    expect(host.querySelectorAll('thead .free')).toHaveLength(9 + 1);
    expect(ben!.querySelector('.asked')!.textContent).toContain('Ben: away, 5 November, asked for');
    host.querySelector<HTMLButtonElement>('[aria-label="The month after"]')!.click();
    await fixture.whenStable();
    await settle(20);
    expect(api.of('listTeamAbsences').at(-1)!.query).toEqual({ from: '2026-12-01', to: '2026-12-31' });
  });
});
