import type { Money } from '../../ground';

/** What passes when a tab changes: somebody is told once each time that its sum reaches the level, and never twice in between. */
export type TabPass = 'tell' | 'below again' | 'nothing';

export interface TabStanding {
  readonly sum: Money;
  readonly level: Money;
  readonly wasTold: boolean;
}

/** Source: docs/calculations.md, Open tab. */
export function tabPass({ sum, level, wasTold }: TabStanding): TabPass {
  const isReached = sum.minor >= level.minor;
  if (isReached === wasTold) return 'nothing';
  return isReached ? 'tell' : 'below again';
}
