import { plusSeconds, type Interval } from '../../ground';

/**
 * A gap and its later parts, each beginning a step after the one before: where somebody is free all day, morning and
 * afternoon are two openings and not one.
 * @param stepSeconds whole seconds, above zero
 */
export function startsIn(gap: Interval, stepSeconds: number): Interval[] {
  const count = Math.max(1, Math.ceil((gap.to - gap.from) / stepSeconds));
  return Array.from({ length: count }, (_, n) => ({ from: plusSeconds(gap.from, n * stepSeconds), to: gap.to }));
}
