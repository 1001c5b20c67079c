import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { catchError, mergeWith, of, startWith, switchMap, takeUntil } from 'rxjs';
import type { Permission } from '@core/ground';
import { ticketRoutes } from '@core/desk';
import { Api } from './api';
import { Live } from './live';
import { Session } from './session';

interface Entry {
  readonly label: string;
  readonly link: string;
  readonly permission: Permission;
  readonly count?: 'unsorted' | 'openTickets' | 'unbooked' | 'charges' | 'cleared';
  /** A count that asks to be worked off. */
  readonly pressing?: boolean;
}

/** The rail, grouped as the day goes. A person sees what their role can do. */
export const RAIL: readonly { readonly group: string; readonly entries: readonly Entry[] }[] = [
  {
    group: 'Now',
    entries: [
      { label: 'Intake', link: '/intake', permission: 'tickets.triage', count: 'unsorted', pressing: true },
      { label: 'Tickets', link: '/tickets', permission: 'tickets.read', count: 'openTickets' },
      { label: 'Dispatch', link: '/dispatch', permission: 'dispatch.read', count: 'unbooked' },
      { label: 'My time', link: '/my-time', permission: 'time.own' },
    ],
  },
  {
    group: 'Clients',
    entries: [
      { label: 'Clients', link: '/clients', permission: 'clients.read' },
      { label: 'Contracts', link: '/contracts', permission: 'contracts.read' },
      { label: 'Assets', link: '/assets', permission: 'clients.read' },
    ],
  },
  { group: 'Work', entries: [{ label: 'Catalogue', link: '/catalogue', permission: 'catalogue.read' }] },
  {
    group: 'Money',
    entries: [
      { label: 'Charges', link: '/charges', permission: 'charges.read', count: 'charges' },
      { label: 'Billing', link: '/billing', permission: 'invoices.read', count: 'cleared' },
      { label: 'Reimbursements', link: '/reimbursements', permission: 'expenses.pay' },
    ],
  },
];

@Component({
  selector: 'dl-rail',
  imports: [AsyncPipe, RouterLink, RouterLinkActive],
  host: { role: 'navigation', 'aria-label': 'Main' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let counts = counts$ | async;
    <a class="name" routerLink="/"
      ><span class="mark" aria-hidden="true"><i></i><i></i><i></i><i></i></span>Drumline</a
    >

    @for (part of parts; track part.group) {
      <h2>{{ part.group }}</h2>
      @for (entry of part.entries; track entry.link) {
        <a [routerLink]="entry.link" routerLinkActive="here" ariaCurrentWhenActive="page">
          <span>{{ entry.label }}</span>
          @if (entry.count && counts && counts[entry.count]) {
            <span class="mono" [class.late]="entry.pressing">{{ counts[entry.count] }}</span>
          }
        </a>
      }
    }
    @if (session.may('tokens.own')) {
      <a class="foot" routerLink="/setup" routerLinkActive="here"
        ><span>Setup</span>
        @if (counts?.aside) {
          <span class="mono" title="mail put aside that nobody has looked at">{{ counts?.aside }}</span>
        }
      </a>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      background: var(--rail);
      border-right: 1px solid var(--rule);
      padding: 0 8px 12px;
      width: 148px;
      overflow-y: auto;
    }
    a.name {
      justify-content: flex-start;
      border: 0;
      font-size: 18px;
      font-weight: 700;
      color: var(--ink);
      text-decoration: none;
      padding: 11px 8px;
      display: flex;
      gap: 8px;
      align-items: center;
    }
    .mark {
      display: inline-flex;
      gap: 2px;
      align-items: flex-end;
      height: 16px;
    }
    .mark i {
      width: 3px;
      background: var(--brass);
      height: 100%;
    }
    .mark i:nth-child(2) {
      height: 60%;
    }
    .mark i:nth-child(4) {
      height: 35%;
    }
    h2 {
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink-soft);
      padding: 14px 8px 2px;
    }
    a,
    .foot {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      align-items: center;
      min-height: 28px;
      padding: 0 8px;
      border-radius: 4px;
      color: var(--ink);
      text-decoration: none;
      border: 1px solid transparent;
    }
    a:hover,
    .foot:hover {
      background: var(--wash);
    }
    .here {
      background: var(--panel);
      border-color: var(--rule);
      font-weight: 700;
    }
    .mono {
      font-size: 12.5px;
      font-weight: 400;
      color: var(--ink-soft);
    }
    .mono.late {
      color: var(--late);
      font-weight: 700;
    }
    .foot {
      margin-top: auto;
    }
    @media (max-width: 760px) {
      :host {
        flex-direction: row;
        width: auto;
        overflow-x: auto;
        white-space: nowrap;
        padding: 4px 8px;
        align-items: center;
        border-right: 0;
        border-bottom: 1px solid var(--rule);
      }
      h2 {
        display: none;
      }
      .foot {
        margin-top: 0;
      }
    }
  `,
})
export class Rail {
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  protected readonly parts = RAIL.map((p) => ({ ...p, entries: p.entries.filter((e) => this.session.may(e.permission)) })).filter(
    (p) => p.entries.length,
  );
  /** Read once; from then on the server sends them as they change. */
  protected readonly counts$ = this.live.again$.pipe(
    startWith(undefined),
    switchMap(() =>
      this.api.call(ticketRoutes.getCounts, {}).pipe(
        catchError(() => of(undefined)),
        // What was sent meanwhile is newer than the answer.
        takeUntil(this.live.counts$),
        mergeWith(this.live.counts$),
      ),
    ),
  );
}
