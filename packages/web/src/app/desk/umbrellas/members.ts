import { ChangeDetectionStrategy, Component, effect, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type MemberWire, type TicketWire, umbrellaRoutes } from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { AtPipe } from '../../ui/pipes';
import { UmbrellaState } from './umbrella.state';

/** The reports an umbrella stands for: who waits for a word, who says it is back. */
@Component({
  selector: 'dl-members',
  imports: [RouterLink, AtPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './members.html',
  styleUrl: './members.css',
})
export class Members {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly state = inject(UmbrellaState);

  constructor() {
    effect(() => this.state.load(this.ticket().id));
  }

  protected summary(): string {
    const now = this.state.now();
    const clients = new Set(now.map((m) => m.client)).size;
    const asked = now.filter((m) => m.asked);
    const back = asked.filter((m) => m.back === 'yes').length;
    const answers = asked.length ? `; back for ${back} of ${asked.length} asked` : '';
    return `${now.length} ${now.length === 1 ? 'report' : 'reports'} of ${clients} ${clients === 1 ? 'client' : 'clients'}${answers}`;
  }

  protected answer(m: MemberWire): string {
    if (m.back === 'yes') return '✓ back for them';
    if (m.back === 'no') return '✗ not back';
    return m.asked ? 'asked' : '';
  }

  protected detach(m: MemberWire): void {
    this.api.call(umbrellaRoutes.detachMember, { params: { ticketId: m.id } }).subscribe({
      next: () => {
        this.toasts.done(`#${m.number} stands by itself again`, () => this.join(m));
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private join(m: MemberWire): void {
    this.api
      .call(umbrellaRoutes.joinUmbrella, {
        params: { ticketId: this.ticket().id },
        body: { memberIds: [m.id], tell: false, moveWork: false },
      })
      .subscribe({ next: () => this.changed.emit(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }
}
