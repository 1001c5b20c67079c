import ICAL from 'ical.js';
import type { Interval } from '../time';

const DAY = 86_400;
/** The days that each month has at most. */
const MONTH_DAYS = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const STEP_DAYS: Readonly<Record<string, number>> = { DAILY: 1, WEEKLY: 7 };

function rulesOf(component: ICAL.Component): ICAL.Recur[] {
  return component.getAllProperties('rrule').map((property) => property.getFirstValue() as unknown as ICAL.Recur);
}

/** Whether a rule names only days that no year has, such as 30 February; to unfold it would never end. */
export function neverFallsDue(component: ICAL.Component): boolean {
  return rulesOf(component).some((rule) => {
    const months = (rule.parts['BYMONTH'] ?? []) as number[];
    const days = (rule.parts['BYMONTHDAY'] ?? []) as number[];
    if (!days.length) return false;
    const most = Math.max(...(months.length ? months : [1]).map((month) => MONTH_DAYS[month - 1] ?? 0));
    return days.every((day) => Math.abs(day) > most || day === 0);
  });
}

/**
 * A series that began long ago, begun anew shortly before the span: by whole steps of its rule, so that it falls
 * due on the same days. One that counts its turns, or repeats by another step, stays as it is.
 */
export function broughtNear(component: ICAL.Component, span: Interval): ICAL.Component {
  const [rule, another] = rulesOf(component);
  const step = rule && !another && !rule.count && !component.getFirstProperty('rdate') ? STEP_DAYS[rule.freq] : undefined;
  const start = component.getFirstPropertyValue('dtstart') as unknown as ICAL.Time;
  if (!rule || !step) return component;
  const event = new ICAL.Event(component, { exceptions: [] });
  const days = event.duration.toSeconds() / DAY;
  const stepDays = step * rule.interval;
  // Two days for zones, one step for a start that the rule itself does not name.
  const steps = Math.floor(((span.from - start.toUnixTime()) / DAY - days - 2) / stepDays) - 1;
  if (steps < 1) return component;
  const near = new ICAL.Component(JSON.parse(JSON.stringify(component.jCal)) as unknown[], component.parent);
  for (const name of ['dtstart', 'dtend']) {
    const property = near.getFirstProperty(name);
    if (!property) continue;
    const time = (component.getFirstPropertyValue(name) as unknown as ICAL.Time).clone();
    time.adjust(steps * stepDays, 0, 0, 0);
    property.setValue(time);
  }
  return near;
}
