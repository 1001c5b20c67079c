import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { forkJoin, map, startWith, Subject, type Observable } from 'rxjs';
import { accessRoutes } from '@core/house';
import { escalationRoutes, escalationSettingsSchema, onCallFormSchema, thirdPartyFormSchema, type EscalationSettings } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { SetupPart } from '../../ui/setup-part';

interface Opened {
  readonly name: 'settings' | 'on call' | 'third party';
  readonly form: RecordForm;
  readonly lines: readonly Line[];
}

/** Who is rung at night, when, and whose mail owes a look and no reply. */
@Component({
  selector: 'dl-on-call-page',
  imports: [SetupPart, AsyncPipe, AtPipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './on-call.page.html',
  styles: `
    section {
      margin-bottom: 24px;
      display: grid;
      gap: 6px;
    }
  `,
})
export class OnCallPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly opened = signal<Opened | undefined>(undefined);
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    forkJoin([this.api.call(escalationRoutes.getEscalationSetup, {}), this.api.call(accessRoutes.listPeople, {})]).pipe(
      map(([setup, { people }]) => ({ ...setup, people: people.map((p) => ({ value: p.id, label: p.name })) })),
    ),
  );

  protected change(settings: EscalationSettings): void {
    this.opened.set({
      name: 'settings',
      lines: [
        { name: 'afterMessages', label: 'Ring at so many messages without an answer', kind: 'number' },
        { name: 'againMinutes', label: 'Ring the managers after so many minutes', kind: 'number' },
      ],
      form: {
        schema: escalationSettingsSchema,
        initial: { ...settings },
        draft: 'escalation',
        does: 'Save',
        save: (body) => this.api.call(escalationRoutes.setEscalation, { body }).pipe(map(() => ({ id: 'escalation' }))),
      },
    });
  }

  protected addOnCall(people: Line['options']): void {
    this.opened.set({
      name: 'on call',
      lines: [
        { name: 'personId', label: 'Who', kind: 'choice', options: people ?? [] },
        { name: 'startsAt', label: 'From', kind: 'moment' },
        { name: 'endsAt', label: 'Until', kind: 'moment' },
      ],
      form: {
        schema: onCallFormSchema,
        initial: { personId: '', startsAt: '', endsAt: '' },
        draft: 'on-call',
        does: 'Put on call',
        save: (body) => this.api.call(escalationRoutes.addOnCall, { body }),
      },
    });
  }

  protected addThirdParty(): void {
    this.opened.set({
      name: 'third party',
      lines: [
        { name: 'name', label: 'Name' },
        { name: 'address', label: 'Domain or address' },
      ],
      form: {
        schema: thirdPartyFormSchema,
        initial: { name: '', address: '' },
        draft: 'third-party',
        does: 'Mark as a third party',
        save: (body) => this.api.call(escalationRoutes.addThirdParty, { body }),
      },
    });
  }

  protected removeOnCall(onCallId: Id<'on_call'>): void {
    this.remove(this.api.call(escalationRoutes.removeOnCall, { params: { onCallId } }), 'Taken off call');
  }

  protected removeThirdParty(thirdPartyId: Id<'third_party'>): void {
    this.remove(this.api.call(escalationRoutes.removeThirdParty, { params: { thirdPartyId } }), 'Taken off the list');
  }

  private remove(command: Observable<unknown>, words: string): void {
    command.subscribe({
      next: () => {
        this.toasts.done(words);
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected done(): void {
    this.opened.set(undefined);
    this.again.next();
  }
}
