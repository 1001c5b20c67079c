import { instantOfMillis, parseInstant, plusSeconds, type Instant } from '@core/ground';

/** The one clock of a process. The demo's runs with an offset; tests and screenshots freeze it. */
export interface Clock {
  now(): Instant;
}

export function makeClock(frozenAt: string | undefined, offsetSeconds: number): Clock {
  const frozen = frozenAt ? parseInstant(frozenAt) : undefined;
  return { now: () => frozen ?? plusSeconds(instantOfMillis(Date.now()), offsetSeconds) };
}
