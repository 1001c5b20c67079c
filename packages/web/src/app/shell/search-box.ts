import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, ElementRef, inject, viewChild } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { BehaviorSubject, catchError, combineLatest, debounceTime, map, of, startWith, switchMap } from 'rxjs';
import { searchRoutes, type HitWire } from '@core/house';
import { Api } from './api';
import { RAIL } from './rail';
import { Session } from './session';
import { Shortcuts } from './shortcuts';

interface Found {
  readonly kind: string;
  readonly title: string;
  readonly detail: string | null;
  readonly link: string;
}

const WAIT_MS = 120;

/** One search for everything, and for going anywhere. */
@Component({
  selector: 'dl-search-box',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let view = view$ | async;
    <div class="box">
      <input
        #box
        class="in"
        type="text"
        role="combobox"
        aria-label="Find anything"
        aria-controls="found"
        [attr.aria-expanded]="open && !!view?.text"
        [attr.aria-activedescendant]="open && view?.found?.length ? 'found' + at : null"
        placeholder="Find anything"
        autocomplete="off"
        (input)="type(box.value)"
        (focus)="open = true"
        (blur)="open = false"
        (keydown)="key($event, view?.found ?? [])"
      />
      <kbd>/</kbd>
      @if (open && view && view.text) {
        <ul id="found" role="listbox" aria-label="Found">
          @for (hit of view.found; track hit.link + hit.title; let i = $index) {
            <li
              role="option"
              [id]="'found' + i"
              [attr.aria-selected]="i === at"
              [class.at]="i === at"
              (mousedown)="go(hit)"
              (mousemove)="at = i"
            >
              <span class="soft small">{{ hit.kind }}</span><span class="clip">{{ hit.title }}</span
              ><span class="soft small clip">{{ hit.detail }}</span>
            </li>
          } @empty {
            <li class="soft none" role="option" aria-selected="false">Nothing fits "{{ view.text }}". Try a number, a title or a name.</li>
          }
        </ul>
      }
    </div>
  `,
  styles: `
    .box {
      position: relative;
      width: 290px;
      max-width: 100%;
    }
    .box kbd {
      position: absolute;
      right: 8px;
      top: 7px;
      color: var(--ink-soft);
    }
    ul {
      position: absolute;
      z-index: 60;
      top: 36px;
      left: 0;
      width: 560px;
      background: var(--panel);
      border: 1px solid var(--brass);
      border-radius: 4px;
      margin: 0;
      padding: 4px;
      list-style: none;
      box-shadow: var(--shadow);
      max-height: 70vh;
      overflow: auto;
    }
    li {
      display: grid;
      grid-template-columns: 62px minmax(0, 1.6fr) minmax(0, 1fr);
      gap: 10px;
      padding: 5px 8px;
      border-radius: 4px;
      cursor: pointer;
      align-items: baseline;
    }
    li.none {
      display: block;
      cursor: default;
    }
    li.at {
      background: var(--wash);
    }
  `,
})
export class SearchBox {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  private readonly typed = new BehaviorSubject('');
  protected open = false;
  protected at = 0;
  private readonly hits$ = this.typed.pipe(
    debounceTime(WAIT_MS),
    switchMap((q) =>
      q.trim()
        ? this.api.call(searchRoutes.search, { query: { q } }).pipe(
            map((a) => a.hits),
            catchError(() => of([] as HitWire[])),
          )
        : of([] as HitWire[]),
    ),
    startWith([] as HitWire[]),
  );
  protected readonly view$ = combineLatest([this.typed, this.hits$]).pipe(
    map(([text, hits]) => ({ text, found: [...this.places(text), ...hits] as Found[] })),
  );

  constructor() {
    inject(Shortcuts)
      .keys$.pipe(takeUntilDestroyed(inject(DestroyRef)))
      .subscribe((event) => {
        if (event.key !== '/') return;
        event.preventDefault();
        this.box().nativeElement.select();
        this.box().nativeElement.focus();
      });
  }

  protected type(text: string): void {
    this.at = 0;
    this.open = true;
    this.typed.next(text);
  }

  protected key(event: KeyboardEvent, found: readonly Found[]): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      this.at = Math.min(found.length - 1, Math.max(0, this.at + (event.key === 'ArrowDown' ? 1 : -1)));
    } else if (event.key === 'Enter' && found[this.at]) this.go(found[this.at]!);
    else if (event.key === 'Escape') (event.target as HTMLInputElement).blur();
  }

  protected go(hit: Found): void {
    this.open = false;
    this.box().nativeElement.value = '';
    this.typed.next('');
    this.box().nativeElement.blur();
    void this.router.navigateByUrl(hit.link);
  }

  private places(text: string): Found[] {
    const word = text.trim().toLowerCase();
    if (word.length < 2) return [];
    return RAIL.flatMap((p) => p.entries)
      .filter((e) => this.session.may(e.permission) && e.label.toLowerCase().startsWith(word))
      .map((e) => ({ kind: 'go to', title: e.label, detail: null, link: e.link }));
  }
}
