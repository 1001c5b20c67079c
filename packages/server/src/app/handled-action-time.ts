import type { ActionTime, TimedAction } from '@core/desk';
import { type Id, isRefusal, type Outcome } from '@core/ground';
import { recordActionTime } from '../time/time-entries/record-action-time';
import type { Work } from './work';

/** What somebody did on work, and the time that it took them. */
export interface TimedAct {
  readonly workId: Id<'work'>;
  readonly action: TimedAction;
  readonly time: ActionTime;
  /** What it is said to have been. */
  readonly note: string;
  /** Only inside: what is said of time stands on the client's invoice. */
  readonly inside: boolean;
}
type Recorder = (work: Work, act: TimedAct) => Promise<Outcome<unknown>>;

/** Who records the time of what is done in the domains below, each in turn; a refusal of one refuses the whole command. */
const RECORDERS: readonly Recorder[] = [recordActionTime];

export async function recordTimeOf(work: Work, act: TimedAct): Promise<Outcome<unknown>> {
  for (const record of RECORDERS) {
    const recorded = await record(work, act);
    if (isRefusal(recorded)) return recorded;
  }
  return {};
}
