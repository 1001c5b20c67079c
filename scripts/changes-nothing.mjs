/** Changes of core that no test can notice, as what comes out is the same; each as `npm run mutate` names it, with why. */
export const CHANGES_NOTHING = [
  // How much above zero a comparison is says nothing to a sort.
  'ground/money/allocate.ts:20 1 → (1 + 1)',
];
