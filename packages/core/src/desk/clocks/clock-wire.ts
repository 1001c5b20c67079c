import {
  type Explanation,
  formatInstant,
  type Instant,
  oneOf,
  optionalInstant,
  optionalText,
  record,
  shape,
  whole,
  why,
  type Wire,
  yes,
} from '../../ground';
import { CLOCK_NAMES, type ClockReading } from './clock';
import { drawClock, type ClockDrawing } from './draw-clock';

export const CLOCK_STATES = ['running', 'holding', 'met', 'missed and running', 'missed and ended'] as const;

/** A reading as the API gives it; seconds are working seconds. */
export const clockSchema = record({
  clock: oneOf(CLOCK_NAMES),
  state: oneOf(CLOCK_STATES),
  holding: yes(),
  holdReason: optionalText(),
  dueAt: optionalInstant(),
  missedAt: optionalInstant(),
  endedAt: optionalInstant(),
  elapsed: whole(0, 1e10),
  remaining: whole(-1e10, 1e10),
  target: whole(0, 1e10),
  percent: whole(0, 1e10),
  /** How many runs before this one were met and were missed; only the update clock has some. */
  runsMet: whole(0, 1e6),
  runsMissed: whole(0, 1e6),
  drawing: shape<ClockDrawing>(),
  why: why(),
});
export type ClockWire = Wire<typeof clockSchema>;

export function clockWire(reading: ClockReading): ClockWire {
  const { state } = reading;
  const at = (value: Instant | 'never' | undefined) => (value === undefined || value === 'never' ? null : formatInstant(value));
  return {
    clock: reading.clock,
    state: state.is,
    holding: reading.holding,
    holdReason: state.is === 'holding' ? state.reason : null,
    dueAt: at(state.is === 'running' ? state.due : undefined),
    missedAt: at('missedAt' in state ? state.missedAt : undefined),
    endedAt: at(state.is === 'met' ? state.at : state.is === 'missed and ended' ? state.endedAt : undefined),
    elapsed: reading.elapsed,
    remaining: reading.remaining,
    target: reading.target,
    percent: reading.percent,
    runsMet: reading.past.filter((r) => r.missedAt === undefined).length,
    runsMissed: reading.past.filter((r) => r.missedAt !== undefined).length,
    drawing: drawClock(reading),
    why: reading.explanation as Explanation,
  };
}
