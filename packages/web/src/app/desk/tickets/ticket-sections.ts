import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  InjectionToken,
  input,
  inputBinding,
  output,
  outputBinding,
} from '@angular/core';
import type { InputSignal, OutputEmitterRef } from '@angular/core';
import type { TicketWire } from '@core/desk';
import { Part, type PartLoader } from '../../ui/part';

/** What another domain shows on a ticket's page. */
export interface TicketSectionPart {
  readonly ticket: InputSignal<TicketWire>;
  readonly changed: OutputEmitterRef<void>;
}
export type TicketPlace = 'its contract' | 'after the facts' | 'at the end';

/** Given by the frame, in shell/parts.ts: a ticket's page does not know who records its time and charges it. */
export const TICKET_SECTIONS = new InjectionToken<Readonly<Record<TicketPlace, PartLoader<TicketSectionPart>>>>(
  "sections of a ticket's page",
);

/** The section that stands at a place of a ticket's page. */
@Component({
  selector: 'dl-ticket-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Part],
  template: '<dl-part [load]="load()" [bindings]="bindings" />',
})
export class TicketSection {
  readonly at = input.required<TicketPlace>();
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly sections = inject(TICKET_SECTIONS);
  protected readonly load = computed(() => this.sections[this.at()]);
  protected readonly bindings = [inputBinding('ticket', this.ticket), outputBinding('changed', () => this.changed.emit())];
}
