import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { take } from 'rxjs';
import type { HouseWire } from '@core/house';
import { IMPACTS, PAD, URGENCIES } from '@core/priority';
import type { ClockWire } from '@core/clocks';
import type { PadWire, TicketRowWire } from '@core/tickets';
import { formatSeconds } from '@core/time';
import { Shortcuts } from '../shell/shortcuts';
import { ArrowRows } from '../ui/arrow-rows';
import { ClockStrip } from '../ui/clock-strip';
import { EmptyNote } from '../ui/empty-note';
import { AtPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';
import { Why } from '../ui/why';
import { SORTED_KINDS } from '@core/tickets';
import { IntakeState } from './intake.state';
import { MessageBody } from './message-body';

/** One message at a time: two presses for the common case. */
@Component({
  selector: 'dl-intake-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, ClockStrip, EmptyNote, StateNote, Why, AtPipe, MessageBody],
  providers: [IntakeState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './intake.page.html',
  styleUrl: './intake.page.css',
})
export class IntakePage {
  protected readonly state = inject(IntakeState);
  protected readonly rows = IMPACTS;
  protected readonly columns = URGENCIES;
  protected readonly kinds = SORTED_KINDS;
  private desks: HouseWire['desks'] = [];

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    this.state.house$.pipe(take(1)).subscribe((house) => (this.desks = house.desks));
    keys.register(this, [
      { keys: '1 … 9', what: 'who is hit and how badly, as on a number pad' },
      { keys: 's p y b l', what: 'route to the desk of that letter' },
      { keys: 'k', what: 'next kind' },
      { keys: 'c', what: 'take the proposed client' },
      { keys: 'n', what: 'not work' },
      { keys: '↑ ↓', what: 'another message' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => this.key(event));
  }

  /** Digits go by their place on the keyboard, so that they are digits on every layout. */
  private key(event: KeyboardEvent): void {
    const digit = /^(?:Digit|Numpad)([1-9])$/.exec(event.code)?.[1];
    const desk = this.desks.find((d) => d.letter === event.key.toLowerCase());
    if (digit) this.state.press(digit);
    else if (desk) this.state.route(desk);
    else if (event.key === 'n') this.state.notWork();
    else if (event.key === 'k') this.state.nextKind();
    else if (event.key === 'c') this.state.takeProposedClient();
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') this.state.step(event.key === 'ArrowDown' ? 1 : -1);
    else return;
    event.preventDefault();
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
