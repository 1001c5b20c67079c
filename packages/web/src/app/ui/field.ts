import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Rule } from '@core/ground';
import type { FieldRecord } from '@core/desk';
import { ContactFinder } from '../clients/clients/contact-finder';
import { RuleBuilder } from '../ground/conditions/rule-builder';
import { Session } from '../shell/session';
import { DateInput } from './date-input';
import { TiersInput } from './tiers-input';
import { momentOf, wallText } from './time-format';

export interface Option {
  readonly value: string;
  readonly label: string;
}

export type FieldKind =
  | 'tiers'
  | 'text'
  | 'lines'
  | 'number'
  | 'money'
  | 'duration'
  | 'choice'
  | 'yes'
  | 'password'
  | 'moment'
  | 'date'
  | 'many'
  | 'rule'
  | 'contact';

let count = 0;

/** One labelled field with its error under it: words, figures, a choice or several, a date, a condition. */
@Component({
  selector: 'dl-field',
  imports: [ContactFinder, DateInput, RuleBuilder, TiersInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (kind() === 'yes') {
      <label class="yes"
        ><input #tickBox type="checkbox" [checked]="value() === true" (change)="changed.emit(tickBox.checked)" /> {{ label() }}</label
      >
    } @else {
      @if (kind() === 'contact') {
        <dl-contact-finder [label]="label()" [value]="text()" [error]="error()" (found)="changed.emit($event)" (typed)="put($event)" />
      } @else if (kind() === 'many' || kind() === 'rule' || kind() === 'tiers') {
        <span class="says">{{ label() }}</span>
      } @else {
        <label [for]="id">{{ label() }}</label>
      }
      @switch (kind()) {
        @case ('lines') {
          <textarea
            class="in"
            [id]="id"
            rows="4"
            [class.wrong]="error()"
            [attr.aria-invalid]="!!error()"
            [attr.aria-describedby]="error() ? id + 'e' : null"
            [value]="text()"
            (input)="typed($event)"
          ></textarea>
        }
        @case ('choice') {
          <select
            class="in"
            [id]="id"
            [class.wrong]="error()"
            [attr.aria-invalid]="!!error()"
            [attr.aria-describedby]="error() ? id + 'e' : null"
            (change)="chosen($event)"
          >
            <option value="" [selected]="!text()">{{ none() }}</option>
            @for (option of options(); track option.value) {
              <option [value]="option.value" [selected]="option.value === text()">{{ option.label }}</option>
            }
          </select>
        }
        @case ('many') {
          @if (options().length > fewest) {
            <input
              #findBox
              class="in"
              type="search"
              [attr.aria-label]="'Find among ' + label()"
              placeholder="find"
              (input)="find.set(findBox.value)"
              autocomplete="off"
            />
          }
          <div class="many" [class.long]="options().length > fewest" role="group" [attr.aria-label]="label()" [id]="id">
            @for (option of found(); track option.value) {
              <label class="yes"
                ><input type="checkbox" [checked]="among().includes(option.value)" (change)="toggle(option.value)" />
                {{ option.label }}</label
              >
            }
          </div>
        }
        @case ('rule') {
          <dl-rule-builder [label]="label()" [on]="on()" [rule]="rule()" (changed)="changed.emit($event)" />
        }
        @case ('tiers') {
          <dl-tiers role="group" [attr.aria-label]="label()" [value]="value()" (changed)="changed.emit($event)" />
        }
        @case ('date') {
          <dl-date
            [inputId]="id"
            [value]="text()"
            [invalid]="!!error()"
            [describedBy]="error() ? id + 'e' : ''"
            (changed)="put($event)"
            (unread)="put($event)"
          />
        }
        @case ('moment') {
          <dl-date
            [timed]="true"
            [inputId]="id"
            [value]="wall()"
            [invalid]="!!error()"
            [describedBy]="error() ? id + 'e' : ''"
            (changed)="momentChosen($event)"
            (unread)="put($event)"
          />
        }
        @case ('contact') {}
        @default {
          <input
            class="in"
            [class.mono]="figures()"
            [id]="id"
            [type]="kind() === 'password' ? 'password' : 'text'"
            [attr.inputmode]="figures() ? 'decimal' : null"
            [placeholder]="hint()"
            [class.wrong]="error()"
            [attr.aria-invalid]="!!error()"
            [attr.aria-describedby]="error() ? id + 'e' : null"
            [value]="text()"
            (input)="typed($event)"
            autocomplete="off"
          />
        }
      }
    }
    @if (error() && kind() !== 'contact') {
      <span class="error" [id]="id + 'e'">{{ error() }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 3px;
      align-content: start;
    }
    label,
    .says {
      font-size: 12.5px;
      color: var(--ink-soft);
      font-weight: 600;
    }
    label.yes {
      color: var(--ink);
      font-weight: 400;
      font-size: 14px;
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 32px;
    }
    .many {
      display: flex;
      flex-wrap: wrap;
      gap: 0 16px;
    }
    .long {
      max-height: 176px;
      overflow: auto;
      border: 1px solid var(--rule);
      border-radius: 4px;
      padding: 0 8px;
    }
    .error {
      color: var(--late);
      font-size: 12.5px;
    }
  `,
})
export class Field {
  private readonly session = inject(Session);
  readonly label = input.required<string>();
  readonly kind = input<FieldKind>('text');
  readonly value = input<unknown>('');
  readonly error = input<string | undefined>(undefined);
  readonly options = input<readonly Option[]>([]);
  readonly none = input('choose …');
  readonly placeholder = input('');
  /** Of a rule: the kind of record it looks at. */
  readonly on = input<FieldRecord>('ticket');
  readonly changed = output<unknown>();
  /** What stands in it now, of a field that holds one text; empty where nothing does. */
  readonly said = output<string>();
  protected readonly id = `f${++count}`;
  protected readonly text = computed(() => (this.value() === null || this.value() === undefined ? '' : String(this.value())));
  protected readonly figures = computed(() => ['number', 'money', 'duration'].includes(this.kind()));
  protected readonly hint = computed(() => this.placeholder() || { duration: '25 or 1:30', money: '0.00' }[this.kind() as 'money'] || '');

  /** The moment on the wall clock of the provider's zone; what cannot be read stays as it was typed. */
  protected readonly wall = computed(() => {
    const at = Date.parse(this.text());
    return Number.isNaN(at) ? this.text() : wallText(at, this.session.zone);
  });

  protected momentChosen(wall: string): void {
    this.put(wall ? momentOf(wall, this.session.zone) : null);
  }

  protected put(text: string | null): void {
    this.changed.emit(text);
    this.said.emit(text ?? '');
  }

  protected readonly rule = computed(() => (this.value() ?? true) as Rule);

  /** Of many: from more than so many on, they are found by their words. */
  protected readonly fewest = 12;
  protected readonly find = signal('');
  /** What fits the words, with what is chosen first, so that nothing chosen is out of sight. */
  protected readonly found = computed(() => {
    if (this.options().length <= this.fewest) return this.options();
    const words = this.find().trim().toLowerCase();
    const chosen = new Set(this.among());
    const fits = this.options().filter((o) => chosen.has(o.value) || o.label.toLowerCase().includes(words));
    return words ? [...fits].sort((a, b) => Number(chosen.has(b.value)) - Number(chosen.has(a.value))) : fits;
  });

  /** Of many: what is chosen. */
  protected readonly among = computed((): readonly string[] => (Array.isArray(this.value()) ? (this.value() as string[]) : []));

  protected toggle(value: string): void {
    this.changed.emit(this.among().includes(value) ? this.among().filter((v) => v !== value) : [...this.among(), value]);
  }

  protected typed(event: Event): void {
    this.put((event.target as HTMLInputElement).value);
  }

  protected chosen(event: Event): void {
    this.put((event.target as HTMLSelectElement).value || null);
  }
}
