import type { ClockReading } from './clock';

/** What a clock strip shows, in percent of its width (0 to 100). */
export interface ClockDrawing {
  /** The parts in time order; their widths are of working time, holds of a fixed small share. */
  readonly parts: readonly { readonly did: 'ran' | 'held' | 'late'; readonly width: number }[];
  /** Where the target's notch stands. */
  readonly notch: number;
}

/** The notch stands here until the clock is late; then the tail needs the room. */
const NOTCH_AT = 72;
const HOLD_WIDTH = 6;

/**
 * Lays a reading out as a strip: filled where it ran, hatched where it held, a notch at the target and a
 * tail where it is late.
 */
export function drawClock(reading: ClockReading): ClockDrawing {
  const late = Math.max(0, -reading.remaining);
  const holds = reading.segments.filter((s) => s.did === 'held').length;
  const room = 100 - Math.min(holds, 4) * HOLD_WIDTH;
  const scale = late > 0 ? room / reading.elapsed : (room * NOTCH_AT) / 100 / Math.max(1, reading.target);
  let left = reading.target;
  const parts: { did: 'ran' | 'held' | 'late'; width: number }[] = [];
  for (const segment of reading.segments) {
    if (segment.did === 'held') parts.push({ did: 'held', width: HOLD_WIDTH * Math.min(1, 4 / holds) });
    if (segment.did !== 'ran') continue;
    const inTime = Math.min(left, segment.seconds);
    left -= inTime;
    if (inTime > 0) parts.push({ did: 'ran', width: inTime * scale });
    if (segment.seconds > inTime) parts.push({ did: 'late', width: (segment.seconds - inTime) * scale });
  }
  const filledHolds = parts.filter((p) => p.did === 'held').reduce((a, p) => a + p.width, 0);
  return { parts, notch: Math.min(99, reading.target * scale + filledHolds) };
}
