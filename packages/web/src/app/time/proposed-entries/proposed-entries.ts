import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { catchError, combineLatest, debounceTime, map, merge, of, shareReplay, startWith, Subject, switchMap } from 'rxjs';
import { houseRoutes } from '@core/house';
import { type Effect, proposedEntryRoutes, type ProposedEntryWire, timeRoutes, sumEffects } from '@core/time';
import { formatMinutes, type Id, parseMinutes } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { clockTime } from '../../ui/time-format';
import { EffectNote } from '../../ui/effect-note';
import { Why } from '../../ui/why';

const SHOWN = 2;
const WAIT_MS = 200;
const NOT_A_TIME = 'a time such as 25, 1:30, 1.5 or 1 h 40';
type Changed = Partial<{ readonly duration: string; readonly activityId: Id<'activity'>; readonly note: string; readonly taken: boolean }>;

/** The day as Drumline would write it: every row with what shows it, changed in place, recorded in one sweep. */
@Component({
  selector: 'dl-proposed-entries',
  imports: [AsyncPipe, AtPipe, EffectNote, MinutesPipe, RouterLink, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './proposed-entries.html',
  styleUrl: './proposed-entries.css',
})
export class ProposedEntries {
  readonly day = input.required<string>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  /** What was changed, by the key of its proposal. */
  protected readonly changed = signal<Readonly<Record<string, Changed>>>({});
  protected readonly wrong = signal<Readonly<Record<string, string>>>({});
  protected readonly busy = signal(false);
  protected readonly activities$ = this.api.call(houseRoutes.getHouse, {}).pipe(
    map((h) => h.activities),
    shareReplay(1),
  );
  protected readonly proposed$ = loading(
    combineLatest([
      toObservable(this.day),
      merge(inject(Live).mine(['entry', 'booking', 'timer', 'ticket']), this.again).pipe(startWith(undefined)),
    ]).pipe(map(([day]) => day)),
    (day) => this.api.call(proposedEntryRoutes.listProposedEntries, { query: { day } }),
  );

  /** What each row that is taken would do, by its key, and what all of them would. */
  protected readonly effects$ = combineLatest([this.proposed$, toObservable(this.changed)]).pipe(
    debounceTime(WAIT_MS),
    switchMap(([now]) => {
      const taken = now.is === 'there' ? this.taken(now.value.proposed).filter((p) => parseMinutes(this.duration(p))) : [];
      if (!taken.length) return of(undefined);
      const entries = taken.map((p) => ({ ...this.entry(p), billable: true }));
      return this.api.call(timeRoutes.previewEntries, { body: { entries } }).pipe(
        map(({ effects }) => ({
          rows: new Map<string, Effect>(taken.map((p, n) => [p.key, effects[n]!])),
          all: sumEffects(
            taken.map((p, n) => ({ name: p.number ? `#${p.number}` : 'on no ticket', effect: effects[n]! })),
            'clients',
          ),
        })),
        catchError(() => of(undefined)),
      );
    }),
  );

  protected change(key: string, part: Changed): void {
    this.changed.set({ ...this.changed(), [key]: { ...this.changed()[key], ...part } });
    const { [key]: _, ...wrong } = this.wrong();
    this.wrong.set(wrong);
  }

  protected isTaken(p: ProposedEntryWire): boolean {
    return this.changed()[p.key]?.taken ?? p.sure;
  }

  protected duration(p: ProposedEntryWire): string {
    return this.changed()[p.key]?.duration ?? formatMinutes(p.minutes);
  }

  protected activity(p: ProposedEntryWire): string {
    return this.changed()[p.key]?.activityId ?? p.activityId;
  }

  protected note(p: ProposedEntryWire): string {
    return this.changed()[p.key]?.note ?? p.note;
  }

  /** Whose it is and what shows it: "Saltmarsh Ceramics · message 12:22, call 12:30, 2 more". */
  protected shows(p: ProposedEntryWire): string {
    const said = p.evidence.slice(0, SHOWN).map((e) => `${e.is} ${clockTime(Date.parse(e.at), this.session.zone)}`);
    const more = p.evidence.length > SHOWN ? [`${p.evidence.length - SHOWN} more`] : [];
    return [p.client, [...said, ...more].join(', ')].filter(Boolean).join(' · ');
  }

  protected taken(all: readonly ProposedEntryWire[]): ProposedEntryWire[] {
    return all.filter((p) => this.isTaken(p));
  }

  protected minutes(all: readonly ProposedEntryWire[]): number {
    return this.taken(all).reduce((sum, p) => sum + (parseMinutes(this.duration(p)) ?? 0), 0);
  }

  private entry(p: ProposedEntryWire) {
    return { workId: p.workId, startsAt: p.startsAt, duration: this.duration(p), activityId: this.activity(p) };
  }

  protected accept(all: readonly ProposedEntryWire[]): void {
    const taken = this.taken(all);
    const wrong = taken.filter((p) => !parseMinutes(this.duration(p)));
    if (wrong.length) {
      this.wrong.set(Object.fromEntries(wrong.map((p) => [p.key, NOT_A_TIME])));
      return;
    }
    const entries = taken.map((p) => ({ key: p.key, ...this.entry(p), note: this.note(p).trim() || null }));
    this.busy.set(true);
    this.api.call(proposedEntryRoutes.acceptProposedEntries, { body: { entries } }).subscribe({
      next: ({ recorded }) => {
        this.busy.set(false);
        this.changed.set({});
        this.toasts.done(`${recorded} ${recorded === 1 ? 'entry' : 'entries'} recorded`);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.wrong.set(wrongOf(taken, problemOf(fault).fields));
        this.toasts.trouble(fault);
      },
    });
  }

  protected dismiss(p: ProposedEntryWire): void {
    this.api.call(proposedEntryRoutes.dismissProposedEntry, { body: { key: p.key } }).subscribe({
      next: () => this.again.next(),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}

/** What the server says of single rows, by the key of each. */
function wrongOf(taken: readonly ProposedEntryWire[], fields: Readonly<Record<string, string>> | undefined): Record<string, string> {
  return Object.fromEntries(
    taken.flatMap((p, n) => {
      const said = Object.entries(fields ?? {}).find(([path]) => path.startsWith(`entries[${n}].`));
      return said ? [[p.key, said[1]]] : [];
    }),
  );
}
