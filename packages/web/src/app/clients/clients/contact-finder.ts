import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { NgbTypeahead, type NgbTypeaheadSelectItemEvent } from '@ng-bootstrap/ng-bootstrap/typeahead';
import { catchError, debounceTime, distinctUntilChanged, map, of, switchMap, tap, type Observable } from 'rxjs';
import { clientRoutes, type FoundContactWire } from '@core/clients';
import { Api } from '../../shell/api';

const WAIT_MS = 120;
let count = 0;

/** Finds a contact while their name, client, address or number is typed; Enter takes the first. */
@Component({
  selector: 'dl-contact-finder',
  imports: [NgbTypeahead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label [for]="id">{{ label() }}</label>
    <ng-template #hit let-k="result">
      <b>{{ k.name }}</b> <span class="soft small">{{ k.title }} {{ k.client }} · {{ k.email }} {{ k.phone }}</span>
    </ng-template>
    <input
      #textBox
      class="in"
      type="text"
      [id]="id"
      placeholder="a name, a client, an address or a number"
      autocomplete="off"
      [class.wrong]="error()"
      [attr.aria-invalid]="!!error()"
      [value]="value()"
      [ngbTypeahead]="find"
      [resultTemplate]="hit"
      [inputFormatter]="words"
      [editable]="false"
      (selectItem)="take($event)"
      (input)="typed.emit(textBox.value)"
    />
    @if (error()) {
      <span class="error">{{ error() }}</span>
    } @else if (nobody) {
      <span class="small soft">Nobody fits "{{ nobody }}". Add them under the client first.</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 3px;
    }
    label {
      font-size: 12.5px;
      color: var(--ink-soft);
      font-weight: 600;
    }
    .error {
      color: var(--late);
      font-size: 12.5px;
    }
  `,
})
export class ContactFinder {
  readonly label = input.required<string>();
  /** Who was found, in words. */
  readonly value = input('');
  readonly error = input<string | undefined>(undefined);
  readonly found = output<FoundContactWire>();
  readonly typed = output<string>();
  private readonly api = inject(Api);
  protected readonly id = `finder${++count}`;
  protected nobody = '';
  protected readonly words = (k: FoundContactWire | string): string => (typeof k === 'string' ? k : `${k.name}, ${k.client}`);

  protected readonly find = (typed$: Observable<string>): Observable<readonly FoundContactWire[]> =>
    typed$.pipe(
      debounceTime(WAIT_MS),
      map((t) => t.trim()),
      distinctUntilChanged(),
      switchMap((q) =>
        q.length < 2
          ? of([])
          : this.api.call(clientRoutes.findContacts, { query: { q } }).pipe(
              map((a) => a.contacts),
              catchError(() => of([])),
              tap((all) => (this.nobody = all.length ? '' : q)),
            ),
      ),
    );

  protected take(event: NgbTypeaheadSelectItemEvent<FoundContactWire>): void {
    this.nobody = '';
    this.found.emit(event.item);
  }
}
