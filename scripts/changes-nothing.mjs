/** Changes of core that no test can notice, as what comes out is the same; each as `npm run mutate` names it, with why. */
export const CHANGES_NOTHING = [
  // Nothing below zero is nothing: zero has no sign of its own there.
  'ground/money/round-to-minor.ts:20 < → <=',
  'ground/money/round-to-minor.ts:22 < → <=',
];
