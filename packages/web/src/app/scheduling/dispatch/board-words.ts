import type { BookingWire, DispatchWire, LaneWire, UnbookedWire } from '@core/scheduling';
import { formatMinutes, type Zone } from '@core/ground';
import { clockTime, longDay, nearTime } from '../../ui/time-format';
import type { BoardScale } from './board-scale';
import { minutesOf } from './dispatch.state';

const noon = (day: string): string => longDay(Date.parse(`${day}T12:00:00Z`), 'UTC');

/** The days that are shown, as a heading. */
export function boardTitle(d: DispatchWire): string {
  const [first, last] = [noon(d.days[0]!.day), noon(d.days.at(-1)!.day)];
  return first === last ? first : `${first.replace(/^\w+, (\d+).*/, '$1')} to ${last.replace(/^\w+, /, '')}`;
}

/** What stands over the lanes: hours of a day, days of more. */
export function boardMarks(d: DispatchWire, scale: BoardScale, zone: Zone): { words: string; share: number; day: boolean }[] {
  if (d.days.length === 1) {
    const from = Date.parse(d.days[0]!.from);
    const hour = (n: number) => String(Number(clockTime(from + n * 3_600_000, zone).slice(0, 2)));
    return scale.hours().map((h) => ({ words: hour(h.hour), share: h.share, day: false }));
  }
  const short = (day: string) => noon(day).replace(/^(\w{3})\w*, (\d+).*/, '$1 $2');
  return d.days.map((day, i) => ({ words: short(day.day), share: (i / d.days.length) * 100, day: true }));
}

/** Of the time there is, what is booked: the corner of the lanes. */
export function boardLoad(d: DispatchWire): string {
  const all = d.lanes.flatMap((l) => l.days);
  const [there, booked] = [all.reduce((a, x) => a + x.availableMinutes, 0), all.reduce((a, x) => a + x.bookedMinutes, 0)];
  return `${formatMinutes(booked)} of ${formatMinutes(there)} · ${there ? Math.floor((booked * 100) / there) : 0} %`;
}

/** The same with who is here, for those who ask. */
export function boardTotal(d: DispatchWire): string {
  const people = d.lanes.filter((l) => l.personId);
  const here = people.filter((l: LaneWire) => l.days.some((x) => x.availableMinutes > 0)).length;
  const lost = people.reduce((a, l) => a + l.days.reduce((b, x) => b + x.lostMinutes, 0), 0);
  return `${here} of ${people.length} here; booked ${boardLoad(d)}; ${formatMinutes(lost)} passed unused`;
}

/** Whose it is and what it needs, in one line. */
export function aboutWork(work: UnbookedWire): string {
  const parts = [work.client, work.needsVisit ? 'on site' : '', work.status === 'on hold' ? 'on hold' : '', work.skill?.name];
  return parts.filter(Boolean).join(', ');
}

/** All of a booking that its block has no room for. @param now epoch milliseconds */
export function aboutBooking(b: BookingWire, now: number, zone: Zone): string {
  const time = `${clockTime(Date.parse(b.startsAt), zone)} to ${clockTime(Date.parse(b.endsAt), zone)}`;
  const planned = b.plannedStartsAt !== b.startsAt || b.plannedEndsAt !== b.endsAt;
  const parts = [
    [b.client, b.onSite ? b.site : null].filter(Boolean).join(', '),
    [b.contact, b.phone].filter(Boolean).join(' '),
    time,
    planned ? `planned ${formatMinutes(minutesOf({ startsAt: b.plannedStartsAt, endsAt: b.plannedEndsAt }))}` : '',
    b.loggedMinutes ? `${formatMinutes(b.loggedMinutes)} logged` : '',
    b.travelBefore ? `${formatMinutes(b.travelBefore)} on the way` : '',
    b.bring ? `bring ${b.bring}` : '',
    b.held ? `held for the client until ${nearTime(Date.parse(b.held.until), now, zone)}` : b.tentative ? 'tentative' : '',
    b.dueAt ? `due ${nearTime(Date.parse(b.dueAt), now, zone)}` : '',
    b.cancelReason ? `cancelled: ${b.cancelReason}` : b.state,
  ];
  return parts.filter(Boolean).join(' · ');
}
