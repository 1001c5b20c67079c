import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { jest } from '@jest/globals';
import { firstValueFrom, Observable, of, Subject, throwError } from 'rxjs';
import type { Page } from '@core/ground';
import { Live } from '../../shell/live';
import { ProblemError, UNREACHABLE } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { actOnMany } from './act-on-many';
import { chosenColumns, nextSort, switchColumn, type Column } from './column';
import { ListState, type Query } from './list-state';

interface Row {
  readonly id: string;
  readonly name: string;
}
const COLUMNS: readonly Column<Row>[] = [
  { key: 'name', head: 'Name', text: (r) => r.name, link: (r) => `/rows/${r.id}`, sort: 'name' },
  { key: 'id', head: 'Id', text: (r) => r.id },
  { key: 'more', head: 'More', text: () => '', shown: false },
];
const keys = (columns: readonly Column<Row>[]) => columns.map((c) => c.key);

describe('columns of a list', () => {
  it('are those shown by themselves, or those that the address names, and always the one that opens the record', () => {
    expect(keys(chosenColumns(COLUMNS, undefined))).toEqual(['name', 'id']);
    expect(keys(chosenColumns(COLUMNS, 'more'))).toEqual(['name', 'more']);
    expect(keys(chosenColumns(COLUMNS, 'nonsense'))).toEqual(['name']);
  });

  it('are switched one by one, and leave the address when they are as usual', () => {
    const more = switchColumn(COLUMNS, undefined, 'more');
    expect(more).toBe('name,id,more');
    expect(switchColumn(COLUMNS, more, 'id')).toBe('name,more');
    expect(switchColumn(COLUMNS, more, 'more')).toBeUndefined();
    expect(switchColumn(COLUMNS, undefined, 'name')).toBeUndefined();
  });

  it('are sorted by, turned round, and left as before', () => {
    expect([nextSort(undefined, 'name'), nextSort('name', 'name'), nextSort('-name', 'name'), nextSort('other', 'name')]).toEqual([
      'name',
      '-name',
      undefined,
      'name',
    ]);
    // What falls first, as the most or the newest, is turned round to rise.
    expect([nextSort('name', '-open'), nextSort('-open', '-open'), nextSort('open', '-open')]).toEqual(['-open', 'open', undefined]);
  });
});

/** A store of rows that answers as the server does. */
class Store {
  readonly asked: { query: Query; after: string | undefined; most: number }[] = [];
  rows: Row[] = Array.from({ length: 250 }, (_, i) => ({ id: String(i), name: `row ${i}` }));
  broken = false;

  load(query: Query, { after, most }: { after?: string; most: number }): Observable<Page<Row>> {
    this.asked.push({ query, after, most });
    if (this.broken) return throwError(() => new ProblemError(UNREACHABLE));
    const from = after ? Number(after) : 0;
    const rows = this.rows.filter((r) => r.name.includes(query['q'] ?? '')).slice(from, from + most);
    const end = from + rows.length;
    return of({ rows, count: this.rows.length, countCapped: false, next: end < this.rows.length ? String(end) : null });
  }
}

