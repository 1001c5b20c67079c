import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { map, merge, startWith, Subject } from 'rxjs';
import { openTabRoutes, tabLevelSchema, type OpenTabWire } from '@core/billing';
import { plainMoney, plural, type Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { loading } from '../../ui/loading';
import { MoneyPipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';

/** What the next invoice of each client is so far, live, with the sum from which on somebody is told. */
@Component({
  selector: 'dl-open-tabs',
  imports: [AsyncPipe, EmptyNote, MoneyPipe, RecordFormPanel, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './open-tabs.html',
  styleUrl: './open-tabs.css',
})
export class OpenTabs {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly setting = signal<Id<'client'> | undefined>(undefined);
  protected readonly lines: readonly Line[] = [
    { name: 'level', label: 'Tell me from this sum on, before tax', kind: 'money', placeholder: 'never' },
  ];
  protected readonly tabs$ = loading(merge(inject(Live).about('charge', 'invoice', 'client'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(openTabRoutes.listOpenTabs, {}),
  );
  protected readonly plural = plural;

  /** How much of the largest a part is, 0 to 1. */
  protected part(of: OpenTabWire['sum'], tabs: readonly OpenTabWire[]): number {
    return Math.max(0, of.minor) / Math.max(1, ...tabs.map((t) => Math.max(t.sum.minor, t.level?.minor ?? 0)));
  }

  protected form({ clientId, level }: OpenTabWire): RecordForm {
    const form: RecordForm<typeof tabLevelSchema> = {
      schema: tabLevelSchema,
      initial: { level: level && plainMoney(level) },
      draft: `tab-level.${clientId}`,
      does: 'Save',
      save: (body) => this.api.call(openTabRoutes.setTabLevel, { params: { clientId }, body }).pipe(map(() => ({ id: clientId }))),
    };
    return form as unknown as RecordForm;
  }

  protected done({ clientId, level }: OpenTabWire): void {
    this.setting.set(undefined);
    this.again.next();
    this.toasts.done('Saved', () => {
      const body = { level: level && plainMoney(level) };
      this.api.call(openTabRoutes.setTabLevel, { params: { clientId }, body }).subscribe({
        next: () => this.again.next(),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
    });
  }

  protected csv(tabs: readonly OpenTabWire[]): void {
    const head = ['client', 'charges', 'to review', 'to bill', 'sum', 'recurring', 'held', 'level'];
    const rows = tabs.map((t) => [
      t.client,
      String(t.charges),
      ...[t.toReview, t.cleared, t.sum, t.recurring, t.held].map(plainMoney),
      t.level ? plainMoney(t.level) : '',
    ]);
    downloadCsv('open-tabs.csv', head, rows);
  }
}
