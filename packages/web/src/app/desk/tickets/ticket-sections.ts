import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  inject,
  InjectionToken,
  input,
  inputBinding,
  output,
  outputBinding,
  ViewContainerRef,
  type InputSignal,
  type OnInit,
  type OutputEmitterRef,
  type Type,
} from '@angular/core';
import type { TicketWire } from '@core/desk';

/** What another domain shows on a ticket's page. */
export interface TicketSectionPart {
  readonly ticket: InputSignal<TicketWire>;
  readonly changed: OutputEmitterRef<void>;
}
export type TicketPlace = 'after the facts' | 'at the end';

/** Given by the frame, in shell/parts.ts: a ticket's page does not know who records its time and charges it. */
export const TICKET_SECTIONS = new InjectionToken<Readonly<Record<TicketPlace, () => Promise<Type<TicketSectionPart>>>>>(
  "sections of a ticket's page",
);

/** The section that stands at a place of a ticket's page. */
@Component({ selector: 'dl-ticket-section', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class TicketSection implements OnInit {
  readonly at = input.required<TicketPlace>();
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly here = inject(ViewContainerRef);
  private readonly end = inject(DestroyRef);
  private readonly sections = inject(TICKET_SECTIONS);

  ngOnInit(): void {
    void this.sections[this.at()]().then((section) => {
      if (this.end.destroyed) return;
      const bindings = [inputBinding('ticket', this.ticket), outputBinding('changed', () => this.changed.emit())];
      this.here.createComponent(section, { bindings });
    });
  }
}
