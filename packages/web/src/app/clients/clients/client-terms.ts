import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, map, startWith, Subject } from 'rxjs';
import {
  billingTermsRoutes,
  clientTermsSchema,
  houseTermsOf,
  sayPer,
  sayRhythm,
  type ClientTermsForm,
  type HouseTermsForm,
} from '@core/billing';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { DatePipe } from '../../ui/pipes';
import { RecordFormPanel, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { clientTermsLines } from './terms-lines';

interface Read {
  readonly version: number;
  readonly own: ClientTermsForm;
  readonly holds: HouseTermsForm & { readonly billedAsOf: string; readonly nextDay: string };
}

/** When a client is billed and on how many invoices, changed in place. */
@Component({
  selector: 'dl-client-terms',
  imports: [AsyncPipe, DatePipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      @let t = now.value;
      <p class="terms">
        <span>{{ says(t.holds) }}</span>
        @if (t.holds.every !== 'run') {
          <span class="soft small">next on {{ t.holds.nextDay | date }}</span>
        }
        <span class="soft small">{{ isOwn(t.own) ? 'their own' : 'as the house does' }}</span>
        @if (session.may('invoices.issue')) {
          <button type="button" class="btn-link small" [attr.aria-expanded]="open()" (click)="open.set(!open())">
            change<span class="visually-hidden"> when they are billed</span>
          </button>
        }
      </p>
      @if (open()) {
        <dl-record-form [form]="form(t)" [lines]="lines" (saved)="saved(t)" (closed)="close()" />
      }
    }
  `,
  styles: `
    .terms {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 8px;
      align-items: baseline;
      margin: 0;
    }
  `,
})
export class ClientTerms {
  readonly clientId = input.required<Id<'client'>>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly open = signal(false);
  protected readonly lines = clientTermsLines;
  protected readonly now$ = loading(combineLatest([toObservable(this.clientId), this.again.pipe(startWith(undefined))]), ([clientId]) =>
    this.api.call(billingTermsRoutes.getClientTerms, { params: { clientId } }),
  );

  protected says(holds: Read['holds']): string {
    const { rhythm, per } = houseTermsOf(holds);
    return `${sayRhythm(rhythm)}, ${sayPer(per)}`;
  }

  protected isOwn({ every, per, leadDays }: ClientTermsForm): boolean {
    return every !== null || per !== null || leadDays !== null;
  }

  protected form({ own, version }: Read): RecordForm {
    const clientId = this.clientId();
    const form: RecordForm<typeof clientTermsSchema> = {
      schema: clientTermsSchema,
      initial: own,
      draft: `billing-terms.${clientId}`,
      does: 'Save',
      version,
      save: (body, seen) => this.set(body, seen ?? version).pipe(map(() => ({ id: clientId }))),
      stored: () =>
        this.api.call(billingTermsRoutes.getClientTerms, { params: { clientId } }).pipe(map((t) => ({ ...t.own, version: t.version }))),
    };
    return form as unknown as RecordForm;
  }

  private set(body: ClientTermsForm, version: number) {
    return this.api.call(billingTermsRoutes.setClientTerms, { params: { clientId: this.clientId() }, version, body });
  }

  protected saved(before: Read): void {
    this.close();
    this.toasts.done('Saved', () =>
      this.set(before.own, before.version + 1).subscribe({
        next: () => this.close(),
        error: (fault: unknown) => this.toasts.trouble(fault),
      }),
    );
  }

  protected close(): void {
    this.open.set(false);
    this.again.next();
    this.changed.emit();
  }
}
