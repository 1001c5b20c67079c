import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { followerRoutes, relationRoutes, ticketRoutes, type TicketWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';

const HOW: Readonly<Record<TicketWire['related'][number]['how'], string>> = { related: '', before: 'before it', after: 'after it' };

/** What a ticket has to do with, and who follows it. Lines of a list of facts. */
@Component({
  selector: 'dl-around-ticket',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let t = ticket();
    <dl class="facts">
      <dt>Related</dt>
      <dd>
        @for (r of t.related; track r.id) {
          <div class="rel">
            <a class="ink-link clip" [routerLink]="['/tickets', r.id]"
              ><span class="mono">#{{ r.number }}</span> {{ r.subject }}</a
            >
            <span class="soft small">{{ how[r.how] }} {{ r.status }}</span>
            @if (r.how === 'related' && session.may('tickets.work')) {
              <button type="button" class="btn-link small" (click)="unrelate(r.id)">
                undo<span class="visually-hidden"> the relation to #{{ r.number }}</span>
              </button>
            }
          </div>
        }
        @if (session.may('tickets.work')) {
          <form (submit)="$event.preventDefault(); relate(other.value); other.value = ''">
            <input
              #other
              class="in"
              type="text"
              inputmode="numeric"
              aria-label="Number of a related ticket"
              placeholder="a number, Enter"
            />
          </form>
        }
      </dd>
      @if (t.hasOwnPage && session.may('tickets.work')) {
        <dt>Own page</dt>
        <dd>
          <span class="soft small">the client's, at a secret address</span>
          <button type="button" class="btn-link small" (click)="revoke()">revoke it</button>
        </dd>
      }
      <dt>Follow</dt>
      <dd>
        {{ names() }}
        <button type="button" class="btn-link small" (click)="follow(!mine())">{{ mine() ? 'follow no more' : 'follow it' }}</button>
      </dd>
    </dl>
  `,
  styles: `
    .facts {
      grid-template-columns: 68px minmax(0, 1fr);
    }
    .rel {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto auto;
      gap: 6px;
      align-items: baseline;
    }
  `,
})
export class AroundTicket {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly how = HOW;
  protected readonly mine = computed(() => this.ticket().followers.some((f) => f.id === this.session.current?.person.id));
  protected readonly names = computed(() =>
    this.ticket()
      .followers.map((f) => (f.id === this.session.current?.person.id ? 'you' : f.name))
      .join(', '),
  );

  protected revoke(): void {
    this.api.call(ticketRoutes.revokeOwnPage, { params: { ticketId: this.ticket().id } }).subscribe({
      next: () => {
        this.toasts.done('The address answers no more; the next mail that carries one carries another');
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected relate(typed: string): void {
    const number = Number(typed.trim().replace(/^#/, ''));
    if (!typed.trim()) return;
    if (!Number.isSafeInteger(number)) return this.toasts.trouble(`"${typed}" is no number of a ticket, such as 4512.`);
    this.run(
      this.api.call(relationRoutes.relateTicket, { params: { ticketId: this.ticket().id }, body: { number } }),
      `Related to #${number}`,
    );
  }

  protected unrelate(relatedId: Id<'ticket'>): void {
    const { number } = this.ticket().related.find((r) => r.id === relatedId)!;
    this.run(
      this.api.call(relationRoutes.unrelateTicket, { params: { ticketId: this.ticket().id, relatedId } }),
      `No more related to #${number}`,
      () => this.relate(String(number)),
    );
  }

  protected follow(follows: boolean): void {
    this.run(
      this.api.call(followerRoutes.follow, { params: { ticketId: this.ticket().id }, body: { follows } }),
      follows ? 'You are told what the client writes and where it moves' : 'You follow it no more',
    );
  }

  private run(command: Observable<unknown>, words: string, undo?: () => void): void {
    command.subscribe({
      next: () => {
        this.toasts.done(words, undo);
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
