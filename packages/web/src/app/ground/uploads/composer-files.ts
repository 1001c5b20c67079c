import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal, type OnDestroy } from '@angular/core';
import { type Id, MOST_UPLOAD_BYTES, uploadRoutes, type UploadWire } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { saySize } from '../../ui/say-size';

interface Held {
  readonly file: UploadWire;
  /** An address of the browser's own for a picture that was put in. */
  readonly preview: string | undefined;
}

/** Files that go with what is being written: chosen, dropped or pasted, each with a preview and a way to take it off. */
@Component({
  selector: 'dl-composer-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (h of held(); track h.file.id) {
      <span class="file">
        @if (h.preview) {
          <img [src]="h.preview" [alt]="h.file.name" />
        }
        <span class="small clip"
          >{{ h.file.name }} <span class="soft">{{ size(h.file.bytes) }}</span></span
        >
        <button type="button" class="btn-link small" (click)="remove(h)">
          take off<span class="visually-hidden"> {{ h.file.name }}</span>
        </button>
      </span>
    }
    @if (coming()) {
      <span class="small soft" role="status">{{ coming() }} on the way …</span>
    }
    <label class="btn-link small">
      attach a file
      <input type="file" multiple class="visually-hidden" aria-label="Attach a file" (change)="chosen($event)" />
    </label>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
      align-items: center;
    }
    .file {
      display: flex;
      gap: 6px;
      align-items: center;
      border: 1px solid var(--rule);
      border-radius: 4px;
      padding: 2px 6px;
      max-width: 260px;
    }
    img {
      height: 32px;
      max-width: 64px;
      object-fit: cover;
      border-radius: 2px;
    }
    label {
      cursor: pointer;
    }
    label:focus-within {
      outline: 2px solid var(--brass);
      outline-offset: 2px;
    }
  `,
})
export class ComposerFiles implements OnDestroy {
  readonly ticketId = input.required<Id<'ticket'>>();
  readonly changed = output<readonly string[]>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly held = signal<readonly Held[]>([]);
  protected readonly coming = signal(0);
  readonly waiting = computed(() => this.coming() > 0);
  protected readonly size = saySize;

  /** Takes files that were dropped or pasted; tells whether there were any. */
  take(data: DataTransfer | null): boolean {
    const files = [...(data?.files ?? [])];
    for (const file of files) this.send(file);
    return files.length > 0;
  }

  /** What was sent is no longer held here. */
  clear(): void {
    this.forget();
    this.tell([]);
  }

  ngOnDestroy(): void {
    this.forget();
  }

  protected chosen(event: Event): void {
    const input = event.target as HTMLInputElement;
    for (const file of input.files ?? []) this.send(file);
    input.value = '';
  }

  protected remove(h: Held): void {
    this.api.call(uploadRoutes.removeUpload, { params: { uploadId: h.file.id } }).subscribe({
      next: () => {
        if (h.preview) URL.revokeObjectURL(h.preview);
        this.tell(this.held().filter((one) => one !== h));
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private send(file: File): void {
    if (file.size > MOST_UPLOAD_BYTES)
      return this.toasts.trouble(`${file.name} has ${saySize(file.size)}; at most ${saySize(MOST_UPLOAD_BYTES)} can go with a message.`);
    this.coming.update((n) => n + 1);
    const query = { name: file.name || 'picture.png', mediaType: file.type || 'application/octet-stream' };
    this.api.upload(uploadRoutes.addUpload, { params: { ticketId: this.ticketId() }, query }, file).subscribe({
      next: (kept) => {
        this.coming.update((n) => n - 1);
        const preview = file.type.startsWith('image/') ? URL.createObjectURL(file) : undefined;
        this.tell([...this.held(), { file: kept, preview }]);
      },
      error: (fault: unknown) => {
        this.coming.update((n) => n - 1);
        this.toasts.trouble(fault);
      },
    });
  }

  private forget(): void {
    for (const h of this.held()) if (h.preview) URL.revokeObjectURL(h.preview);
  }

  private tell(held: readonly Held[]): void {
    this.held.set(held);
    this.changed.emit(held.map((h) => h.file.id));
  }
}
