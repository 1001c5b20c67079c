import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { OnTheWay } from '../shell/on-the-way';
import { Together } from './together';

@Component({
  imports: [Together],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<div [dlTogether]="of()"><button type="button">Press me</button></div>',
})
class Page {
  readonly of = signal('one');
}

const later = () => new Promise((done) => setTimeout(done, 80));
const until = async (holds: () => boolean) => {
  while (!holds()) await later();
};

function drawn() {
  const page = TestBed.createComponent(Page);
  page.detectChanges();
  const place = (page.nativeElement as HTMLElement).querySelector<HTMLElement>('div')!;
  return {
    show: (of: string) => page.componentInstance.of.set(of),
    isShown: () => (page.detectChanges(), place.style.visibility !== 'hidden'),
    waits: () => place.getAttribute('aria-busy'),
  };
}

describe('what reads its parts by itself', () => {
  it('is shown when the last of them came, one that could not be read too', async () => {
    const onTheWay = TestBed.inject(OnTheWay);
    let come!: (value: string) => void;
    let fail!: (fault: Error) => void;
    void onTheWay.add(new Promise((done) => (come = done)));
    onTheWay.add(new Promise((_, no) => (fail = no))).catch(() => undefined);
    const part = drawn();
    await later();
    expect(part.isShown()).toBe(false);
    expect(part.waits()).toBe('true');
    fail(new Error('no'));
    await later();
    expect(part.isShown()).toBe(false);
    come('here');
    // What came asks for more as it is drawn.
    await Promise.resolve();
    void onTheWay.add(new Promise((done) => (come = done)));
    await later();
    expect(part.isShown()).toBe(false);
    come('more');
    await until(part.isShown);
    expect(part.waits()).toBe('false');
  });

  it('stays shown whatever is read afterwards', async () => {
    const part = drawn();
    await until(part.isShown);
    void TestBed.inject(OnTheWay).add(new Promise(() => undefined));
    await later();
    expect(part.isShown()).toBe(true);
  });

  it('waits anew where another record is shown', async () => {
    const part = drawn();
    await until(part.isShown);
    void TestBed.inject(OnTheWay).add(new Promise(() => undefined));
    part.show('another');
    await later();
    expect(part.isShown()).toBe(false);
  });
});
