import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MentionList } from './mention-list';

const PEOPLE = ['Deepa Raghunathan', 'Sora Minegishi', 'Sorcha Devlin', 'Aoife Brannigan'].map((name, i) => ({ id: String(i), name }));

describe('the list of people to ask', () => {
  let fixture: ComponentFixture<MentionList>;
  let chosen: string[];
  const names = () => [...(fixture.nativeElement as HTMLElement).querySelectorAll('li')].map((li) => li.textContent!.trim());
  const at = () => (fixture.nativeElement as HTMLElement).querySelector('li.at')?.textContent?.trim();
  const before = async (text: string) => {
    fixture.componentRef.setInput('before', text);
    await fixture.whenStable();
  };
  const key = async (name: string, more: object = {}) => {
    const event = new KeyboardEvent('keydown', { key: name, cancelable: true, ...more });
    const taken = fixture.componentInstance.key(event);
    await fixture.whenStable();
    return [taken, event.defaultPrevented];
  };
  beforeEach(async () => {
    chosen = [];
    fixture = TestBed.createComponent(MentionList);
    fixture.componentRef.setInput('people', PEOPLE);
    fixture.componentInstance.chosen.subscribe((name) => chosen.push(name));
    await before('');
  });

  it.each([
    ['Ask @', ['Deepa Raghunathan', 'Sora Minegishi', 'Sorcha Devlin', 'Aoife Brannigan']],
    ['Ask @so', ['Sora Minegishi', 'Sorcha Devlin']],
    ['(@min', ['Sora Minegishi']],
    ['@Sora Minegishi', []],
    ['mail desk@so', []],
    ['Ask @so, or', []],
    ['nobody', []],
  ])('after "%s" it offers %j', async (text, offered) => {
    await before(text);
    expect(names()).toEqual(offered);
  });

  it('is walked by arrows, around its ends, and chosen from by Enter and Tab', async () => {
    await before('@so');
    expect(at()).toBe('Sora Minegishi');
    expect(await key('ArrowDown')).toEqual([true, true]);
    expect(at()).toBe('Sorcha Devlin');
    await key('ArrowDown');
    expect(at()).toBe('Sora Minegishi');
    await key('ArrowUp');
    await key('Enter');
    await key('Tab');
    expect(chosen).toEqual(['Sorcha Devlin', 'Sorcha Devlin']);
  });

  it('leaves keys alone that are not for it: others, with ctrl, and all while it is closed', async () => {
    await before('@so');
    expect([await key('a'), await key('Enter', { ctrlKey: true })]).toEqual([
      [false, false],
      [false, false],
    ]);
    await before('no more');
    expect(await key('Enter')).toEqual([false, false]);
    expect(chosen).toEqual([]);
  });
});
