import { ChangeDetectionStrategy, Component, ElementRef, inject, output, signal, viewChild } from '@angular/core';
import { BANK_COLUMNS, type BankColumn, bankRoutes, guessColumns, MOST_BANK_BYTES } from '@core/billing';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { Field, type Option } from '../../ui/field';
import { KEPT } from './kept-columns';
import { headsOf, sayRead } from './bank-words';

const LABELS: Readonly<Record<BankColumn, string>> = {
  date: 'Day',
  amount: 'Amount',
  in: 'Money in',
  out: 'Money out',
  payer: 'Payer',
  account: "Payer's account",
  text: 'Text',
  id: "Bank's id",
};

/** Reads a file of a bank. Where a CSV file does not say which column is what, it is asked once; the same heads are known from then on. */
@Component({
  selector: 'dl-read-bank-file',
  imports: [Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="btn-main" [class.busy]="busy()"
      >{{ busy() ? 'Reading it' : 'Read a bank file' }}
      <input #input type="file" class="visually-hidden" accept=".xml,.csv,.txt,text/csv,application/xml" (change)="choose()"
    /></label>
    @if (asking(); as a) {
      <form class="panel columns" (submit)="$event.preventDefault(); read()" novalidate>
        <h2>What is what in {{ a.file.name }}?</h2>
        <p class="soft small">{{ a.why }}</p>
        <div class="fields">
          @if (a.columns) {
            @for (c of columns; track c) {
              <dl-field
                kind="choice"
                [label]="labels[c]"
                none="not there"
                [options]="a.options"
                [value]="chosen()[c] ?? ''"
                (said)="choosing(c, $event)"
              />
            }
          }
          @if (a.days) {
            <dl-field
              kind="choice"
              label="03/04/2026 is"
              none="choose"
              [options]="days"
              [value]="dayFirst()"
              (said)="dayFirst.set($event)"
            />
          }
        </div>
        <button class="btn-main" [disabled]="busy()">Read it</button>
        <button type="button" class="btn-link" (click)="asking.set(undefined)">Leave it</button>
      </form>
    }
  `,
  styles: `
    :host {
      position: relative;
    }
    .busy {
      opacity: 0.7;
    }
    .btn-main:focus-within {
      outline: 2px solid var(--brass);
      outline-offset: 2px;
    }
    .columns {
      position: absolute;
      right: 0;
      top: calc(100% + 8px);
      z-index: 5;
      width: 520px;
      padding: 14px 18px;
      box-shadow: var(--lifted, 0 6px 24px rgb(0 0 0 / 18%));
    }
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 16px;
      margin: 8px 0 14px;
    }
    p {
      margin: 4px 0 0;
    }
  `,
})
export class ReadBankFile {
  readonly done = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly input = viewChild.required<ElementRef<HTMLInputElement>>('input');
  protected readonly columns = BANK_COLUMNS;
  protected readonly labels = LABELS;
  protected readonly days: readonly Option[] = [
    { value: 'yes', label: '3 April' },
    { value: 'no', label: '4 March' },
  ];
  protected readonly busy = signal(false);
  protected readonly asking = signal<
    { file: File; why: string; columns: boolean; days: boolean; options: readonly Option[]; heads: string } | undefined
  >(undefined);
  protected readonly chosen = signal<Readonly<Partial<Record<BankColumn, string>>>>({});
  protected readonly dayFirst = signal('');

  protected choosing(column: BankColumn, value: string): void {
    this.chosen.update((now) => ({ ...now, [column]: value }));
  }

  protected async choose(): Promise<void> {
    const input = this.input().nativeElement;
    const file = input.files?.[0];
    // The same file may be chosen again.
    input.value = '';
    if (!file) return;
    if (file.size > MOST_BANK_BYTES)
      return this.toasts.trouble(`${file.name} is larger than ${MOST_BANK_BYTES / 1024 / 1024} MB: bring statements of fewer days.`);
    const heads = headsOf(await file.slice(0, 20_000).text());
    const key = heads.join('|').slice(0, 500);
    const kept = KEPT.get(key);
    this.chosen.set(kept?.columns ?? Object.fromEntries(Object.entries(guessColumns(heads)).map(([c, n]) => [c, String(n)])));
    this.dayFirst.set(kept?.dayFirst ?? '');
    this.send(file, kept !== undefined, { heads, key });
  }

  protected read(): void {
    const a = this.asking();
    if (!a) return;
    const heads = a.options.map((o) => o.label);
    this.send(a.file, a.columns, { heads, key: a.heads });
  }

  private send(file: File, says: boolean, { heads, key }: { readonly heads: readonly string[]; readonly key: string }): void {
    const pairs = Object.entries(this.chosen()).filter(([, n]) => n !== '');
    const columns = says ? pairs.map(([c, n]) => `${c}:${n}`).join(',') : undefined;
    const dayFirst = this.dayFirst() ? this.dayFirst() === 'yes' : undefined;
    this.busy.set(true);
    this.api.upload(bankRoutes.readBankFile, { query: { name: file.name, columns, dayFirst } }, file).subscribe({
      next: ({ statements }) => {
        this.busy.set(false);
        if (says || this.dayFirst()) KEPT.keep(key, { columns: this.chosen(), dayFirst: this.dayFirst() });
        this.asking.set(undefined);
        this.toasts.done(sayRead(statements));
        this.done.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        const problem = problemOf(fault);
        const [lacks, days] = [!!problem.fields?.['columns'], !!problem.fields?.['dayFirst']];
        if (!lacks && !days) return this.toasts.trouble(problem.fields ? `Nothing of ${file.name} was read. ${problem.detail}` : fault);
        const options = heads.map((label, n) => ({ value: String(n), label: label || `column ${n + 1}` }));
        this.asking.set({ file, why: problem.detail ?? '', columns: lacks || says, days, options, heads: key });
      },
    });
  }
}
