import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { forkJoin, map, startWith, Subject } from 'rxjs';
import { catalogueRoutes } from '@core/goods';
import { feeFormSchema, type FeeWire, flatFeeRoutes, intakeRoutes } from '@core/desk';
import { formatMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';
import { loading } from '../../ui/loading';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { SetupPart } from '../../ui/setup-part';

interface Fees {
  readonly fees: readonly FeeWire[];
  readonly items: readonly Option[];
  readonly categories: readonly Option[];
}

/** The whole jobs that are done at a flat fee, and what speaks of one. */
@Component({
  selector: 'dl-fees-page',
  imports: [SetupPart, AsyncPipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    @let may = session.may('setup.edit');
    <dl-setup-part heading="Flat-fee jobs">
      <ng-container ngProjectAs="[setupAct]">
        @if (may && now && now.is === 'there') {
          <button type="button" class="btn-main" (click)="open(now.value, undefined)">Add a fee</button>
        }
      </ng-container>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @if (opened(); as o) {
          @for (one of [o]; track one.key) {
            <dl-record-form [form]="one.form" [lines]="one.lines" (saved)="done()" (closed)="done()" />
          }
        }
        <table class="rows">
          <thead>
            <tr>
              <th>Job</th>
              <th>Fee before tax</th>
              <th>The client</th>
              <th>What speaks of it</th>
              <th><span class="visually-hidden">To do</span></th>
            </tr>
          </thead>
          @for (f of now.value.fees; track f.id) {
            <tr>
              <td>
                <b>{{ f.name }}</b>
              </td>
              <td class="mono">{{ money(f.price) }}</td>
              <td>{{ f.asksClient ? 'is asked first' : 'need not be asked' }}</td>
              <td class="small">{{ speaks(f, now.value) }}</td>
              <td>
                @if (may) {
                  <button type="button" class="btn-link" (click)="open(now.value, f)">
                    change<span class="visually-hidden"> {{ f.name }}</span>
                  </button>
                  <button type="button" class="btn-link" (click)="archive(f)">
                    put away<span class="visually-hidden"> {{ f.name }}</span>
                  </button>
                }
              </td>
            </tr>
          } @empty {
            <tr>
              <td colspan="5" class="soft">No job has a flat fee yet. Add the first: its price is that of an item of the catalogue.</td>
            </tr>
          }
        </table>
      }
    </dl-setup-part>
  `,
})
export class FeesPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly money = formatMoney;
  protected readonly again = new Subject<void>();
  protected readonly opened = signal<{ readonly key: string; readonly form: RecordForm; readonly lines: readonly Line[] } | undefined>(
    undefined,
  );
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    forkJoin([
      this.api.call(flatFeeRoutes.listFees, {}),
      everyPage((page) => this.api.call(catalogueRoutes.listItems, { query: page })),
      this.api.call(intakeRoutes.listCategories, {}),
    ]).pipe(
      map(([{ fees }, items, { categories }]): Fees => ({
        fees,
        items: items.rows.map((i) => ({ value: i.id, label: `${i.number} ${i.name}` })),
        categories: categories.filter((c) => c.parentId).map((c) => ({ value: c.id, label: `${c.parent}: ${c.name}` })),
      })),
    ),
  );

  protected speaks(f: FeeWire, now: Fees): string {
    return [
      now.categories.find((c) => c.value === f.categoryId)?.label,
      f.words.map((w) => `"${w}"`).join(', '),
      f.forNewPerson ? 'a new person' : '',
      f.forNewAsset ? 'a new device' : '',
    ]
      .filter(Boolean)
      .join('; ');
  }

  protected open(now: Fees, fee: FeeWire | undefined): void {
    this.opened.set({
      key: fee?.id ?? 'new',
      lines: [
        { name: 'name', label: 'Job' },
        { name: 'itemId', label: 'Charged as', kind: 'choice', options: now.items },
        { name: 'categoryId', label: 'Category that speaks of it', kind: 'choice', none: 'none', options: now.categories },
        {
          name: 'words',
          label: 'Words that speak of it, with commas between',
          // As typed, also the space that a next word follows; the schema trims when it is saved.
          read: (values) => (values['words'] as string[]).join(','),
          write: (typed) => ({ words: String(typed).split(',') }),
        },
        { name: 'asksClient', label: 'The client is asked before it is charged', kind: 'yes' },
        { name: 'forNewPerson', label: 'A new person at the client speaks of it', kind: 'yes' },
        { name: 'forNewAsset', label: 'A new device at the client speaks of it', kind: 'yes' },
      ],
      form: {
        schema: feeFormSchema,
        initial: fee ?? { name: '', itemId: '', asksClient: false, categoryId: null, words: [], forNewPerson: false, forNewAsset: false },
        draft: `flat-fee.${fee?.id ?? 'new'}`,
        does: fee ? 'Save' : 'Add it',
        ...(fee ? { version: fee.version } : {}),
        save: (body, version) =>
          fee
            ? this.api.call(flatFeeRoutes.editFee, { params: { feeId: fee.id }, version: version!, body })
            : this.api.call(flatFeeRoutes.addFee, { body }),
      },
    });
  }

  protected archive(fee: FeeWire): void {
    this.api.call(flatFeeRoutes.archiveFee, { params: { feeId: fee.id }, version: fee.version }).subscribe({
      next: () => {
        this.toasts.done(`${fee.name} is put away`);
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected done(): void {
    this.opened.set(undefined);
    this.again.next();
  }
}
