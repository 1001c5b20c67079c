import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import { Answering, settle } from '../../../../testing/answering';
import { Timers } from '../../shell/timers';
import { LogTime } from './log-time';

const [REMOTE, TICKET, TRAINING] = ['1', '3', '4'].map((n) => `${n}1111111-1111-4111-8111-111111111111`) as [string, string, string];
const answers = {
  getHouse: { activities: [{ id: REMOTE, name: 'remote', visit: false }], distanceUnit: 'km' },
  getProposedTime: { minutes: 0, from: 'nothing', says: '', activityId: REMOTE, activities: [{ id: REMOTE, name: 'remote' }], asks: [] },
  previewEntry: {
    amount: null,
    sentence: '€60.00 to the client',
    minutes: 30,
    billedMinutes: 30,
    why: [],
    over: [{ from: '2026-11-24T09:00:00Z', to: '2026-11-24T09:30:00Z', number: 4080, what: 'Printer' }],
  },
  listInternalWork: { work: [{ id: TRAINING, version: 1, name: 'Training' }] },
  addEntry: { id: 'e', version: 1 },
};

describe('recording time', () => {
  let fixture: ComponentFixture<LogTime>;
  let api: Answering;
  const host = (): HTMLElement => fixture.nativeElement;
  const open = async (inputs: Record<string, unknown>, timers: readonly object[] = []) => {
    api = new Answering(answers);
    TestBed.configureTestingModule({ providers: [...api.providers(), { provide: Timers, useValue: { timers$: of({ timers }) } }] });
    fixture = TestBed.createComponent(LogTime);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    await settle();
    await fixture.whenStable();
  };
  const press = async (words: string) => {
    [...host().querySelectorAll('button')].find((b) => b.textContent?.includes(words))!.click();
    await fixture.whenStable();
  };
  const values = () => [...host().querySelectorAll<HTMLInputElement>('dl-field input:not([type=checkbox])')].map((i) => i.value);

  it('fills a gap with its span and the likely ticket, and says what it lies over and what it comes to', async () => {
    const likely = { workId: TICKET, workKind: 'ticket', number: 4080, subject: 'Printer is slow', client: null };
    await open({ gap: { from: '2026-11-24T09:10:00Z', to: '2026-11-24T09:40:00Z', likely } });
    expect(values().slice(0, 2)).toEqual(['30 min', '09:40']);
    expect(host().textContent).toContain('#4080 Printer is slow');
    expect(host().textContent).toContain('€60.00 to the client');
    expect(host().textContent!.replace(/\s+/g, ' ')).toContain('Lies over 09:00 to 09:30, recorded on #4080 Printer');
    await press('Record');
    expect(api.of('addEntry').at(-1)!.body).toMatchObject({
      workId: TICKET,
      startsAt: '2026-11-24T09:10:00Z',
      duration: '30 min',
      activityId: REMOTE,
      billable: true,
    });
  });

  it('takes the first keys: how long it took', async () => {
    const focused: HTMLElement[] = [];
    const focus = HTMLElement.prototype.focus;
    HTMLElement.prototype.focus = function (this: HTMLElement) {
      focused.push(this);
    };
    await open({ workId: TICKET });
    HTMLElement.prototype.focus = focus;
    expect(focused).toEqual([host().querySelector('dl-field[label="How long"] input')]);
  });

  it('asks what it is on, and takes internal work, which is charged to nobody', async () => {
    await open({ day: '2026-11-23' });
    await press('Record');
    expect(host().querySelector('[role=alert]')!.textContent).toContain('choose a ticket, or internal work');
    expect(api.of('addEntry')).toEqual([]);
    await press('Training');
    const [long] = host().querySelectorAll<HTMLInputElement>('dl-field input');
    long!.value = '45';
    long!.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    await press('Record');
    expect(api.of('addEntry').at(-1)!.body).toMatchObject({
      workId: TRAINING,
      startsAt: '2026-11-23T09:55:00Z',
      billable: false,
      reason: 'internal',
    });
  });

  it('takes the time of the ticket’s timer', async () => {
    await open({ workId: TICKET }, [{ id: 'm', workId: TICKET, seconds: 1530 }]);
    expect(values()[0]).toBe('26');
  });

  it('names a time of day that is none, and stores nothing', async () => {
    await open({ workId: TICKET }, [{ id: 'm', workId: TICKET, seconds: 600 }]);
    const [, ended] = host().querySelectorAll<HTMLInputElement>('dl-field input');
    ended!.value = '25:00';
    ended!.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    await press('Record');
    expect(host().textContent).toContain('a time of day such as 10:40');
    expect(api.of('addEntry')).toEqual([]);
  });
});
