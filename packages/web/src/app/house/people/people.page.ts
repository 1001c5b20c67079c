import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { startWith, Subject, type Observable } from 'rxjs';
import { peopleRoutes, SKILL_LEVELS, type PersonTimeWire } from '@core/house';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';
import { loading, type Loading } from '../../ui/loading';
import { sayAway } from '../../ui/time-format';
import { RecordFormPanel } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { longDay } from '../../ui/time-format';
import { placeForm, shiftForm, type PersonForm } from './people-forms';
import { SetupPart } from '../../ui/setup-part';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

interface Away {
  readonly startsAt: string | null;
  readonly endsAt: string | null;
  readonly reason: string;
}

/** When each technician works, what they know, and when they are away. */
@Component({
  selector: 'dl-people-page',
  imports: [SetupPart, AsyncPipe, Field, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './people.page.html',
  styleUrl: './people.page.css',
})
export class PeoplePage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly awayWhen = ({ startsAt, endsAt }: { readonly startsAt: string; readonly endsAt: string }) =>
    sayAway(Date.parse(startsAt), Date.parse(endsAt), this.session.zone);
  protected readonly again = new Subject<void>();
  protected readonly days = DAYS;
  protected readonly levels = SKILL_LEVELS;
  /** The person whose hours, skills and days away are open for change. */
  protected readonly open = signal<string | undefined>(undefined);
  protected readonly week = signal<readonly string[]>([]);
  protected readonly away = signal<Away>({ startsAt: null, endsAt: null, reason: '' });
  protected readonly wrong = signal<Readonly<Record<string, string>>>({});
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () => this.api.call(peopleRoutes.listPeopleTime, {}));

  /** The form that is open: shifts, or where the day begins. */
  protected readonly asking = signal<PersonForm | undefined>(undefined);

  protected shiftsOf(p: PersonTimeWire): PersonForm {
    return shiftForm(this.api, p);
  }

  protected placeOf(p: PersonTimeWire, houseRegion: string | null): PersonForm {
    return placeForm(this.api, p, houseRegion);
  }

  protected settled(): void {
    this.asking.set(undefined);
    this.again.next();
  }

  protected houseRegion(now: Loading<{ region: string | null }> | null): string {
    return now?.is === 'there' ? (now.value.region ?? '') : '';
  }

  protected setRegion(typed: string): void {
    const region = typed.trim().toUpperCase() || null;
    this.run(this.api.call(peopleRoutes.setHolidayRegion, { body: { region } }), 'Saved; lanes show these holidays now');
  }

  protected edit(p: PersonTimeWire): void {
    this.asking.set(undefined);
    this.open.set(this.open() === p.id ? undefined : p.id);
    this.week.set([...p.week]);
    this.away.set({ startsAt: null, endsAt: null, reason: '' });
    this.wrong.set({});
  }

  protected says(p: PersonTimeWire, skills: readonly { id: Id<'skill'>; name: string }[]): string {
    const known = p.skills.map((s) => `${skills.find((k) => k.id === s.skillId)?.name} ${s.level}`);
    return [p.team, known.join(', ') || 'no skill noted'].filter(Boolean).join('; ');
  }

  protected day(date: string): string {
    return longDay(Date.parse(`${date}T12:00:00Z`), 'UTC');
  }

  protected removeShift(p: PersonTimeWire, day: string): void {
    this.run(this.api.call(peopleRoutes.removeShift, { params: { personId: p.id, day } }), 'The hours of the week hold again');
  }

  protected setDay(day: number, hours: unknown): void {
    this.week.update((w) => w.map((h, i) => (i === day ? String(hours ?? '') : h)));
  }

  protected saveWeek(personId: Id<'person'>): void {
    this.run(this.api.call(peopleRoutes.setWeek, { params: { personId }, body: { week: [...this.week()] } }), 'Saved; lanes show it now');
  }

  protected level(p: PersonTimeWire, skillId: Id<'skill'>): number {
    return p.skills.find((s) => s.skillId === skillId)?.level ?? 0;
  }

  protected setLevel(p: PersonTimeWire, skillId: Id<'skill'>, level: number): void {
    this.run(this.api.call(peopleRoutes.setSkill, { params: { personId: p.id, skillId }, body: { level } }), 'Saved; routing knows it now');
  }

  protected addSkill(name: string): void {
    if (name.trim()) this.run(this.api.call(peopleRoutes.addSkill, { body: { name } }), `${name} is a skill now`);
  }

  protected addAway(p: PersonTimeWire): void {
    const { startsAt, endsAt, reason } = this.away();
    const body = { startsAt: startsAt ?? '', endsAt: endsAt ?? '', reason };
    this.api.call(peopleRoutes.addTimeOff, { params: { personId: p.id }, body }).subscribe({
      next: ({ id, bookings }) => {
        const left = bookings ? `; ${bookings} bookings lie in it` : '';
        this.toasts.done(`${p.name} is away${left}`, () => this.removeAway(id));
        this.away.set({ startsAt: null, endsAt: null, reason: '' });
        this.wrong.set({});
        this.again.next();
      },
      error: (fault: unknown) => this.refused(fault),
    });
  }

  protected removeAway(timeOffId: Id<'time_off'>): void {
    this.run(this.api.call(peopleRoutes.removeTimeOff, { params: { timeOffId } }), 'Taken away again');
  }

  private run(command: Observable<unknown>, words: string): void {
    command.subscribe({
      next: () => {
        this.toasts.done(words);
        this.wrong.set({});
        this.again.next();
      },
      error: (fault: unknown) => this.refused(fault),
    });
  }

  private refused(fault: unknown): void {
    this.wrong.set(problemOf(fault).fields ?? {});
    this.toasts.trouble(fault);
  }
}
