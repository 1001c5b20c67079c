import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, type OnInit } from '@angular/core';
import { clientFormSchema, clientRoutes, type ClientForm, type ClientWire } from '@core/clients';
import { Api } from '../shell/api';
import { problemOf } from '../shell/problem';
import { Toasts } from '../shell/toasts';
import { Field } from '../ui/field';
import { FormState } from '../ui/form-state';

interface Line {
  readonly name: keyof ClientForm;
  readonly label: string;
  readonly kind?: 'number' | 'yes';
}

const LINES: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'domains', label: 'Mail domains' },
  { name: 'zone', label: 'Time zone' },
  { name: 'street', label: 'Street' },
  { name: 'city', label: 'City' },
  { name: 'postcode', label: 'Postcode' },
  { name: 'country', label: 'Country' },
  { name: 'invoiceEmail', label: 'Invoices go to' },
  { name: 'paymentDays', label: 'Days to pay', kind: 'number' },
  { name: 'taxNumber', label: 'Tax number' },
  { name: 'taxExempt', label: 'Exempt from tax', kind: 'yes' },
];
const EMPTY = { zone: 'Europe/Dublin', country: 'IE', paymentDays: 30, taxExempt: false, taxNumber: null };

/** Adds or changes a client. Where somebody else changed it meanwhile, both are shown and a person chooses. */
@Component({
  selector: 'dl-client-form',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state?.view$ | async;
    <form class="panel" (submit)="save($event)" novalidate>
      @if (theirs) {
        <div class="clash" role="alert">
          <p><b>Somebody changed this client meanwhile.</b> Where you differ, yours is below and theirs beside it.</p>
          <p>
            <button type="button" class="btn-plain" (click)="keepMine()">Save mine over theirs</button>
            <button type="button" class="btn-plain" (click)="takeTheirs()">Take theirs</button>
          </p>
        </div>
      }
      <div class="form">
        @for (line of lines; track line.name) {
          <div>
            <dl-field
              [label]="line.label"
              [kind]="line.kind ?? 'text'"
              [value]="form?.values?.[line.name]"
              [error]="form?.errors?.[line.name]"
              (changed)="state!.set(line.name, $event === '' && line.name === 'taxNumber' ? null : $event)"
            />
            @if (theirs && text(theirs[line.name]) !== text(form?.values?.[line.name])) {
              <p class="small late">theirs: {{ text(theirs[line.name]) || 'empty' }}</p>
            }
          </div>
        }
      </div>
      <p class="buttons">
        <button class="btn-main" [disabled]="form?.busy">{{ client() ? 'Save' : 'Add the client' }}</button><button
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
    .clash {
      background: var(--late-wash);
      padding: 10px 12px;
      border-radius: 4px;
      margin-bottom: 12px;
      display: grid;
      gap: 8px;
    }
  `,
})
export class ClientFormPanel implements OnInit {
  readonly client = input<ClientWire>();
  readonly saved = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly lines = LINES;
  protected state: FormState<typeof clientFormSchema> | undefined;
  protected theirs: ClientWire | undefined;
  private version = 0;

  ngOnInit(): void {
    const client = this.client();
    this.version = client?.version ?? 0;
    this.state = new FormState(clientFormSchema, client ? pick(client) : EMPTY, client ? `client.${client.id}` : 'new-client');
  }

  protected text(value: unknown): string {
    return value === null || value === undefined ? '' : String(value);
  }

  protected save(event: Event): void {
    event.preventDefault();
    const body = this.state!.check();
    if (!body) return;
    this.state!.busy(true);
    const client = this.client();
    const command = client
      ? this.api.call(clientRoutes.editClient, { params: { clientId: client.id }, version: this.version, body })
      : this.api.call(clientRoutes.createClient, { body });
    command.subscribe({
      next: (done) => {
        this.state!.saved();
        this.toasts.done('Saved');
        this.saved.emit(done.id);
      },
      error: (fault: unknown) => {
        this.state!.refused(fault);
        if (problemOf(fault).status === 412 && client) this.showTheirs(client.id);
        else this.toasts.trouble(fault);
      },
    });
  }

  private showTheirs(clientId: string): void {
    this.api.call(clientRoutes.getClient, { params: { clientId } }).subscribe({
      next: (theirs) => ((this.theirs = theirs), this.state!.busy(false)),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected keepMine(): void {
    this.version = this.theirs!.version;
    this.theirs = undefined;
    this.save(new Event('submit', { cancelable: true }));
  }

  protected takeTheirs(): void {
    const theirs = this.theirs!;
    for (const [name, value] of Object.entries(pick(theirs))) this.state!.set(name, value);
    this.version = theirs.version;
    this.theirs = undefined;
    this.state!.busy(false);
  }
}

function pick(client: ClientWire): Record<string, unknown> {
  return Object.fromEntries(LINES.map(({ name }) => [name, client[name]]));
}
