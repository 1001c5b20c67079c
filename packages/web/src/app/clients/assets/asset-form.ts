import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of, switchMap } from 'rxjs';
import { assetFacts, type AssetForm, assetFormSchema, assetRoutes, type AssetWire, clientRoutes } from '@core/clients';
import { fieldChoices, fieldsOn, recordLines, withFieldValues } from '../../desk';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

/** Adds or changes an asset; the sites and people offered are those of the client chosen. */
@Component({
  selector: 'dl-asset-form',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-record-form
    [form]="form()"
    [lines]="lines()"
    (values)="typed($event)"
    (saved)="saved.emit($event)"
    (closed)="closed.emit()"
  />`,
})
export class AssetFormPanel {
  readonly asset = input<AssetWire>();
  /** The client a new asset is for, where that is known. */
  readonly of = input<string>();
  readonly saved = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly clientId = signal('');
  private readonly ownFields = fieldsOn('asset');
  private readonly choices = fieldChoices(
    this.ownFields,
    computed(() => this.clientId() || null),
  );

  protected typed({ clientId }: { readonly clientId?: unknown }): void {
    this.clientId.set(typeof clientId === 'string' ? clientId : '');
  }

  private readonly clients = toSignal(
    everyPage((page) => this.api.call(clientRoutes.listClients, { query: page })).pipe(
      map((a) => a.rows),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  private readonly client = toSignal(
    toObservable(this.clientId).pipe(
      switchMap((clientId) =>
        clientId ? this.api.call(clientRoutes.getClient, { params: { clientId } }).pipe(catchError(() => of(undefined))) : of(undefined),
      ),
    ),
  );
  protected readonly lines = computed((): readonly Line[] => [
    { name: 'number', label: 'Number' },
    { name: 'name', label: 'Name' },
    { name: 'make', label: 'Make' },
    {
      name: 'clientId',
      label: 'Client',
      kind: 'choice',
      options: this.clients().map((c) => ({ value: c.id, label: c.name })),
      write: (clientId) => ({ clientId, siteId: null, contactId: null }),
    },
    {
      name: 'siteId',
      label: 'Site',
      kind: 'choice',
      none: 'none',
      options: this.client()?.sites.map((s) => ({ value: s.id, label: s.name })) ?? [],
    },
    {
      name: 'contactId',
      label: 'Used by',
      kind: 'choice',
      none: 'nobody',
      options: this.client()?.contacts.map((k) => ({ value: k.id, label: k.name })) ?? [],
    },
    ...recordLines(this.ownFields(), {
      on: 'asset',
      factsOf: (values) => assetFacts(values as unknown as AssetForm),
      choices: this.choices(),
    }),
  ]);
  protected readonly form = computed((): RecordForm<typeof assetFormSchema> => {
    const asset = this.asset();
    if (!asset)
      return {
        schema: assetFormSchema,
        initial: { make: null, clientId: this.of() ?? '', siteId: null, contactId: null, fields: [] },
        draft: 'new-asset',
        does: 'Add the asset',
        save: (body) => this.api.call(assetRoutes.createAsset, { body }),
      };
    const params = { assetId: asset.id };
    return {
      schema: assetFormSchema,
      initial: withFieldValues(asset),
      draft: `asset.${asset.id}`,
      does: 'Save',
      version: asset.version,
      save: (body, version) => this.api.call(assetRoutes.editAsset, { params, version: version!, body }),
      stored: () => this.api.call(assetRoutes.getAsset, { params }).pipe(map(withFieldValues)),
    };
  });
}
