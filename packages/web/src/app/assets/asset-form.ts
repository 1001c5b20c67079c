import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, type OnInit } from '@angular/core';
import { BehaviorSubject, catchError, map, of, shareReplay, switchMap } from 'rxjs';
import { assetFormSchema, assetRoutes, type AssetWire } from '@core/assets';
import { clientRoutes } from '@core/clients';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';
import { Field, type Option } from '../ui/field';
import { FormState } from '../ui/form-state';

@Component({
  selector: 'dl-asset-form',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state?.view$ | async;
    @let choices = of$ | async;
    <form class="panel" (submit)="save($event)" novalidate>
      <div class="form">
        <dl-field
          label="Number"
          [value]="form?.values?.['number']"
          [error]="form?.errors?.['number']"
          (changed)="state!.set('number', $event)"
        />
        <dl-field label="Name" [value]="form?.values?.['name']" [error]="form?.errors?.['name']" (changed)="state!.set('name', $event)" />
        <dl-field
          label="Make"
          [value]="form?.values?.['make']"
          [error]="form?.errors?.['make']"
          (changed)="state!.set('make', $event || null)"
        />
        <dl-field
          label="Client"
          kind="choice"
          [options]="(clients$ | async) ?? []"
          [value]="form?.values?.['clientId']"
          [error]="form?.errors?.['clientId']"
          (changed)="choose($event)"
        />
        <dl-field
          label="Site"
          kind="choice"
          none="none"
          [options]="choices?.sites ?? []"
          [value]="form?.values?.['siteId']"
          [error]="form?.errors?.['siteId']"
          (changed)="state!.set('siteId', $event)"
        />
        <dl-field
          label="Used by"
          kind="choice"
          none="nobody"
          [options]="choices?.contacts ?? []"
          [value]="form?.values?.['contactId']"
          [error]="form?.errors?.['contactId']"
          (changed)="state!.set('contactId', $event)"
        />
      </div>
      <p class="buttons">
        <button class="btn-main" [disabled]="form?.busy">{{ asset() ? 'Save' : 'Add the asset' }}</button><button
          type="button"
          class="btn-link"
          (click)="closed.emit()"
        >
          Leave it
        </button>
      </p>
    </form>
  `,
  styles: `
    form {
      margin: 12px 16px;
      padding: 16px;
    }
    .buttons {
      display: flex;
      gap: 16px;
      margin-top: 14px;
    }
  `,
})
export class AssetFormPanel implements OnInit {
  readonly asset = input<AssetWire>();
  readonly saved = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected state: FormState<typeof assetFormSchema> | undefined;
  private readonly client = new BehaviorSubject('');
  protected readonly clients$ = this.api.call(clientRoutes.listClients, {}).pipe(
    map((a): Option[] => a.clients.map((c) => ({ value: c.id, label: c.name }))),
    shareReplay(1),
  );
  protected readonly of$ = this.client.pipe(
    switchMap((clientId) =>
      clientId ? this.api.call(clientRoutes.getClient, { params: { clientId } }).pipe(catchError(() => of(undefined))) : of(undefined),
    ),
    map((c) => ({
      sites: c?.sites.map((s): Option => ({ value: s.id, label: s.name })) ?? [],
      contacts: c?.contacts.map((k): Option => ({ value: k.id, label: k.name })) ?? [],
    })),
  );

  ngOnInit(): void {
    const a = this.asset();
    this.state = new FormState(
      assetFormSchema,
      a
        ? { number: a.number, name: a.name, make: a.make, clientId: a.clientId, siteId: a.siteId, contactId: a.contactId }
        : { make: null, siteId: null, contactId: null },
      a ? `asset.${a.id}` : 'new-asset',
    );
    this.client.next(String(this.state.values['clientId'] ?? ''));
  }

  protected choose(value: unknown): void {
    for (const name of ['siteId', 'contactId']) this.state!.set(name, null);
    this.state!.set('clientId', value);
    this.client.next(String(value ?? ''));
  }

  protected save(event: Event): void {
    event.preventDefault();
    const body = this.state!.check();
    if (!body) return;
    this.state!.busy(true);
    const asset = this.asset();
    (asset
      ? this.api.call(assetRoutes.editAsset, { params: { assetId: asset.id }, version: asset.version, body })
      : this.api.call(assetRoutes.createAsset, { body })
    ).subscribe({
      next: (done) => (this.state!.saved(), this.toasts.done('Saved'), this.saved.emit(done.id)),
      error: (fault: unknown) => (this.state!.refused(fault), this.toasts.trouble(fault)),
    });
  }
}
