import type { Instant, Interval } from '../../ground';

const QUARTER = 900;

/** A quarter hour of a working day. Logged wins over booked, booked over free. */
export type Beat = 'logged' | 'booked' | 'free' | 'off';

/** The ticks of [span.from, span.to), a quarter hour each; one is filled where most of it was logged. */
export function beatStrip({
  span,
  working,
  booked,
  logged,
}: {
  readonly span: Interval;
  readonly working: readonly Interval[];
  readonly booked: readonly Interval[];
  readonly logged: readonly Interval[];
}): Beat[] {
  const beats: Beat[] = [];
  for (let at: number = span.from; at < span.to; at += QUARTER) {
    const tick = { from: at as Instant, to: (at + QUARTER) as Instant };
    if (covers(logged, tick)) beats.push('logged');
    else if (covers(booked, tick)) beats.push('booked');
    else beats.push(covers(working, tick) ? 'free' : 'off');
  }
  return beats;
}

function covers(list: readonly Interval[], tick: Interval): boolean {
  const inside = list.reduce((sum, i) => sum + Math.max(0, Math.min(i.to, tick.to) - Math.max(i.from, tick.from)), 0);
  return inside * 2 >= tick.to - tick.from;
}