@Component({ selector: 'dl-test-page', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class TestPage {
  static store = new Store();
  readonly list = new ListState<Row>({ name: 'test', topics: ['row'], load: (q, p) => TestPage.store.load(q, p) });
}
@Component({ selector: 'dl-other-page', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class OtherPage {}

describe('the state of a list', () => {
  const changed = new Subject<unknown>();
  let harness: RouterTestingHarness;
  const open = async (url: string) => (await harness.navigateByUrl(url, TestPage)).list;
  const rowsOf = (list: ListState<Row>) => firstValueFrom(list.rows$);

  beforeEach(async () => {
    TestPage.store = new Store();
    TestBed.configureTestingModule({
      providers: [
        provideRouter([
          { path: 'rows', component: TestPage },
          { path: 'other', component: OtherPage },
        ]),
        { provide: Live, useValue: { about: () => changed } },
      ],
    });
    harness = await RouterTestingHarness.create();
  });

  it('loads by the words of the address, save its own, and page by page when the end comes near', async () => {
    const list = await open('/rows?q=row&columns=name');
    const watching = list.rows$.subscribe();
    expect(TestPage.store.asked[0]).toEqual({ query: { q: 'row' }, after: undefined, most: 100 });
    expect((await rowsOf(list)).length).toBe(100);
    list.scrolled(0, 80);
    expect((await rowsOf(list)).length).toBe(100);
    list.scrolled(2000, 3);
    expect((await rowsOf(list)).length).toBe(200);
    list.scrolled(5000, 3);
    list.scrolled(5000, 0);
    expect((await rowsOf(list)).map((r) => r.id)).toEqual(TestPage.store.rows.map((r) => r.id));
    watching.unsubscribe();
  });

  it('goes back to where it was left, with as many rows', async () => {
    let list = await open('/rows?sort=name');
    let watching = list.rows$.subscribe();
    list.scrolled(3300, 0);
    watching.unsubscribe();
    await harness.navigateByUrl('/other', OtherPage);
    list = await open('/rows?sort=name');
    watching = list.rows$.subscribe();
    expect([list.startTop, (await rowsOf(list)).length]).toEqual([3300, 200]);
    watching.unsubscribe();
    await harness.navigateByUrl('/other', OtherPage);
    expect((await open('/rows?sort=-name')).startTop).toBe(0);
  });

  it('holds live changes back while the pointer is on it, and shows them when it leaves', async () => {
    const list = await open('/rows');
    const watching = list.rows$.subscribe();
    let waiting = 0;
    const counting = list.waiting$.subscribe((n) => (waiting = n));
    list.hover(true);
    TestPage.store.rows = [{ id: 'new', name: 'row new' }, ...TestPage.store.rows];
    changed.next(undefined);
    changed.next(undefined);
    expect([(await rowsOf(list))[0]!.id, waiting]).toEqual(['0', 2]);
    list.hover(false);
    expect([(await rowsOf(list))[0]!.id, waiting]).toEqual(['new', 0]);
    changed.next(undefined);
    expect(TestPage.store.asked.length).toBe(3);
    watching.unsubscribe();
    counting.unsubscribe();
  });

  it('chooses rows, and forgets the choice when the filter changes', async () => {
    const list = await open('/rows');
    const watching = list.rows$.subscribe();
    list.toggle('3');
    list.toggle('5');
    list.toggle('3');
    expect(list.chosenRows.map((r) => r.id)).toEqual(['5']);
    list.chooseAll(true);
    expect(list.chosenRows.length).toBe(100);
    list.set({ q: 'row 1' });
    await harness.fixture.whenStable();
    expect(TestBed.inject(Router).url).toBe('/rows?q=row%201');
    expect(list.chosenRows).toEqual([]);
    watching.unsubscribe();
  });

  it('hands out every row for a file, and keeps what it has while the server is away', async () => {
    const list = await open('/rows');
    const watching = list.rows$.subscribe();
    TestPage.store.rows = Array.from({ length: 2300 }, (_, i) => ({ id: String(i), name: `row ${i}` }));
    expect((await firstValueFrom(list.all())).length).toBe(2300);
    TestPage.store.broken = true;
    list.retry();
    expect((await rowsOf(list)).length).toBe(100);
    watching.unsubscribe();
  });
});

describe('acting on many', () => {
  const rows = [1, 2, 3].map((n) => ({ id: String(n), name: `row ${n}` }));

  it('does what can be done, says what could not and why, and undoes only what was done', () => {
    const toasts = TestBed.inject(Toasts);
    const undone: string[] = [];
    const after = jest.fn();
    actOnMany<Row>({
      rows,
      act: (row) =>
        row.id === '2'
          ? throwError(() => new ProblemError({ ...UNREACHABLE, detail: 'It has an open ticket.' }))
          : of({ version: Number(row.id) + 10 }),
      undo: (row, version) => (undone.push(`${row.id} from ${version}`), of(undefined)),
      words: (n) => `${n} put away`,
      toasts,
      after,
    });
    let texts: string[] = [];
    toasts.toasts$.subscribe((all) => (texts = all.map((t) => t.text)));
    expect(texts).toEqual(['2 put away', expect.stringContaining('1 not: It has an open ticket.')]);
    toasts.undoLatest();
    expect(undone).toEqual(['1 from 11', '3 from 13']);
    expect(after).toHaveBeenCalledTimes(2);
  });
});
