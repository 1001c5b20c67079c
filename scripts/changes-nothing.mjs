/** Changes of core that no test can notice, as what comes out is the same; each as `npm run mutate` names it, with why. */
export const CHANGES_NOTHING = [];
