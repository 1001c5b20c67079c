import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { map, of, startWith, Subject, switchMap, throwError, type Observable } from 'rxjs';
import type { AnySchema, InferType } from 'yup';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { loading, type Loading } from './loading';
import { RecordFormPanel, type Line, type RecordForm } from './record-form';
import { StateNote } from './state-note';

export interface SetupRow {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  /** What else there is to say of it, in words. */
  readonly says: string;
}

/** Records that Setup keeps: how they are read, put into words, changed and put away. */
export interface SetupSection<R extends SetupRow = SetupRow, S extends AnySchema = AnySchema> {
  readonly heading: string;
  readonly intro: string;
  /** The words on the button: "Add a field". What is there for good has none. */
  readonly addWords?: string;
  /** What it says while there is none. */
  readonly none: string;
  readonly rows: () => Observable<readonly R[]>;
  /** The name under which what is typed is kept until it is saved. */
  readonly draft: string;
  readonly schema: S;
  /** What a new record starts with. */
  readonly fresh?: () => Readonly<Record<string, unknown>>;
  /** The lines of its form; what they offer is that of the latest rows. */
  readonly lines: () => readonly Line[];
  readonly add?: (body: InferType<S>) => Observable<{ readonly id: string }>;
  readonly edit: (row: R, version: number, body: InferType<S>) => Observable<{ readonly id: string }>;
  readonly archive?: (row: R) => Observable<unknown>;
  /** Asks a record at another place, from 1, where their order says something. */
  readonly move?: (row: R, position: number) => Observable<unknown>;
  /** What would come of a form before it is saved, in lines to read. */
  readonly tryOut?: { readonly words: string; readonly run: (values: Values) => Observable<TriedOut> };
  /** Reads what the form offers anew where that hangs on what was chosen; undefined where nothing changed. */
  readonly follow?: (values: Values) => Observable<unknown> | undefined;
}

/** What would come of it in a sentence, and examples of it. */
export interface TriedOut {
  readonly says: string;
  readonly lines: readonly string[];
}

type Values = Readonly<Record<string, unknown>>;

