import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Proposals } from '@core/desk';
import type { Id } from '@core/ground';
import { Why } from '../../ui/why';

/** What Drumline thinks of the message, each with why and one key to take it. */
@Component({
  selector: 'dl-thoughts',
  imports: [Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let p = proposals();
    @if (p.client; as client) {
      <p>
        Perhaps of <b>{{ client.label }}</b>
        @if (p.contact; as contact) {
          , from <b>{{ contact.label }}</b>
        }
        <dl-why [explanation]="client.why" of="the client" />
        @if (clientId() === client.value) {
          <span class="met">taken</span>
        } @else {
          <button type="button" class="btn-link" (click)="take.emit()">Take it <kbd>c</kbd></button>
        }
      </p>
    } @else if (p.contact; as contact) {
      <p>
        Perhaps from <b>{{ contact.label }}</b> <dl-why [explanation]="contact.why" of="the contact" />
        @if (contactId() === contact.value) {
          <span class="met">taken</span>
        } @else {
          <button type="button" class="btn-link" (click)="take.emit()">Take it <kbd>c</kbd></button>
        }
      </p>
    }
    @if (p.subject; as subject) {
      <p>
        Clearer: <b>{{ subject.value }}</b> <dl-why [explanation]="subject.why" of="the clearer subject" />
        <button type="button" class="btn-link" (click)="rename.emit()">Take it <kbd>j</kbd></button>
      </p>
    }
    @if (p.sameCause; as cause) {
      <p>
        <b>Perhaps the same cause</b> as
        @if (cause.umbrella; as umbrella) {
          umbrella <b>#{{ umbrella.number }} {{ umbrella.subject }}</b>
        } @else {
          {{ cause.reports.length }} others
        }
        <dl-why [explanation]="cause.why" of="the same cause" />
        <button type="button" class="btn-link" (click)="gather.emit()">
          {{ cause.umbrella ? 'Put it there' : 'Put all under an umbrella' }} <kbd>g</kbd>
        </button>
      </p>
    }
  `,
  styles: `
    p {
      background: var(--wash);
      border-radius: 4px;
      padding: 6px 12px;
      margin-bottom: 8px;
    }
  `,
})
export class Thoughts {
  readonly proposals = input.required<Proposals>();
  readonly clientId = input.required<Id<'client'> | null>();
  readonly contactId = input.required<Id<'contact'> | null>();
  /** Take the client and the contact. */
  readonly take = output<void>();
  readonly rename = output<void>();
  readonly gather = output<void>();
}
