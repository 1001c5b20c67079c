import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import type { StoryWire } from '@core/ground';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { Story } from './story';

const line = (n: number | null): StoryWire => ({
  id: n === null ? null : `e${n}`,
  at: '2026-11-24T10:40:00Z',
  who: 'Aoife',
  what: n === null ? 'keeps earlier events' : `did ${n}`,
  detail: null,
  via: 'page',
});

describe('the story on a page', () => {
  let fixture: ComponentFixture<Story>;
  let asked: string[];
  const page = (): HTMLElement => fixture.nativeElement;
  const shown = () => [...page().querySelectorAll('p')].map((p) => /did (\d+)/.exec(p.textContent!)?.[1]).join(' ');
  const more = () => page().querySelector('button');
  const show = async (...numbers: (number | null)[]) => {
    fixture.componentRef.setInput('story', numbers.map(line));
    await fixture.whenStable();
  };

  beforeEach(() => {
    asked = [];
    TestBed.configureTestingModule({
      providers: [
        { provide: Session, useValue: { zone: 'Europe/Dublin', now: () => Date.parse('2026-11-24T10:40:00Z') } },
        { provide: Toasts, useValue: {} },
      ],
    });
    fixture = TestBed.createComponent(Story);
    fixture.componentRef.setInput('earlier', (before: string) => {
      asked.push(before);
      return of({ story: before === 'e5' ? [line(null), line(3), line(4)] : [line(1), line(2)] });
    });
  });

  it('shows the newest first, and earlier lines by a button until there are none', async () => {
    await show(null, 5, 6);
    expect(shown()).toBe('6 5');
    more()!.click();
    await fixture.whenStable();
    expect(shown()).toBe('6 5 4 3');
    more()!.click();
    await fixture.whenStable();
    expect([shown(), more(), asked]).toEqual(['6 5 4 3 2 1', null, ['e5', 'e3']]);
  });

  it('keeps what was read when more happens, and begins anew for another record', async () => {
    await show(null, 5, 6);
    more()!.click();
    await fixture.whenStable();
    await show(null, 6, 7);
    expect(shown()).toBe('7 6 5 4 3');
    expect(more()).not.toBeNull();
    await show(41, 42);
    expect([shown(), more()]).toEqual(['42 41', null]);
  });
});