/** A section of Setup: its records, each changed or put away in place. */
@Component({
  selector: 'dl-setup-list',
  imports: [AsyncPipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = rows$ | async;
    @let may = session.may('setup.edit');
    <section [attr.aria-label]="section().heading">
      <header>
        <h2>{{ section().heading }}</h2>
        @if (may && section().addWords) {
          <button type="button" class="btn-plain" (click)="open(undefined)">{{ section().addWords }}</button>
        }
      </header>
      <p class="soft small">{{ section().intro }}</p>
      @if (opened(); as o) {
        @for (one of [o]; track one.key) {
          @if (one.name) {
            <p class="whose">
              <b>{{ one.name }}</b>
            </p>
          }
          <dl-record-form [form]="one.form" [lines]="one.lines" (values)="typed($event)" (saved)="done()" (closed)="done()" />
        }
        @if (section().tryOut; as attempt) {
          <div class="try" role="group" aria-label="Try-out">
            <button type="button" class="btn-link" (click)="tryOut()">{{ attempt.words }}</button>
            @if (tried(); as found) {
              <p aria-live="polite">{{ found.says }}</p>
              <ul>
                @for (line of found.lines; track $index) {
                  <li>{{ line }}</li>
                }
              </ul>
            }
          </div>
        }
      }
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @for (row of now.value; track row.id; let n = $index, first = $first, last = $last) {
          <div class="line">
            <span
              ><b>{{ row.name }}</b> <span class="soft small">{{ row.says }}</span></span
            >
            @if (may) {
              <span class="acts">
                @if (section().move) {
                  <button type="button" class="btn-link" [disabled]="first" (click)="move(row, n)">
                    earlier<span class="visually-hidden"> {{ row.name }}</span>
                  </button>
                  <button type="button" class="btn-link" [disabled]="last" (click)="move(row, n + 2)">
                    later<span class="visually-hidden"> {{ row.name }}</span>
                  </button>
                }
                <button type="button" class="btn-link" (click)="open(row)">
                  change<span class="visually-hidden"> {{ row.name }}</span>
                </button>
                @if (section().archive) {
                  <button type="button" class="btn-link" (click)="putAway(row)">
                    put away<span class="visually-hidden"> {{ row.name }}</span>
                  </button>
                }
              </span>
            }
          </div>
        } @empty {
          <p class="soft">{{ section().none }}</p>
        }
      }
    </section>
  `,
  styles: `
    section {
      max-width: 900px;
      margin-bottom: 28px;
    }
    header {
      display: flex;
      gap: 16px;
      align-items: baseline;
      justify-content: space-between;
    }
    .whose {
      margin: 8px 0 -4px 16px;
    }
    .line {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px 16px;
      padding: 7px 0;
      border-bottom: 1px solid var(--rule);
    }
    .line b {
      margin-right: 8px;
    }
    .acts {
      display: flex;
      gap: 16px;
    }
    .try {
      display: grid;
      gap: 4px;
      justify-items: start;
      margin: 4px 0 20px;
      padding: 0 32px;
    }
    .try p,
    .try ul {
      margin: 0;
    }
    .try ul {
      padding-left: 20px;
      overflow-wrap: anywhere;
    }
  `,
})
export class SetupList<R extends SetupRow, S extends AnySchema> implements OnInit {
  readonly section = input.required<SetupSection<R, S>>();
  /** Something was saved or put away. */
  readonly changed = output<void>();
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly opened = signal<
    { readonly key: string; readonly name: string | undefined; readonly form: RecordForm<S>; readonly lines: readonly Line[] } | undefined
  >(undefined);
  protected readonly tried = signal<TriedOut | undefined>(undefined);
  private values: Values = {};
  protected rows$: Observable<Loading<readonly R[]>> | undefined;

  ngOnInit(): void {
    this.rows$ = loading(this.again.pipe(startWith(undefined)), () => this.section().rows());
  }

  protected open(row: R | undefined): void {
    const { draft, schema, fresh, lines, add, edit } = this.section();
    this.tried.set(undefined);
    const form: RecordForm<S> = {
      schema,
      initial: row ? Object.fromEntries(Object.entries(row)) : (fresh?.() ?? {}),
      draft: `${draft}.${row?.id ?? 'new'}`,
      does: row ? 'Save' : 'Add it',
      ...(row ? { version: row.version, stored: () => this.stored(row) } : {}),
      save: (body, version) => (row ? edit(row, version!, body) : add!(body)),
    };
    this.opened.set({ key: row?.id ?? 'new', name: row?.name, form, lines: lines() });
  }

  /** A record as it stands now, for whoever changed it at the same time as somebody else; says where it was put away meanwhile. */
  private stored(row: R): Observable<R> {
    return this.section()
      .rows()
      .pipe(
        map((rows) => rows.find((each) => each.id === row.id)),
        switchMap((now) => (now ? of(now) : throwError(() => `${row.name} was put away meanwhile.`))),
      );
  }

  protected typed(values: Values): void {
    this.values = values;
    this.section()
      .follow?.(values)
      ?.subscribe({
        next: () => this.opened.update((o) => o && { ...o, lines: this.section().lines() }),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
  }

  protected tryOut(): void {
    this.section()
      .tryOut!.run(this.values)
      .subscribe({ next: (found) => this.tried.set(found), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected move(row: R, position: number): void {
    this.section().move!(row, position).subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected putAway(row: R): void {
    this.section().archive!(row).subscribe({
      next: () => {
        this.toasts.done(`${row.name} is put away; tickets that have it keep it`);
        this.done();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  reload(): void {
    this.again.next();
  }

  protected done(): void {
    this.opened.set(undefined);
    this.again.next();
    this.changed.emit();
  }
}
