import { TestBed } from '@angular/core/testing';
import { jest } from '@jest/globals';
import { firstValueFrom, of, Subject, throwError, toArray } from 'rxjs';
import { object, string } from 'yup';
import type { ClockWire } from '@core/desk';
import { ProblemError, UNREACHABLE } from '../shell/problem';
import { BeatStrip } from './beat-strip';
import { ClockStrip, clockWords } from './clock-strip';
import { csvText } from './csv';
import { Field } from './field';
import { FormState } from './form-state';
import { loading } from './loading';
import { isoDay, longDay, nearTime, plainDate, sayAway, saySpan, shortDay } from './time-format';
import { splitQuoted } from '../desk/messages/message-body';

const clock = (more: Partial<ClockWire>): ClockWire => ({
  clock: 'resolution',
  state: 'running',
  holding: false,
  holdReason: null,
  dueAt: '2026-11-24T14:40:00Z',
  missedAt: null,
  endedAt: null,
  elapsed: 3600,
  remaining: 10_800,
  target: 14_400,
  percent: 25,
  runsMet: 0,
  runsMissed: 0,
  drawing: { parts: [{ did: 'ran', width: 18 }], notch: 72 },
  why: [],
  ...more,
});
const NOW = Date.parse('2026-11-24T10:40:00Z');

describe('dates in words', () => {
  it('name a day and a span of days, with the first month only where there are two', () => {
    expect(shortDay('2026-11-24')).toBe('Tue 24');
    expect(saySpan('2026-11-23', '2026-11-29')).toBe('23 to 29 November');
    expect(saySpan('2026-11-30', '2026-12-06')).toBe('30 November to 6 December');
  });

  it('name whole days away by their dates, the last one included, and others with their times', () => {
    const away = (from: string, to: string) => sayAway(Date.parse(from), Date.parse(to), 'Europe/Dublin');
    expect(away('2026-11-24T00:00:00Z', '2026-11-26T00:00:00Z')).toBe('from 24 Nov 2026 to 25 Nov 2026');
    expect(away('2026-06-30T23:00:00Z', '2026-07-01T23:00:00Z')).toBe('on 1 Jul 2026');
    expect(away('2026-11-24T12:00:00Z', '2026-11-25T00:00:00Z')).toBe('from 24 Nov 2026, 12:00 to 25 Nov 2026, 00:00');
  });
});

