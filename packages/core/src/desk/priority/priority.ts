import { step, type Explanation } from '../../ground';

export const PRIORITIES = ['P1', 'P2', 'P3', 'P4'] as const;
export type Priority = (typeof PRIORITIES)[number];

/** How many are hit. */
export const IMPACTS = ['everyone', 'several', 'one'] as const;
export type Impact = (typeof IMPACTS)[number];

/** How badly. */
export const URGENCIES = ['stopped', 'hampered', 'can wait'] as const;
export type Urgency = (typeof URGENCIES)[number];

export type PriorityMatrix = Readonly<Record<Impact, Readonly<Record<Urgency, Priority>>>>;

export const DEFAULT_PRIORITY_MATRIX: PriorityMatrix = {
  everyone: { stopped: 'P1', hampered: 'P2', 'can wait': 'P3' },
  several: { stopped: 'P2', hampered: 'P3', 'can wait': 'P3' },
  one: { stopped: 'P3', hampered: 'P4', 'can wait': 'P4' },
};

/** A priority contact raises the result one level, never above P1. Source: docs/calculations.md, Priority. */
export function priorityOf({
  matrix,
  impact,
  urgency,
  priorityContact,
}: {
  readonly matrix: PriorityMatrix;
  readonly impact: Impact;
  readonly urgency: Urgency;
  readonly priorityContact: boolean;
}): { priority: Priority; explanation: Explanation } {
  const base = matrix[impact][urgency];
  const explanation = [step(`${impact} × ${urgency}`, base)];
  if (!priorityContact) return { priority: base, explanation };
  const priority = PRIORITIES[Math.max(0, PRIORITIES.indexOf(base) - 1)]!;
  return { priority, explanation: [...explanation, step('a priority contact raises it one level, at most to P1', priority)] };
}

/** The pad as it lies on a number pad: digit to cell. */
export const PAD: Readonly<Record<string, { readonly impact: Impact; readonly urgency: Urgency }>> = Object.fromEntries(
  IMPACTS.flatMap((impact, row) => URGENCIES.map((urgency, column) => [String(7 - row * 3 + column), { impact, urgency }])),
);
