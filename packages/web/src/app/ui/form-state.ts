import { BehaviorSubject } from 'rxjs';
import { ValidationError, type AnySchema, type InferType } from 'yup';
import { problemOf } from '../shell/problem';

export interface FormView {
  readonly values: Readonly<Record<string, unknown>>;
  readonly errors: Readonly<Record<string, string>>;
  readonly busy: boolean;
}

/**
 * A form over the same Yup schema as the route. What is typed is kept under a name in the browser until it
 * is saved, so leaving the page or losing the connection loses nothing.
 */
export class FormState<S extends AnySchema> {
  private readonly view: BehaviorSubject<FormView>;
  readonly view$;
  /** The version that what is typed builds on: of the kept draft, if there is one, else of the record. */
  readonly version: number | undefined;
  private readonly draftName: string | undefined;

  constructor(
    private readonly schema: S,
    initial: Readonly<Record<string, unknown>>,
    { draft, version }: { readonly draft?: string; readonly version?: number | undefined } = {},
  ) {
    this.draftName = draft;
    const kept = readDraft(draft);
    this.version = kept?.version ?? version;
    this.view = new BehaviorSubject<FormView>({ values: { ...initial, ...kept?.values }, errors: {}, busy: false });
    this.view$ = this.view.asObservable();
  }

  get values(): Readonly<Record<string, unknown>> {
    return this.view.value.values;
  }

  set(name: string, value: unknown): void {
    const { [name]: _, ...errors } = this.view.value.errors;
    const values = { ...this.values, [name]: value === '' && this.mayBeNothing(name) ? null : value };
    this.view.next({ ...this.view.value, values, errors });
    if (this.draftName) {
      const draft: Draft = { values, ...(this.version === undefined ? {} : { version: this.version }) };
      localStorage.setItem(keyOf(this.draftName), JSON.stringify(draft));
    }
  }

  /** The checked values, or undefined with the errors shown by field. */
  check(): InferType<S> | undefined {
    try {
      return this.schema.validateSync(this.values, { abortEarly: false, stripUnknown: true }) as InferType<S>;
    } catch (fault) {
      if (!(fault instanceof ValidationError)) throw fault;
      this.view.next({
        ...this.view.value,
        errors: Object.fromEntries(fault.inner.map((e) => [e.path ?? '', e.errors[0] ?? 'not right'])),
      });
      return undefined;
    }
  }

  /** A field left empty is nothing where the schema allows nothing. */
  private mayBeNothing(name: string): boolean {
    const fields = (this.schema as { fields?: Readonly<Record<string, { spec?: { nullable?: boolean } }>> }).fields;
    return fields?.[name]?.spec?.nullable ?? false;
  }

  busy(busy: boolean): void {
    this.view.next({ ...this.view.value, busy });
  }

  /** Shows what the server refused by field; the rest is for the caller to show. */
  refused(fault: unknown): void {
    this.view.next({ ...this.view.value, busy: false, errors: { ...problemOf(fault).fields } });
  }

  /** Left on purpose: what was typed is not kept. */
  forget(): void {
    if (this.draftName) localStorage.removeItem(keyOf(this.draftName));
  }

  /** Saved: the kept draft is not needed any more. */
  saved(): void {
    this.forget();
    this.busy(false);
  }
}

interface Draft {
  readonly values: Readonly<Record<string, unknown>>;
  readonly version?: number;
}

function keyOf(draftName: string): string {
  return `drumline.form.${draftName}`;
}

function readDraft(draftName: string | undefined): Draft | undefined {
  const kept = draftName ? localStorage.getItem(keyOf(draftName)) : null;
  return kept ? (JSON.parse(kept) as Draft) : undefined;
}
