import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Answering, settle } from '../../../../testing/answering';
import { PersonWeekPage } from './person-week.page';

const entry = (id: string, day: string, more: object = {}) => ({
  id,
  version: 3,
  workId: 't',
  workKind: 'ticket',
  number: 4080,
  subject: `Ticket of ${id}`,
  client: 'Hollin',
  startsAt: `${day}T09:00:00Z`,
  endsAt: `${day}T09:30:00Z`,
  minutes: 30,
  activity: 'remote',
  activityId: 'remote',
  note: 'done',
  billable: true,
  reason: null,
  insideNote: null,
  distance: null,
  distanceUnit: null,
  effect: { amount: null, sentence: '€45.00 to the client', minutes: 30, billedMinutes: 30, why: [] },
  frozen: false,
  approval: 'open',
  remark: null,
  corrects: false,
  ...more,
});
const judged = (e: ReturnType<typeof entry>, odd: object[] = []) => ({ entry: e, approval: e.approval, odd, trace: [] });
const week = {
  person: 'Deepa Raghunathan',
  days: ['2026-11-16', '2026-11-17'].map((day) => ({ day, expectedMinutes: 480, recordedMinutes: day.endsWith('16') ? 480 : 60 })),
  entries: [
    judged(entry('calm', '2026-11-16')),
    judged(entry('silent', '2026-11-17', { note: null }), [{ mark: 'no note', says: 'no note says what was done' }]),
    judged(entry('locked', '2026-11-17', { approval: 'approved' })),
  ],
  expenses: [],
};

describe("somebody's week", () => {
  let fixture: ComponentFixture<PersonWeekPage>;
  let api: Answering;
  const host = (): HTMLElement => fixture.nativeElement;
  const press = async (words: string) => {
    [...host().querySelectorAll('button')].find((b) => b.textContent?.trim().startsWith(words))!.click();
    await settle(20);
    await fixture.whenStable();
  };
  beforeEach(async () => {
    api = new Answering({ getPersonWeek: week, getTeamWeek: { days: [], people: [] }, decideTime: { decided: 1 } });
    TestBed.configureTestingModule({ providers: api.providers() });
    fixture = TestBed.createComponent(PersonWeekPage);
    fixture.componentRef.setInput('personId', 'deepa');
    await fixture.whenStable();
    await settle(20);
    await fixture.whenStable();
  });

  it('approves all that waits by the versions that were seen, and nothing that is locked', async () => {
    await press('Approve 2');
    const seen = ['calm', 'silent'].map((id) => ({ id, version: 3 }));
    expect(api.of('decideTime')).toEqual([{ body: { entries: seen, expenses: [], decision: 'approve', remark: null } }]);
  });

  it('returns just what is odd, with the remark that is asked for', async () => {
    await press('choose what is odd');
    await press('Return 1');
    const remark = host().querySelector<HTMLInputElement>('[aria-label="What is to be changed"]')!;
    expect([...host().querySelectorAll<HTMLButtonElement>('.returning button')][0]!.disabled).toBe(true);
    remark.value = 'Which room?';
    remark.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    host().querySelector<HTMLFormElement>('.returning')!.dispatchEvent(new Event('submit'));
    await settle(20);
    expect(api.of('decideTime')[0]!.body).toMatchObject({
      entries: [{ id: 'silent', version: 3 }],
      decision: 'return',
      remark: 'Which room?',
    });
  });

  it('leaves out what is taken off the list, and takes one approval back by itself', async () => {
    host().querySelector<HTMLInputElement>('input[aria-label="#4080 Ticket of calm"]')!.click();
    await fixture.whenStable();
    await press('Approve 1');
    expect(api.of('decideTime')[0]!.body).toMatchObject({ entries: [{ id: 'silent', version: 3 }] });
    await press('take back');
    expect(api.of('decideTime')[1]!.body).toMatchObject({ entries: [{ id: 'locked', version: 3 }], decision: 'take back' });
  });

  it('says in red where a day that is over differs from what is expected', () => {
    const heads = [...host().querySelectorAll('h2')].map((h) => [h.textContent!.trim().slice(0, 6), !!h.querySelector('.late')]);
    expect(heads).toEqual([
      ['Mon 16', false],
      ['Tue 17', true],
    ]);
  });
});
