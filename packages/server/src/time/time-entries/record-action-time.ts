import { formatInstant, isRefusal, type Outcome, parseMinutes, plusSeconds } from '@core/ground';
import type { TimedAct } from '../../app/handled-action-time';
import type { Work } from '../../app/work';
import { addEntry } from './record-time';
import { endTimer } from './timers';

const NOTE_MOST = 200;

/** Records the time of what somebody did on work, ending now; the work's timer ends with that. A refusal names its fields under `time`. */
export async function recordActionTime(work: Work, { workId, action, time, note, inside }: TimedAct): Promise<Outcome<unknown>> {
  const { duration, activityId, billable, reason, distance = null } = time;
  const said = note.replace(/\s+/g, ' ').trim().slice(0, NOTE_MOST) || action;
  const entry = await addEntry(work, work.book, {
    workId,
    startsAt: formatInstant(plusSeconds(work.now, -parseMinutes(duration)! * 60)),
    duration,
    activityId,
    note: inside ? null : said,
    insideNote: inside ? said : null,
    billable,
    reason,
    distance,
  });
  if (isRefusal(entry))
    return { ...entry, fields: Object.fromEntries(Object.entries(entry.fields ?? {}).map(([f, m]) => [`time.${f}`, m])) };
  await endTimer(work, { work_id: workId });
  return entry;
}
