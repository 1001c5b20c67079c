declare const instantBrand: unique symbol;

/** A point in time: whole seconds since 1970-01-01T00:00:00Z. Never milliseconds. */
export type Instant = number & { readonly [instantBrand]: true };

/** Cuts epoch milliseconds to the whole second. Source: docs/calculations.md, Conventions. */
export function instantOfMillis(millis: number): Instant {
  return Math.floor(millis / 1000) as Instant;
}

/**
 * Reads an RFC 3339 instant, such as "2026-11-24T10:40:00Z".
 * @throws RangeError where the text is none
 */
export function parseInstant(text: string): Instant {
  const millis = Date.parse(text);
  if (Number.isNaN(millis)) throw new RangeError(`not an instant: "${text}"; write it as 2026-11-24T10:40:00Z`);
  return instantOfMillis(millis);
}

/** RFC 3339 text in UTC, to the second. */
export function formatInstant(instant: Instant): string {
  return new Date(instant * 1000).toISOString().replace('.000Z', 'Z');
}

/** The instant `seconds` later (earlier where negative). */
export function plusSeconds(instant: Instant, seconds: number): Instant {
  return (instant + seconds) as Instant;
}
