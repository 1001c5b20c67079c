import workerpool from 'workerpool';
import { type TriedContract, type TriedMonth, type PastWork, wouldCost } from '@core/billing';
import type { LocalDate } from '@core/ground';

export interface TrialAsked {
  readonly contracts: readonly TriedContract[];
  readonly work: readonly PastWork[];
  readonly from: LocalDate;
  readonly to: LocalDate;
}

/** Works out what past work would have cost, away from the process that answers people; tells the percent that is done. */
function trial({ contracts, work, from, to }: TrialAsked): TriedMonth[][] {
  let told = 0;
  return contracts.map((contract, n) =>
    wouldCost(contract, {
      work,
      from,
      to,
      goOn: (share) => {
        const percent = Math.floor(((n + share) * 100) / contracts.length);
        if (percent > told) workerpool.workerEmit({ percent: (told = percent) });
      },
    }),
  );
}

workerpool.worker({ trial });
