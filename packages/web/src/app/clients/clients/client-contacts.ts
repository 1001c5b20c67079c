import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { clientRoutes, type ClientWire, contactFormSchema, type ContactWire } from '@core/clients';
import type { Id } from '@core/ground';
import { OwnValuePipe } from '../../desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { contactForms, contactLines } from './contact-form';
import { UnitBilling } from './unit-billing';

/** A client's people: added, changed and put away in place. */
@Component({
  selector: 'dl-client-contacts',
  imports: [RecordFormPanel, UnitBilling],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = client();
    <h2>
      Contacts
      @if (session.may('tickets.work')) {
        <button type="button" class="btn-link small" (click)="person = { id: 'new', form: forms.addContact(c) }">add one</button>
      }
    </h2>
    @if (person?.id === 'new') {
      <dl-record-form [form]="person!.form" [lines]="lines()" (saved)="done()" (closed)="done()" />
    }
    <div class="people" tabindex="0" role="group" aria-label="Contacts">
      @for (k of c.contacts; track k.id) {
        <p class="line">
          <span class="clip"
            ><b>{{ k.name }}</b>
            <span class="soft small">{{ k.title }}{{ k.priority ? ' · priority contact' : '' }}{{ ownWords(k) }}</span></span
          ><span class="grow"></span><span class="soft small clip">{{ k.email }}</span>
          @if (session.may('tickets.work')) {
            <button type="button" class="btn-link small" (click)="person = { id: k.id, form: forms.changeContact(c, k) }">
              change<span class="visually-hidden"> {{ k.name }}</span>
            </button>
            <button type="button" class="btn-link small" (click)="archive(k)">
              put away<span class="visually-hidden"> {{ k.name }}</span>
            </button>
          }
        </p>
        @if (person?.id === k.id) {
          <p class="small">Billed for: <dl-unit-billing [unitId]="k.id" /></p>
          <dl-record-form [form]="person!.form" [lines]="lines()" (saved)="done()" (closed)="done()" />
        }
      }
    </div>
  `,
  styles: `
    h2 {
      margin: 18px 0 6px;
      display: flex;
      justify-content: space-between;
    }
    .line {
      display: flex;
      gap: 8px;
      align-items: baseline;
      border-bottom: 1px solid var(--rule);
      padding: 5px 0;
      min-width: 0;
    }
    .people {
      max-height: 320px;
      overflow: auto;
    }
  `,
})
export class ClientContacts {
  readonly client = input.required<ClientWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly said = new OwnValuePipe();
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly forms = contactForms(computed(() => this.client().id));
  /** Which contact is open for change; 'new' for one that is added. */
  protected person: { readonly id: Id<'contact'>; readonly form: RecordForm<typeof contactFormSchema> } | undefined;
  private readonly sites = computed(() => this.client().sites, { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) });
  protected readonly lines = computed((): readonly Line[] => [...contactLines(this.sites()), ...this.forms.ownLines()]);

  /** What own fields of a contact hold. */
  protected ownWords({ fields }: ContactWire): string {
    return fields.flatMap((f) => (f.words === null ? [] : [` · ${f.name}: ${this.said.transform(f)}`])).join('');
  }

  protected done(): void {
    this.person = undefined;
    this.changed.emit();
  }

  protected archive(contact: ContactWire): void {
    const put = (version: number, archived: boolean) =>
      this.api.call(clientRoutes.archiveContact, { params: { contactId: contact.id }, version, body: { archived } });
    put(contact.version, true).subscribe({
      next: (done) => {
        this.toasts.done(`${contact.name} is put away`, () =>
          put(done.version, false).subscribe({ next: () => this.changed.emit(), error: (fault: unknown) => this.toasts.trouble(fault) }),
        );
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
