import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { switchMap } from 'rxjs';
import {
  COMPARISON_NAMES,
  COMPARISONS,
  conditionOf,
  ruleOf,
  takesValue,
  type Condition,
  type FactShape,
  type Rule,
  type Test,
} from '@core/ground';
import type { FieldRecord } from '@core/desk';
import { KnownFacts, type KnownFact } from './known-facts';

type Mode = 'always' | 'never' | 'all' | 'any' | 'json';
/** Those of tests are there once it is known what tests can speak of. */
const MODES: readonly { readonly mode: Mode; readonly words: string; readonly tests?: true }[] = [
  { mode: 'always', words: 'always' },
  { mode: 'never', words: 'never' },
  { mode: 'all', words: 'when all of these hold', tests: true },
  { mode: 'any', words: 'when any of these holds', tests: true },
  { mode: 'json', words: 'as JSON Logic' },
];

/** Builds a condition: tests of which all or any must hold; what it cannot show is written as JSON Logic. */
@Component({
  selector: 'dl-rule-builder',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rule-builder.html',
  styleUrl: './rule-builder.css',
})
export class RuleBuilder {
  readonly label = input.required<string>();
  readonly rule = input.required<Rule>();
  /** The rule; or, while what is typed does not read, the text, which no form takes. */
  readonly changed = output<Rule>();
  /** The kind of record that the condition looks at. */
  readonly on = input<FieldRecord>('ticket');
  private readonly known = inject(KnownFacts);
  protected readonly facts = toSignal(toObservable(this.on).pipe(switchMap((on) => this.known.of(on))), { initialValue: [] });
  protected readonly modes = MODES;
  /** JSON was asked for, or is typed and does not read yet. */
  private readonly asJson = signal(false);
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly condition = computed((): Condition => conditionOf(this.rule()) ?? { join: 'all', tests: [] });
  protected readonly mode = computed((): Mode => {
    if (this.asJson()) return 'json';
    if (typeof this.rule() === 'boolean') return this.rule() ? 'always' : 'never';
    const condition = conditionOf(this.rule());
    return condition ? condition.join : 'json';
  });
  protected readonly json = computed(() => this.typed() ?? JSON.stringify(this.rule(), undefined, 1));

  protected choose(mode: string): void {
    this.asJson.set(mode === 'json');
    this.typed.set(undefined);
    this.trouble.set('');
    if (mode === 'always' || mode === 'never') this.changed.emit(mode === 'always');
    if (mode !== 'all' && mode !== 'any') return;
    const { tests } = this.condition();
    this.changed.emit(ruleOf({ join: mode, tests: tests.length ? tests : this.fresh() }));
  }

  protected write(text: string): void {
    this.typed.set(text);
    try {
      this.changed.emit(JSON.parse(text) as Rule);
      this.trouble.set('');
    } catch (fault) {
      this.trouble.set(`This is no JSON yet: ${(fault as Error).message}`);
      // Never the rule of before: a form with this in it is refused.
      this.changed.emit(text as never);
    }
  }

  protected comparisons(shape: FactShape) {
    return COMPARISON_NAMES.filter((is) => (COMPARISONS[is] as readonly FactShape[]).includes(shape));
  }

  protected readonly takesValue = takesValue;

  protected fact(path: string): KnownFact | undefined {
    return this.facts().find((f) => f.path === path);
  }

  /** A test of the first fact there is; none while nothing is known. */
  private fresh(): Test[] {
    return this.facts()
      .slice(0, 1)
      .map((f) => this.testOf(f));
  }

  private testOf(fact: KnownFact): Test {
    const is = this.comparisons(fact.shape)[0]!;
    const first = fact.shape === 'yes/no' ? true : fact.shape === 'number' ? 0 : (fact.options[0]?.value ?? '');
    return { fact: fact.path, is, value: first };
  }

  /** A test of another fact starts anew, with what that fact can be. */
  protected setFact(at: number, path: string): void {
    this.set(at, this.testOf(this.fact(path)!));
  }

  protected setValue(at: number, shape: FactShape, typed: string): void {
    const value = shape === 'number' ? Number(typed) : shape === 'yes/no' ? typed === 'true' : typed;
    this.set(at, { ...this.condition().tests[at]!, value: Number.isNaN(value) ? 0 : value });
  }

  protected setIs(at: number, is: string): void {
    const test = this.condition().tests[at]!;
    const next = is as Test['is'];
    this.set(at, { ...test, is: next, value: takesValue(next) ? (test.value ?? '') : null });
  }

  protected add(): void {
    this.emit([...this.condition().tests, ...this.fresh()]);
  }

  protected remove(at: number): void {
    this.emit(this.condition().tests.filter((_, i) => i !== at));
  }

  private set(at: number, test: Test): void {
    this.emit(this.condition().tests.map((t, i) => (i === at ? test : t)));
  }

  private emit(tests: readonly Test[]): void {
    this.changed.emit(ruleOf({ join: this.condition().join, tests }));
  }
}
