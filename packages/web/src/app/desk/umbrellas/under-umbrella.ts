import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal, type OnInit } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { houseRoutes } from '@core/house';
import { type Impact, IMPACTS, type Kind, SORTED_KINDS, umbrellaRoutes, URGENCIES, type Urgency } from '@core/desk';
import { type Id, oneOf, optionalId, optionalText, record, type Wire, yes } from '@core/ground';
import { Api } from '../../shell/api';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

/** What is put under an umbrella, as far as a new one takes after it. */
export interface Joining {
  readonly id: Id<'ticket'>;
  readonly number: number;
  readonly subject: string;
  readonly kind: Kind;
  readonly impact?: Impact | null;
  readonly urgency?: Urgency | null;
  readonly deskId?: Id<'desk'> | null;
}

/** Only a new umbrella needs it; one there is has its own. */
function needsNew(this: { parent: { umbrellaId?: Id<'ticket'> | null } }, value: string | null | undefined): boolean {
  return Boolean(this.parent.umbrellaId) || Boolean(value?.trim());
}

const schema = record({
  umbrellaId: optionalId(),
  subject: optionalText().test('cause', 'say what the cause is', needsNew),
  kind: oneOf(SORTED_KINDS),
  impact: oneOf(IMPACTS),
  urgency: oneOf(URGENCIES),
  deskId: optionalId().test('desk', 'choose one', needsNew),
  tell: yes(),
  moveWork: yes(),
});

/** Puts tickets that have one cause under an umbrella: one there is, or a new one. */
@Component({
  selector: 'dl-under-umbrella',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form(); as f) {
      <dl-record-form [form]="f" [lines]="lines()" (values)="typed($event)" (saved)="joined.emit($event)" (closed)="closed.emit()">
        <p class="small soft">{{ words() }} Their clocks hold, and their contacts keep their own thread. Nobody reads of another client.</p>
      </dl-record-form>
    }
  `,
})
export class UnderUmbrella implements OnInit {
  readonly tickets = input.required<readonly Joining[]>();
  readonly joined = output<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  protected readonly into = signal<string | null>(null);

  protected typed({ umbrellaId }: { readonly umbrellaId?: unknown }): void {
    this.into.set(typeof umbrellaId === 'string' ? umbrellaId : null);
  }
  protected readonly form = signal<RecordForm<typeof schema> | undefined>(undefined);
  private readonly umbrellas = toSignal(
    this.api.call(umbrellaRoutes.listUmbrellas, {}).pipe(
      map((a) => a.umbrellas),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  private readonly desks = toSignal(
    this.api.call(houseRoutes.getHouse, {}).pipe(
      map((h) => h.desks),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  protected readonly words = computed(() => {
    const numbers = this.tickets().map((t) => `#${t.number}`);
    return numbers.length > 4
      ? `${numbers.slice(0, 4).join(', ')} and ${numbers.length - 4} more join.`
      : `${numbers.join(', ')} ${numbers.length === 1 ? 'joins' : 'join'}.`;
  });
  protected readonly lines = computed((): readonly Line[] => {
    const choice = (name: string, label: string, values: readonly string[]): Line => ({
      name,
      label,
      kind: 'choice',
      options: values.map((v) => ({ value: v, label: v })),
    });
    const fresh: Line[] = [
      { name: 'subject', label: 'What the cause is', wide: true },
      choice('impact', 'Who is hit', IMPACTS),
      choice('urgency', 'How badly', URGENCIES),
      { name: 'deskId', label: 'Desk', kind: 'choice', options: this.desks().map((d) => ({ value: d.id, label: d.name })) },
    ];
    return [
      {
        name: 'umbrellaId',
        label: 'Umbrella',
        kind: 'choice',
        none: 'a new one',
        wide: true,
        options: this.umbrellas().map((u) => ({ value: u.id, label: `#${u.number} ${u.subject}, ${u.members} members` })),
      },
      ...(this.into() ? [] : fresh),
      { name: 'tell', label: 'Tell the contacts that their report was joined, with a page to follow it', kind: 'yes', wide: true },
      { name: 'moveWork', label: 'Bookings and who has it move to the umbrella', kind: 'yes', wide: true },
    ];
  });

  ngOnInit(): void {
    const [first] = this.tickets();
    this.form.set({
      schema,
      initial: {
        umbrellaId: null,
        subject: first?.subject ?? '',
        kind: first && first.kind !== 'unsorted' ? first.kind : 'incident',
        impact: first?.impact ?? 'several',
        urgency: first?.urgency ?? 'stopped',
        deskId: first?.deskId ?? null,
        tell: true,
        moveWork: true,
      },
      draft: `umbrella.${first?.id}`,
      does: 'Put under the umbrella',
      save: (body) => this.save(body),
    });
  }

  private save({ umbrellaId, subject, ...form }: Wire<typeof schema>) {
    const joining = { memberIds: this.tickets().map((t) => t.id), tell: form.tell, moveWork: form.moveWork };
    return umbrellaId
      ? this.api.call(umbrellaRoutes.joinUmbrella, { params: { ticketId: umbrellaId }, body: joining })
      : this.api.call(umbrellaRoutes.openUmbrella, {
          body: { ...joining, subject: subject!, kind: form.kind, impact: form.impact, urgency: form.urgency, deskId: form.deskId! },
        });
  }
}
