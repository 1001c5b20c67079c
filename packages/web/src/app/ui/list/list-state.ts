import { DestroyRef, inject } from '@angular/core';
import { ActivatedRoute, Router } from '@angular/router';
import {
  BehaviorSubject,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  merge,
  shareReplay,
  startWith,
  Subject,
  tap,
  type Observable,
} from 'rxjs';
import { MOST_ROWS, PAGE_ROWS, type Page } from '@core/ground';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { everyPage } from '../every-page';
import { loading } from '../loading';
import { ListPlaces } from './list-places';

export type Query = Readonly<Record<string, string | undefined>>;

export interface ListSource<Row> {
  /** The name under which its place is kept. */
  readonly name: string;
  readonly load: (query: Query, page: { after?: string; most: number }) => Observable<Page<Row>>;
  /** Live topics that make it load anew. */
  readonly topics: readonly string[];
  /** Words of the address that are not for the server. */
  readonly ownWords?: readonly string[];
}

const OWN_WORDS = ['columns'];

/**
 * One list: its filters and sort in the address, its rows by page, what is chosen, and its place. Live changes
 * wait while the pointer is on it, so that nothing moves under it.
 */
export class ListState<Row extends { readonly id: string }> {
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  private readonly places = inject(ListPlaces);
  private readonly again = new Subject<void>();
  private readonly hovered = new BehaviorSubject(false);
  private readonly more = new BehaviorSubject<readonly Row[]>([]);
  private readonly waiting = new BehaviorSubject(0);
  private readonly chosen = new BehaviorSubject<ReadonlySet<string>>(new Set());
  private next: string | null = null;
  private loaded: number;
  private asking = false;
  /** How far down to begin, in pixels; 0 where the list was not left like this. */
  readonly startTop: number;
  readonly waiting$ = this.waiting.asObservable();
  readonly chosen$ = this.chosen.asObservable();
  readonly query$: Observable<Query>;
  readonly list$;
  readonly rows$: Observable<readonly Row[]>;
  private rows: readonly Row[] = [];
  private top = 0;
  private query: Query = {};

  constructor(private readonly source: ListSource<Row>) {
    const route = inject(ActivatedRoute);
    const place = this.places.of(source.name, addressOf(route.snapshot.queryParams));
    this.loaded = place?.loaded ?? PAGE_ROWS;
    this.startTop = place?.top ?? 0;
    let first = true;
    this.query$ = route.queryParams.pipe(
      map((q) => q as Query),
      tap((q) => (this.query = q)),
      shareReplay({ bufferSize: 1, refCount: true }),
    );
    const asked$ = this.query$.pipe(
      map((q) => this.forServer(q)),
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      tap(() => {
        if (!first) this.loaded = PAGE_ROWS;
        first = false;
        this.more.next([]);
        this.chosen.next(new Set());
      }),
    );
    this.list$ = loading(combineLatest([asked$, this.changes(inject(Live))]), ([query]) =>
      source.load(query, { most: Math.min(MOST_ROWS, Math.max(PAGE_ROWS, this.loaded)) }),
    ).pipe(
      tap((l) => {
        if (l.is !== 'there') return;
        // What lies beyond the longest page stays as it was; the first thousand are fresh.
        if (this.loaded > MOST_ROWS && this.next) return;
        this.more.next([]);
        this.next = l.value.next;
      }),
      shareReplay({ bufferSize: 1, refCount: true }),
    );
    this.rows$ = combineLatest([this.list$, this.more]).pipe(
      map(([list, more]) =>
        list.is === 'there' ? [...list.value.rows, ...more.filter((m) => !list.value.rows.some((r) => r.id === m.id))] : [],
      ),
      tap((rows) => {
        this.rows = rows;
        this.loaded = Math.max(PAGE_ROWS, rows.length);
      }),
      shareReplay({ bufferSize: 1, refCount: true }),
    );
    inject(DestroyRef).onDestroy(() =>
      this.places.keep(source.name, { address: addressOf(this.query), loaded: this.loaded, top: this.top }),
    );
  }

  private changes(live: Live): Observable<unknown> {
    return merge(
      live.about(...this.source.topics).pipe(
        tap(() => this.hovered.value && this.waiting.next(this.waiting.value + 1)),
        filter(() => !this.hovered.value),
      ),
      this.hovered.pipe(filter((on) => !on && this.waiting.value > 0)),
      this.again,
    ).pipe(
      tap(() => this.waiting.next(0)),
      startWith(undefined),
    );
  }

  private forServer(query: Query): Query {
    const own = [...OWN_WORDS, ...(this.source.ownWords ?? [])];
    return Object.fromEntries(Object.entries(query).filter(([word]) => !own.includes(word)));
  }

  /** Changes words of the address; undefined takes one away. */
  set(part: Query, replaceUrl = false): void {
    void this.router.navigate([], { queryParams: part, queryParamsHandling: 'merge', replaceUrl });
  }

  retry(): void {
    this.again.next();
  }

  hover(on: boolean): void {
    this.hovered.next(on);
  }

  toggle(id: string): void {
    const set = new Set(this.chosen.value);
    if (!set.delete(id)) set.add(id);
    this.chosen.next(set);
  }

  /** Chooses all rows that are loaded, or none. */
  chooseAll(on: boolean): void {
    this.chosen.next(new Set(on ? this.rows.map((r) => r.id) : []));
  }

  get chosenRows(): readonly Row[] {
    return this.rows.filter((r) => this.chosen.value.has(r.id));
  }

  /** The list was moved: keeps its place, and gets the page behind when the end comes near. */
  scrolled(top: number, left: number): void {
    this.top = top;
    if (left <= PAGE_ROWS / 4) this.showMore();
  }

  /** Gets the page behind what is shown, where there is one. */
  showMore(): void {
    if (!this.next || this.asking) return;
    this.asking = true;
    this.source.load(this.forServer(this.query), { after: this.next, most: PAGE_ROWS }).subscribe({
      next: (page) => {
        this.asking = false;
        this.next = page.next;
        this.more.next([...this.more.value, ...page.rows]);
      },
      error: (fault: unknown) => {
        this.asking = false;
        this.toasts.trouble(fault);
      },
    });
  }

  /** Every row that fits, page by page, for a file. */
  all(): Observable<readonly Row[]> {
    const query = this.forServer(this.query);
    return everyPage((page) => this.source.load(query, page)).pipe(map(({ rows }) => rows));
  }
}

function addressOf(query: Query): string {
  return JSON.stringify(Object.entries(query).sort());
}
