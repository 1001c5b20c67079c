import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { map, startWith, Subject } from 'rxjs';
import { billingTermsRoutes, houseTermsOf, houseTermsSchema, type HouseTermsForm, sayTerms } from '@core/billing';
import type { Id } from '@core/ground';
import { ClientTerms, houseTermsLines } from '../../clients';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { RecordFormPanel, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { everyClient } from '../payments/every-client';

type Read = HouseTermsForm & { readonly version: number };

/** When clients are billed: what the house does, and the clients that have it otherwise. */
@Component({
  selector: 'dl-house-terms',
  imports: [AsyncPipe, ClientTerms, RecordFormPanel, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './house-terms.html',
  styleUrl: './house-terms.css',
})
export class HouseTerms {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly open = signal(false);
  /** The client whose own are looked at. */
  protected readonly chosen = signal<Id<'client'> | undefined>(undefined);
  protected readonly clients = toSignal(everyClient(this.api), { initialValue: [] });
  protected readonly chosenName = computed(() => this.clients().find((c) => c.value === this.chosen())?.label);
  protected readonly lines = houseTermsLines;
  protected readonly says = sayTerms;
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () => this.api.call(billingTermsRoutes.getHouseTerms, {}));

  protected house(read: Read): string {
    return sayTerms(houseTermsOf(read));
  }

  protected choose(clientId: string): void {
    this.chosen.set(clientId === '' ? undefined : (clientId as Id<'client'>));
  }

  protected form(read: Read): RecordForm {
    const form: RecordForm<typeof houseTermsSchema> = {
      schema: houseTermsSchema,
      initial: termsOnly(read),
      draft: 'house-billing-terms',
      does: 'Save',
      version: read.version,
      save: (body, seen) => this.set(body, seen ?? read.version).pipe(map(() => ({ id: 'house' }))),
      stored: () => this.api.call(billingTermsRoutes.getHouseTerms, {}).pipe(map((now) => ({ ...termsOnly(now), version: now.version }))),
    };
    return form as unknown as RecordForm;
  }

  private set(body: HouseTermsForm, version: number) {
    return this.api.call(billingTermsRoutes.setHouseTerms, { version, body });
  }

  protected saved(before: Read): void {
    this.close();
    this.toasts.done('Saved', () =>
      this.set(termsOnly(before), before.version + 1).subscribe({
        next: () => this.close(),
        error: (fault: unknown) => this.toasts.trouble(fault),
      }),
    );
  }

  protected close(): void {
    this.open.set(false);
    this.again.next();
  }
}

function termsOnly({ every, weekday, day, month, per, leadDays }: HouseTermsForm): HouseTermsForm {
  return { every, weekday, day, month, per, leadDays };
}
