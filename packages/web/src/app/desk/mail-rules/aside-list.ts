import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { merge, startWith, Subject } from 'rxjs';
import { mailRuleRoutes, type AsideWire } from '@core/desk';
import { Api, urlOf } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';

const PAGE = 50;

/** Mail that opened no ticket, each with its reason; a person looks, and makes a ticket of it or not. */
@Component({
  selector: 'dl-aside-list',
  imports: [AsyncPipe, AtPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="Mail put aside">
      <header>
        <h2>Mail put aside</h2>
        <button type="button" class="btn-link" [attr.aria-pressed]="all()" (click)="show(!all())">
          {{ all() ? 'only what nobody has looked at' : 'show what was looked at too' }}
        </button>
      </header>
      <p class="soft small">Mail that opened no ticket and joined none. Make a ticket of what a person must answer.</p>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @for (mail of now.value.rows; track mail.id) {
          <article class="line">
            <span>
              <b>{{ mail.subject ?? '(no subject)' }}</b> <span class="soft small">{{ mail.sender }}, {{ mail.at | at }}</span>
              <br />
              <span class="small">{{ mail.rule ? mail.rule + ': ' : '' }}{{ mail.reason }}</span>
              @if (mail.ticket; as ticket) {
                <span class="small"
                  >· <a [routerLink]="['/tickets', ticket.id]">ticket #{{ ticket.number }}</a></span
                >
              } @else if (mail.endedBy) {
                <span class="small soft">· looked at by {{ mail.endedBy }}</span>
              }
            </span>
            <span class="acts">
              <a class="small" [href]="source(mail)" download>raw text</a>
              @if (session.may('setup.edit')) {
                @if (!mail.endedAt) {
                  <button type="button" class="btn-link" (click)="end(mail)">needs nothing</button>
                }
                @if (!mail.ticket) {
                  <button type="button" class="btn-plain" (click)="open(mail)">Make a ticket</button>
                }
              }
            </span>
          </article>
        } @empty {
          <p class="soft">{{ all() ? 'No mail was ever put aside.' : 'Nothing waits: every mail put aside was looked at.' }}</p>
        }
        @if (now.value.next) {
          <button type="button" class="btn-plain" (click)="more()">Show more</button>
        }
      }
    </section>
  `,
  styles: `
    header {
      display: flex;
      gap: 16px;
      align-items: baseline;
    }
    .line {
      display: flex;
      gap: 16px;
      justify-content: space-between;
      align-items: center;
      padding: 8px 0;
      border-top: 1px solid var(--rule);
      overflow-wrap: anywhere;
    }
    .acts {
      display: flex;
      gap: 12px;
      align-items: center;
      flex: none;
    }
  `,
})
export class AsideList {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly all = signal(false);
  private most = PAGE;
  protected readonly now$ = loading(merge(this.again, inject(Live).about('mail-aside')).pipe(startWith(undefined)), () =>
    this.api.call(mailRuleRoutes.listAside, { query: { state: this.all() ? 'all' : 'waiting', most: this.most } }),
  );

  protected show(all: boolean): void {
    this.all.set(all);
    this.most = PAGE;
    this.again.next();
  }

  protected more(): void {
    this.most += PAGE;
    this.again.next();
  }

  protected source(mail: AsideWire): string {
    return urlOf(mailRuleRoutes.getAsideSource, { asideId: mail.id });
  }

  protected open(mail: AsideWire): void {
    this.api.call(mailRuleRoutes.openAside, { params: { asideId: mail.id } }).subscribe({
      next: ({ number }) => this.done(`Ticket #${number} is in intake`),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected end(mail: AsideWire): void {
    this.api.call(mailRuleRoutes.endAside, { params: { asideId: mail.id } }).subscribe({
      next: () => this.done('It needs nothing'),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private done(words: string): void {
    this.toasts.done(words);
    this.again.next();
  }
}
