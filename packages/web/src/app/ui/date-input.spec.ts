import { TestBed } from '@angular/core/testing';
import { Answering } from '../../../testing/answering';
import { DateInput } from './date-input';

describe('a date field', () => {
  const open = async (value: string, timed = false) => {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers: new Answering({}).providers() });
    const fixture = TestBed.createComponent(DateInput);
    fixture.componentRef.setInput('value', value);
    fixture.componentRef.setInput('timed', timed);
    const emitted: string[] = [];
    fixture.componentInstance.changed.subscribe((day) => {
      emitted.push(day);
      fixture.componentRef.setInput('value', day);
    });
    fixture.componentInstance.unread.subscribe((text) => emitted.push(`unread: ${text}`));
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const input = host.querySelector('input')!;
    const type = async (text: string) => {
      input.value = text;
      input.dispatchEvent(new Event('change'));
      await fixture.whenStable();
      return input.value;
    };
    const press = async (key: string) => {
      input.dispatchEvent(new KeyboardEvent('keydown', { key }));
      await fixture.whenStable();
      return input.value;
    };
    return { host, input, type, press, emitted };
  };

  it('shows the date as everywhere, and takes it as people type it', async () => {
    const { input, type, emitted } = await open('2026-11-01');
    expect(input.value).toBe('1 Nov 2026');
    expect(await type('1.12.2026')).toBe('1 Dec 2026');
    expect(await type('2026-12-01')).toBe('1 Dec 2026');
    expect(await type('1 dec 2026')).toBe('1 Dec 2026');
    expect(await type(' ')).toBe('');
    expect(emitted).toEqual(['2026-12-01', '2026-12-01', '2026-12-01', '']);
  });

  it('keeps what cannot be read, and says what can', async () => {
    const { host, type, emitted } = await open('2026-11-01');
    expect(await type('soonish')).toBe('soonish');
    expect(host.querySelector('[role=alert]')!.textContent).toContain('a day such as');
    expect(await type('2 nov 2026')).toBe('2 Nov 2026');
    expect(host.querySelector('[role=alert]')).toBeNull();
    expect(emitted).toEqual(['unread: soonish', '2026-11-02']);
  });

  it('goes a day on and back by the arrow keys', async () => {
    const { press, emitted } = await open('2026-12-31');
    expect(await press('ArrowUp')).toBe('1 Jan 2027');
    expect(await press('ArrowDown')).toBe('31 Dec 2026');
    expect(await press('x')).toBe('31 Dec 2026');
    expect(emitted).toEqual(['2027-01-01', '2026-12-31']);
  });

  it('takes a time of day with it where that is asked for', async () => {
    const { input, type, press, emitted } = await open('2026-11-24T10:40', true);
    expect(input.value).toBe('24 Nov 2026, 10:40');
    expect(await type('16:30')).toBe('24 Nov 2026, 16:30');
    expect(await type('1 dec 2026')).toBe('1 Dec 2026, 16:30');
    expect(await press('ArrowUp')).toBe('2 Dec 2026, 16:30');
    expect(await type('25:00')).toBe('25:00');
    expect(emitted).toEqual(['2026-11-24T16:30', '2026-12-01T16:30', '2026-12-02T16:30', 'unread: 25:00']);
  });
});