describe('the interface kit', () => {
  it('says a clock in words, in every state', () => {
    const words = (more: Partial<ClockWire>) => clockWords(clock(more), NOW, 'Europe/Dublin');
    expect(words({})).toBe('1 h of 4 h, due 14:40');
    expect(words({ state: 'holding', holdReason: 'client', dueAt: null })).toBe('1 h of 4 h, holds for the client');
    expect(words({ state: 'met' })).toBe('met, 1 h of 4 h');
    expect(words({ state: 'missed and running', missedAt: '2026-11-23T10:00:00Z', remaining: -5400 })).toBe(
      'missed Mon 10:00, 1 h 30 late',
    );
    expect(words({ state: 'missed and ended', missedAt: '2026-10-01T10:00:00Z' })).toBe('missed 1 Oct 11:00, took 1 h of 4 h');
  });

  it('draws a clock strip with its parts beside each other, and tells it to those who cannot see', () => {
    const fixture = TestBed.createComponent(ClockStrip);
    fixture.componentRef.setInput(
      'clock',
      clock({
        drawing: {
          parts: [
            { did: 'ran', width: 30 },
            { did: 'held', width: 6 },
            { did: 'late', width: 20 },
          ],
          notch: 36,
        },
      }),
    );
    fixture.detectChanges();
    const host: HTMLElement = fixture.nativeElement;
    expect([...host.querySelectorAll('i')].map((i) => [i.className, i.style.left, i.style.width])).toEqual([
      ['ran', '0%', '30%'],
      ['held', '30%', '6%'],
      ['late', '36%', '20%'],
    ]);
    expect(host.querySelector('b')!.style.left).toBe('36%');
    expect(host.querySelector('[role=img]')!.getAttribute('aria-label')).toContain('Resolution: 1 h of 4 h');
  });

  it('tells a beat strip in words', () => {
    const fixture = TestBed.createComponent(BeatStrip);
    fixture.componentRef.setInput('beats', ['off', 'logged', 'logged', 'booked', 'free']);
    fixture.detectChanges();
    expect(fixture.nativeElement.querySelector('[role=img]').getAttribute('aria-label')).toBe('30 min logged, 15 min booked, 15 min free');
  });

  it('ties a field to its label and its error', () => {
    const fixture = TestBed.createComponent(Field);
    fixture.componentRef.setInput('label', 'City');
    fixture.componentRef.setInput('error', 'write something');
    const changed = jest.fn();
    fixture.componentInstance.changed.subscribe(changed);
    fixture.detectChanges();
    const input: HTMLInputElement = fixture.nativeElement.querySelector('input');
    expect(fixture.nativeElement.querySelector('label').htmlFor).toBe(input.id);
    expect([
      input.getAttribute('aria-invalid'),
      document.getElementById(input.getAttribute('aria-describedby')!)?.textContent ??
        fixture.nativeElement.querySelector('.error').textContent,
    ]).toEqual(['true', 'write something']);
    input.value = 'Pellworth';
    input.dispatchEvent(new Event('input'));
    expect(changed).toHaveBeenCalledWith('Pellworth');
  });

  it('checks a form by its schema, by field, and keeps a draft until it is saved', () => {
    localStorage.clear();
    const schema = object({ name: string().required('write something'), city: string().required('where?') });
    const form = new FormState(schema, { name: '', city: '' }, { draft: 'spec' });
    expect(form.check()).toBeUndefined();
    let errors: object = {};
    form.view$.subscribe((v) => (errors = v.errors));
    expect(errors).toEqual({ name: 'write something', city: 'where?' });
    form.set('name', 'Orla');
    expect(errors).toEqual({ city: 'where?' });
    expect(new FormState(schema, { name: '', city: '' }, { draft: 'spec' }).values['name']).toBe('Orla');
    form.set('city', 'Hollin');
    expect(form.check()).toEqual({ name: 'Orla', city: 'Hollin' });
    form.saved();
    expect(new FormState(schema, { name: '' }, { draft: 'spec' }).values['name']).toBe('');
    form.refused(new ProblemError({ type: '', title: '', status: 422, detail: '', fields: { city: 'not there' } }));
    expect(errors).toEqual({ city: 'not there' });
  });

  it('keeps what was there while the server is away, and says so when there was nothing', async () => {
    const when = new Subject<number>();
    const answers = [
      of('first'),
      throwError(() => new ProblemError(UNREACHABLE)),
      of('second'),
      throwError(() => new ProblemError({ ...UNREACHABLE, status: 404, title: 'Not found' })),
    ];
    const seen = firstValueFrom(loading(when, (n) => answers[n]!).pipe(toArray()));
    for (let n = 0; n < 4; n++) when.next(n);
    when.complete();
    expect((await seen).map((l) => (l.is === 'there' ? l.value : l.is === 'failed' ? l.problem.title : l.is))).toEqual([
      'waiting',
      'first',
      'second',
      'Not found',
    ]);
    const never = firstValueFrom(loading(of(1), () => throwError(() => new ProblemError(UNREACHABLE))).pipe(toArray()));
    expect((await never).map((l) => l.is)).toEqual(['waiting', 'failed']);
  });

  it('writes times as people near them would', () => {
    const at = (text: string) => nearTime(Date.parse(text), NOW, 'Europe/Dublin');
    expect([at('2026-11-24T14:40:00Z'), at('2026-11-25T09:00:00Z'), at('2026-12-24T09:00:00Z'), at('2026-07-01T09:00:00Z')]).toEqual([
      '14:40',
      'Wed 09:00',
      '24 Dec 09:00',
      '1 Jul 10:00',
    ]);
    expect(isoDay(Date.parse('2026-06-30T23:30:00Z'), 'Europe/Dublin')).toBe('2026-07-01');
    expect(longDay(NOW, 'Europe/Dublin')).toContain('24 November');
    expect(plainDate('2026-11-24')).toBe('24 Nov 2026');
  });

  it('writes CSV that readers read back, formulas disarmed and numbers left alone', () => {
    expect(csvText([['a,b', 'say "hi"', 'two\nlines', '=1+1', '-3.50', '+x', '']])).toBe(
      '"a,b","say ""hi""","two\nlines",\'=1+1,-3.50,\'+x,\r\n',
    );
  });

  it('folds what a reply quotes, and nothing else', () => {
    expect(splitQuoted('Yes.\n\nOn Tuesday Deepa wrote:\n> Does it work?\n> Really?\n')).toEqual({
      own: 'Yes.',
      quoted: 'On Tuesday Deepa wrote:\n> Does it work?\n> Really?',
    });
    expect(splitQuoted('> a quote first\nthen an answer')).toEqual({ own: '> a quote first\nthen an answer', quoted: '' });
    expect(splitQuoted('')).toEqual({ own: '', quoted: '' });
  });
});
