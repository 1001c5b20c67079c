import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { map, take } from 'rxjs';
import type { HouseWire } from '@core/house';
import { type ClockWire, IMPACTS, type Kind, PAD, type PadWire, type TicketRowWire, URGENCIES } from '@core/desk';
import { formatSeconds } from '@core/ground';
import { Shortcuts } from '../../shell/shortcuts';
import { ArrowRows } from '../../ui/arrow-rows';
import { ClockStrip } from '../../ui/clock-strip';
import { EmptyNote } from '../../ui/empty-note';
import { AtPipe } from '../../ui/pipes';
import { UnderUmbrella, type Joining } from '../umbrellas/under-umbrella';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { IntakeChoices } from './intake-choices';
import { IntakeState } from './intake.state';
import { KindChoice } from '../kinds/kind-choice';
import { IntakeFields } from './intake-fields';
import { Thoughts } from './thoughts';
import { MessageBody } from '../messages/message-body';

/** One message at a time: two presses for the common case. */
@Component({
  selector: 'dl-intake-page',
  imports: [
    KindChoice,
    IntakeFields,
    AsyncPipe,
    RouterLink,
    ArrowRows,
    ClockStrip,
    EmptyNote,
    StateNote,
    Why,
    AtPipe,
    MessageBody,
    Thoughts,
    UnderUmbrella,
  ],
  providers: [IntakeState, IntakeChoices],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './intake.page.html',
  styleUrl: './intake.page.css',
})
export class IntakePage {
  protected readonly state = inject(IntakeState);
  protected readonly rows = IMPACTS;
  protected readonly columns = URGENCIES;
  private desks: HouseWire['desks'] = [];
  private kinds: readonly Exclude<Kind, 'unsorted'>[] = [];
  protected readonly joining = signal<readonly Joining[] | undefined>(undefined);
  protected readonly cause = toSignal(this.state.proposals$.pipe(map((p) => p?.sameCause ?? undefined)));

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    this.state.choices.house$
      .pipe(take(1))
      .subscribe((house) => ([this.desks, this.kinds] = [house.desks, house.kinds.filter((k) => k.offered).map((k) => k.kind)]));
    keys.register(this, [
      { keys: '1 … 9', what: 'who is hit and how badly, as on a number pad' },
      { keys: 's p y b l', what: 'route to the desk of that letter; with shift to its second line' },
      { keys: 'Enter', what: 'route to the desk of like tickets' },
      { keys: 'k', what: 'next kind' },
      { keys: 'c', what: 'take the proposed client and contact' },
      { keys: 't', what: 'take the proposed category' },
      { keys: 'j', what: 'take the clearer subject' },
      { keys: 'g', what: 'put it under an umbrella with those of the same cause' },
      { keys: 'n', what: 'not work' },
      { keys: '↑ ↓', what: 'another message' },
    ]);
    // A form for the message before is none for the next.
    this.state.selected$.pipe(takeUntilDestroyed(destroyed)).subscribe(() => this.joining.set(undefined));
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => this.key(event));
  }

  /** Digits go by their place on the keyboard, so that they are digits on every layout. */
  private key(event: KeyboardEvent): void {
    const digit = /^(?:Digit|Numpad)([1-9])$/.exec(event.code)?.[1];
    const desk = this.desks.find((d) => d.letter === event.key.toLowerCase());
    const press = digit
      ? () => this.state.press(digit)
      : desk
        ? () => this.state.route(desk, event.shiftKey ? 'second' : 'first')
        : this.byKey(event);
    if (press) this.state.whenReady(press);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') this.state.step(event.key === 'ArrowDown' ? 1 : -1);
    else return;
    event.preventDefault();
  }

  private byKey(event: KeyboardEvent): (() => void) | undefined {
    if (event.key === 'Enter' && (event.target as HTMLElement).closest('button, a')) return undefined;
    const presses: Readonly<Record<string, () => void>> = {
      Enter: () => this.state.routeAsBefore(),
      n: () => this.state.notWork(),
      k: () => this.state.nextKind(this.kinds),
      c: () => this.state.takeClient(),
      t: () => this.state.takeCategory(),
      j: () => this.state.takeSubject(),
      g: () => this.gather(),
    };
    return presses[event.key];
  }

  /** One press where others of the cause are under an umbrella already; else a form for a new one. */
  protected gather(): void {
    const umbrella = this.cause()?.umbrella;
    if (umbrella) this.state.joinCause(umbrella.id);
    else this.joining.set(this.state.sameCause());
  }

  protected digit(row: number, column: number): string {
    return Object.keys(PAD).find((d) => PAD[d]!.impact === this.rows[row] && PAD[d]!.urgency === this.columns[column])!;
  }

  protected cell(pad: PadWire | null, row: number, column: number): PadWire['cells'][number] | undefined {
    return pad?.cells.find((c) => c.impact === this.rows[row] && c.urgency === this.columns[column]);
  }

  protected triage(row: { clocks: ClockWire[] }): ClockWire | undefined {
    return row.clocks.find((c) => c.clock === 'triage');
  }

  /** Working time left to sort it. */
  protected left(row: TicketRowWire): string {
    const clock = this.triage(row);
    return clock ? (clock.remaining < 0 ? `${formatSeconds(-clock.remaining)} late` : formatSeconds(clock.remaining)) : '';
  }

  protected pressing(row: TicketRowWire): boolean {
    return (this.triage(row)?.remaining ?? 1e9) < 240;
  }
}
