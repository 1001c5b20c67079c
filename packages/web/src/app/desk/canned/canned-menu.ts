import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import {
  cannedFormSchema,
  cannedRoutes,
  type CannedWire,
  fillPlaceholders,
  type Placeholder,
  PLACEHOLDER_NAMES,
  type TicketWire,
} from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { nearTime } from '../../ui/time-format';

const LINES: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'shared', label: 'For everybody', kind: 'yes' },
  { name: 'text', label: `Text; {${PLACEHOLDER_NAMES.join('}, {')}} are filled in`, kind: 'lines', wide: true },
];

/** Canned replies: put one into the reply, filled for the ticket; what is empty is named before it is sent. */
@Component({
  selector: 'dl-canned-menu',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="line">
      <select #selectBox class="in" aria-label="Put in a canned reply" (focus)="load()" (change)="put(selectBox)">
        <option value="">canned reply …</option>
        @for (reply of replies(); track reply.id) {
          <option [value]="reply.id">{{ reply.name }}{{ reply.shared ? '' : ' (mine)' }}</option>
        }
      </select>
      <button type="button" class="btn-link small" (click)="keep()">keep this text</button>
      @if (last(); as reply) {
        @if (reply.mine) {
          <button type="button" class="btn-link small" (click)="change(reply)">change "{{ reply.name }}"</button>
          <button type="button" class="btn-link small" (click)="remove(reply)">remove it</button>
        }
      }
    </span>
    @if (empty().length) {
      <p class="late small" role="alert">There is nothing to put in for {{ braces() }}. Fill it in before you send.</p>
    }
    @if (form(); as f) {
      @for (one of [f]; track one.draft) {
        <dl-record-form [form]="one" [lines]="lines" (saved)="saved()" (closed)="form.set(undefined)" />
      }
    }
  `,
  styles: `
    .line {
      display: flex;
      gap: 12px;
      align-items: center;
    }
    select {
      width: auto;
      max-width: 200px;
    }
  `,
})
export class CannedMenu {
  readonly ticket = input.required<TicketWire>();
  /** What stands in the reply now, to be kept. */
  readonly text = input.required<string>();
  readonly chosen = output<string>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  protected readonly lines = LINES;
  protected readonly replies = signal<readonly CannedWire[]>([]);
  protected readonly last = signal<CannedWire | undefined>(undefined);
  protected readonly empty = signal<readonly string[]>([]);
  protected readonly form = signal<RecordForm<typeof cannedFormSchema> | undefined>(undefined);
  private loaded = false;

  protected load(): void {
    if (this.loaded) return;
    this.loaded = true;
    this.api.call(cannedRoutes.listCanned, {}).subscribe({
      next: ({ replies }) => this.replies.set(replies),
      error: (fault: unknown) => {
        this.loaded = false;
        this.toasts.trouble(fault);
      },
    });
  }

  protected braces(): string {
    return this.empty()
      .map((name) => (name.startsWith('{') ? name : `{${name}}`))
      .join(', ');
  }

  protected put(select: HTMLSelectElement): void {
    const reply = this.replies().find((r) => r.id === select.value);
    select.selectedIndex = 0;
    if (!reply) return;
    const filled = fillPlaceholders(reply.text, this.values());
    this.last.set(reply);
    this.empty.set([...filled.empty, ...filled.unknown]);
    this.chosen.emit(filled.text);
  }

  private values(): Partial<Record<Placeholder, string | null>> {
    const t = this.ticket();
    return {
      contact: t.contact,
      'first name': t.contact?.split(' ')[0] ?? null,
      number: String(t.number),
      subject: t.subject,
      client: t.client,
      due: t.dueAt ? nearTime(Date.parse(t.dueAt), this.session.now(), t.clientZone ?? this.session.zone) : null,
      me: this.session.current?.person?.name ?? null,
    };
  }

  protected keep(): void {
    this.form.set({
      schema: cannedFormSchema,
      initial: { name: '', text: this.text(), shared: false },
      draft: 'canned.new',
      does: 'Keep it',
      save: (body) => this.api.call(cannedRoutes.addCanned, { body }),
    });
  }

  protected change(reply: CannedWire): void {
    this.form.set({
      schema: cannedFormSchema,
      initial: { name: reply.name, text: reply.text, shared: reply.shared },
      draft: `canned.${reply.id}`,
      does: 'Save',
      version: reply.version,
      save: (body, version) => this.api.call(cannedRoutes.editCanned, { params: { replyId: reply.id }, version: version!, body }),
    });
  }

  protected remove(reply: CannedWire): void {
    const add = () =>
      this.api.call(cannedRoutes.addCanned, { body: { name: reply.name, text: reply.text, shared: reply.shared } }).subscribe({
        next: () => this.saved(),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
    this.api.call(cannedRoutes.removeCanned, { params: { replyId: reply.id } }).subscribe({
      next: () => {
        this.toasts.done(`"${reply.name}" is removed`, add);
        this.last.set(undefined);
        this.saved();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected saved(): void {
    this.form.set(undefined);
    this.loaded = false;
    this.load();
  }
}
