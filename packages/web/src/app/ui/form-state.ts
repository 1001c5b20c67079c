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

  constructor(
    private readonly schema: S,
    initial: Readonly<Record<string, unknown>>,
    private readonly draftName?: string,
  ) {
    const kept = draftName ? localStorage.getItem(`drumline.draft.${draftName}`) : null;
    this.view = new BehaviorSubject<FormView>({
      values: { ...initial, ...(kept ? (JSON.parse(kept) as object) : {}) },
      errors: {},
      busy: false,
    });
    this.view$ = this.view.asObservable();
  }

  get values(): Readonly<Record<string, unknown>> {
    return this.view.value.values;
  }

  set(name: string, value: unknown): void {
    const { [name]: _, ...errors } = this.view.value.errors;
    const values = { ...this.values, [name]: value };
    this.view.next({ ...this.view.value, values, errors });
    if (this.draftName) localStorage.setItem(`drumline.draft.${this.draftName}`, JSON.stringify(values));
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

  busy(busy: boolean): void {
    this.view.next({ ...this.view.value, busy });
  }

  /** Shows what the server refused by field; the rest is for the caller to show. */
  refused(fault: unknown): void {
    this.view.next({ ...this.view.value, busy: false, errors: { ...problemOf(fault).fields } });
  }

  /** Saved: the kept draft is not needed any more. */
  saved(): void {
    if (this.draftName) localStorage.removeItem(`drumline.draft.${this.draftName}`);
    this.busy(false);
  }
}
