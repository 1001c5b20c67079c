import { AsyncPipe } from '@angular/common';
import { afterNextRender, ChangeDetectionStrategy, Component, ElementRef, inject, input, output, type OnInit } from '@angular/core';
import type { Observable } from 'rxjs';
import type { AnySchema, InferType } from 'yup';
import type { FieldRecord } from '@core/desk';
import { problemOf } from '../shell/problem';
import { Toasts } from '../shell/toasts';
import { Field, type FieldKind, type Option } from './field';
import { FormState } from './form-state';

type Values = Readonly<Record<string, unknown>>;

/** One field of a form. `read` and `write` are for a field that stands for several values. */
export interface Line {
  readonly name: string;
  readonly label: string;
  readonly kind?: FieldKind;
  readonly options?: readonly Option[];
  /** What a choice says while nothing is chosen. */
  readonly none?: string;
  readonly placeholder?: string;
  readonly wide?: boolean;
  /** Shown only while this holds; what was typed stays. */
  readonly when?: (values: Values) => boolean;
  readonly read?: (values: Values) => unknown;
  readonly write?: (value: unknown, values: Values) => Values;
  /** Of a rule: the kind of record it looks at. */
  readonly on?: (values: Values) => FieldRecord;
}

/** What a form adds or changes: the route's own schema, and how it is saved. */
export interface RecordForm<S extends AnySchema = AnySchema> {
  readonly schema: S;
  readonly initial: Values;
  /** The name under which what is typed is kept until it is saved. */
  readonly draft: string;
  /** The words on the button. */
  readonly does: string;
  /** The version that was seen, of a record that is changed. */
  readonly version?: number;
  /** A method, so that a form of any record can stand where one of some record is held. */
  save(body: InferType<S>, version: number | undefined): Observable<{ readonly id: string }>;
  /** The record as it is stored now, for when somebody else changed it meanwhile. */
  readonly stored?: () => Observable<{ readonly version: number }>;
}

/**
 * The one form for records. Wrong input is named at its field and what was typed stays; where somebody else
 * changed the record meanwhile, both are shown and a person chooses.
 */
@Component({
  selector: 'dl-record-form',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './record-form.html',
  styleUrl: './record-form.css',
})
export class RecordFormPanel<S extends AnySchema> implements OnInit {
  readonly form = input.required<RecordForm<S>>();
  readonly lines = input.required<readonly Line[]>();
  readonly saved = output<string>();
  readonly closed = output<void>();
  /** All values, at the start and whenever one changes. */
  readonly values = output<Values>();
  private readonly toasts = inject(Toasts);
  protected state: FormState<S> | undefined;
  protected theirs: (Values & { readonly version: number }) | undefined;
  private version: number | undefined;

  constructor() {
    // The first thing to type gets the focus, so that a form opened by a key is filled by keys.
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    afterNextRender(() => host.nativeElement.querySelector<HTMLElement>('input:not([type=checkbox]), textarea')?.focus());
  }

  ngOnInit(): void {
    const form = this.form();
    this.state = new FormState(form.schema, form.initial, form);
    this.version = this.state.version;
    this.values.emit(this.state.values);
  }

  /** Of a field that holds several things, the first that is wrong with any of them. */
  protected errorOf({ name }: Line, errors: Readonly<Record<string, string>>): string | undefined {
    return errors[name] ?? Object.entries(errors).find(([path]) => path.startsWith(`${name}[`) || path.startsWith(`${name}.`))?.[1];
  }

  protected value(line: Line, values: Values): unknown {
    return line.read ? line.read(values) : values[line.name];
  }

  protected text(value: unknown): string {
    return value === null || value === undefined ? '' : typeof value === 'object' ? JSON.stringify(value) : String(value);
  }

  protected change(line: Line, value: unknown): void {
    for (const [name, part] of Object.entries(line.write ? line.write(value, this.state!.values) : { [line.name]: value }))
      this.state!.set(name, part);
    this.values.emit(this.state!.values);
  }

  protected save(event?: Event): void {
    event?.preventDefault();
    const body = this.state!.check();
    if (!body) return;
    this.state!.busy(true);
    this.form()
      .save(body, this.version)
      .subscribe({
        next: (done) => {
          this.state!.saved();
          this.toasts.done('Saved');
          this.saved.emit(done.id);
        },
        error: (fault: unknown) => {
          this.state!.refused(fault);
          const { stored } = this.form();
          if (problemOf(fault).status === 412 && stored) this.showTheirs(stored);
          else this.toasts.trouble(fault);
        },
      });
  }

  protected leave(): void {
    this.state!.forget();
    this.closed.emit();
  }

  private showTheirs(stored: () => Observable<{ readonly version: number }>): void {
    stored().subscribe({
      next: (theirs) => {
        this.theirs = theirs;
        this.state!.busy(false);
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** Whether theirs differs here from what stands in the form. */
  protected differs(line: Line, values: Values): boolean {
    return Boolean(this.theirs) && this.text(this.value(line, this.theirs!)) !== this.text(this.value(line, values));
  }

  /** Theirs as a person reads it: a choice by its words. */
  protected theirWords(line: Line): string {
    const text = this.text(this.value(line, this.theirs!));
    return (line.options?.find((o) => o.value === text)?.label ?? text) || 'empty';
  }

  protected take(line: Line): void {
    this.change(line, this.value(line, this.theirs!));
  }

  protected keepMine(): void {
    this.version = this.theirs!.version;
    this.theirs = undefined;
    this.save();
  }

  protected takeTheirs(): void {
    for (const line of this.lines()) this.take(line);
    this.version = this.theirs!.version;
    this.theirs = undefined;
    this.state!.busy(false);
  }
}
