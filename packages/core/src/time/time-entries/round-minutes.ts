import type { Rounding } from './rate-card';

/**
 * Billed minutes of a whole entry: the increment first, then the minimum; at nearest a tie goes up; an entry
 * of no minutes stays at none. Source: docs/calculations.md, Rounding.
 * @param minutes whole, not negative
 */
export function roundMinutes(minutes: number, { increment, mode, minimum }: Rounding): number {
  if (minutes === 0) return 0;
  const steps = minutes / increment;
  const rounded = (mode === 'up' ? Math.ceil(steps) : mode === 'down' ? Math.floor(steps) : Math.floor(steps + 0.5)) * increment;
  return Math.max(rounded, minimum);
}

/**
 * Spreads rounded minutes over the parts of a split entry: minutes added go to the larger part, the earlier
 * if equal; minutes taken away come off the larger part, then off the others, larger first.
 */
export function spreadRounding(parts: readonly number[], rounded: number): number[] {
  const out = [...parts];
  const bySize = parts.map((_, i) => i).sort((a, b) => parts[b]! - parts[a]! || a - b);
  let change = rounded - parts.reduce((a, b) => a + b, 0);
  if (change > 0) out[bySize[0]!]! += change;
  for (const i of bySize) {
    if (change >= 0) break;
    const taken = Math.min(out[i]!, -change);
    out[i]! -= taken;
    change += taken;
  }
  return out;
}
