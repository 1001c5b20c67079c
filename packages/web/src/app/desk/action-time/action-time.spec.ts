import { Subject } from 'rxjs';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Answering, settle } from '../../../../testing/answering';
import { ActionTimeStrip } from './action-time';

const REMOTE = { id: '11111111-1111-4111-8111-111111111111', name: 'remote', visit: false };
const ON_SITE = { id: '22222222-2222-4222-8222-222222222222', name: 'on site', visit: true };
const proposed = (more: object) => ({
  minutes: 26,
  from: 'timer',
  says: 'your timer counts 26 min',
  activityId: REMOTE.id,
  activities: [REMOTE, ON_SITE],
  distanceUnit: 'miles',
  asks: [],
  ...more,
});
const effect = { amount: null, sentence: '€45.00 to the client', minutes: 26, billedMinutes: 30, why: [], over: [] };

describe('the time of what is done', () => {
  let fixture: ComponentFixture<ActionTimeStrip>;
  let api: Answering;
  const host = (): HTMLElement => fixture.nativeElement;
  const field = () => host().querySelector<HTMLInputElement>('[aria-label="How long this took"]')!;
  const open = async (action: string, more: object = {}, me: object = {}) => {
    api = new Answering({ getProposedTime: proposed(more), previewEntry: effect });
    TestBed.configureTestingModule({ providers: api.providers(me) });
    fixture = TestBed.createComponent(ActionTimeStrip);
    fixture.componentRef.setInput('workId', 'ticket');
    fixture.componentRef.setInput('action', action);
    await fixture.whenStable();
    await settle();
    await fixture.whenStable();
  };
  const type = async (text: string) => {
    field().value = text;
    field().dispatchEvent(new Event('input'));
    await fixture.whenStable();
    await settle();
    await fixture.whenStable();
  };

  it('is not taken before it is known, as it would be left out', async () => {
    const unanswered = new Subject<object>();
    api = new Answering({ getProposedTime: unanswered, previewEntry: effect });
    TestBed.configureTestingModule({ providers: api.providers() });
    fixture = TestBed.createComponent(ActionTimeStrip);
    fixture.componentRef.setInput('workId', 'ticket');
    fixture.componentRef.setInput('action', 'visit');
    await fixture.whenStable();
    expect(fixture.componentInstance.ready()).toBe(false);
    unanswered.next(proposed({}));
    await fixture.whenStable();
    expect([fixture.componentInstance.ready(), fixture.componentInstance.take()?.duration]).toEqual([true, '26 min']);
  });

  it('is only offered in the middle of work, and taken with one press', async () => {
    await open('note');
    expect([field().value, field().placeholder]).toEqual(['', 'none']);
    expect(fixture.componentInstance.take()).toBeNull();
    host().querySelector<HTMLButtonElement>('button')!.click();
    await fixture.whenStable();
    expect(field().value).toBe('26 min');
    expect(fixture.componentInstance.take()).toEqual({
      duration: '26 min',
      activityId: REMOTE.id,
      billable: true,
      reason: null,
      distance: null,
    });
  });

  it('is put in where work ends, and where the kind asks for it', async () => {
    await open('visit');
    expect(field().value).toBe('26 min');
    TestBed.resetTestingModule();
    await open('note', { asks: ['note'] });
    expect(field().value).toBe('26 min');
    TestBed.resetTestingModule();
    await open('note', { asks: ['note'], from: 'history', minutes: 15, says: '15 min is the middle' });
    expect([field().value, field().placeholder]).toEqual(['', 'asked for']);
  });

  it('has a way where it is a visit, which is in what it would do and in what is sent', async () => {
    const far = () => host().querySelector<HTMLInputElement>('[aria-label^="How far, miles"]');
    await open('visit');
    expect(far()).toBeNull();
    const how = host().querySelector('select')!;
    how.value = ON_SITE.id;
    how.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    const write = async (text: string) => {
      far()!.value = text;
      far()!.dispatchEvent(new Event('input'));
      await fixture.whenStable();
      await settle();
    };
    await write('12.');
    expect(api.of('previewEntry').at(-1)!.query).not.toHaveProperty('distance');
    expect(fixture.componentInstance.take()).toBeUndefined();
    await fixture.whenStable();
    expect(host().querySelector('[role=alert]')!.textContent).toContain('a distance such as 42');
    await write('12.5');
    expect(api.of('previewEntry').at(-1)!.query).toMatchObject({ activityId: ON_SITE.id, distance: '12.5' });
    expect(fixture.componentInstance.take()).toMatchObject({ activityId: ON_SITE.id, distance: '12.5' });
    // What is no visit has no way, whatever was typed before.
    how.value = REMOTE.id;
    how.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect([far(), fixture.componentInstance.take()]).toEqual([null, expect.objectContaining({ distance: null })]);
  });

  it('says what it would do before it is recorded', async () => {
    await open('note');
    await type('45');
    expect(host().textContent).toContain('€45.00 to the client');
    expect(api.of('previewEntry').at(-1)!.query).toMatchObject({
      workId: 'ticket',
      duration: '45',
      startsAt: '2026-11-24T09:55:00Z',
      billable: 'true',
    });
  });

  it('names what is wrong with it at its field, from here or from the server', async () => {
    await open('note');
    await type('soon');
    expect(fixture.componentInstance.take()).toBeUndefined();
    await fixture.whenStable();
    expect(host().querySelector('[role=alert]')!.textContent).toContain('a time such as 25');
    await type('25');
    expect(fixture.componentInstance.refused({ 'time.startsAt': 'your day is closed' })).toBe(true);
    await fixture.whenStable();
    expect(host().querySelector('[role=alert]')!.textContent).toContain('your day is closed');
    expect(fixture.componentInstance.refused({ text: 'write something' })).toBe(false);
  });

  it('asks why where it is not billable, and forgets what was recorded', async () => {
    await open('note');
    await type('25');
    host().querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await fixture.whenStable();
    expect(fixture.componentInstance.take()).toBeUndefined();
    const why = host().querySelector<HTMLInputElement>('[aria-label="Why it is not billable"]')!;
    why.value = 'our mistake';
    why.dispatchEvent(new Event('input'));
    expect(fixture.componentInstance.take()).toMatchObject({ billable: false, reason: 'our mistake' });
    fixture.componentInstance.clear();
    await fixture.whenStable();
    expect(field().value).toBe('');
  });

  it('is not there for who records none', async () => {
    await open('note', {}, { person: { id: 'ngozi', name: 'Ngozi', role: 'billing', gradeId: null, grade: null, technician: false } });
    expect(field()).toBeNull();
    expect(fixture.componentInstance.take()).toBeNull();
  });
});
