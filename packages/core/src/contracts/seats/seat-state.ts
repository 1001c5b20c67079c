export const SEAT_STATES = ['left, still billed', 'billed for nothing', 'on no line', 'billed'] as const;
/** How somebody or something of a client stands to the lines that count its kind. */
export type SeatState = (typeof SEAT_STATES)[number];

/** So many days without a sign of somebody make their seat one that is billed for nothing. */
export const SEEN_DAYS = 90;

export interface SeatFacts {
  /** On a line today, or for good from a later day. */
  readonly isOn: boolean;
  /** Put away: a person who left, an asset that is gone. */
  readonly hasLeft: boolean;
  /** They asked for something in SEEN_DAYS, or have an asset. */
  readonly wasSeen: boolean;
}

/** Undefined is of no interest: gone, and on no line. */
export function seatState({ isOn, hasLeft, wasSeen }: SeatFacts): SeatState | undefined {
  if (hasLeft) return isOn ? 'left, still billed' : undefined;
  if (!isOn) return 'on no line';
  return wasSeen ? 'billed' : 'billed for nothing';
}
