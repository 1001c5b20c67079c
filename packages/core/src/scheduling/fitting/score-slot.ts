import { type Explanation, formatMinutes, type Instant, type Interval } from '../../ground';
import type { Priority } from '../../desk';

/** What speaks for work in a slot of a technician, as far as ranking needs to know. */
export interface SlotFacts {
  readonly priority: Priority;
  readonly dueAt: Instant | null;
  readonly slot: Interval;
  readonly now: Instant;
  /** The level that the technician has in the skill that the work asks for; undefined where it asks for none. */
  readonly skill: { readonly name: string; readonly level: number } | undefined;
  /** Minutes on the way to it and from it; undefined where it is done from anywhere. */
  readonly travelMinutes: number | undefined;
  /** Whether the ticket is the technician's already, and how many tickets of the client were theirs lately. */
  readonly assigned: boolean;
  readonly ticketsOfClient: number;
  /** Booked share of the technician's day in percent. */
  readonly load: number;
}

/** How well work and slot go together: more points are better, each explained. */
export interface Fit {
  readonly points: number;
  /** The few words that say most. */
  readonly says: string;
  readonly why: Explanation;
}

interface Part {
  readonly points: number;
  readonly rule: string;
  /** Short words for the list, where this part is worth a word there. */
  readonly word?: string | undefined;
}

const HOUR = 3600;
/** Points by how soon the work is due; work that is late already is first. */
const DUE_POINTS: readonly (readonly [withinHours: number, points: number])[] = [
  [0, 40],
  [2, 36],
  [8, 28],
  [24, 20],
  [72, 12],
];
const PRIORITY_POINTS: Readonly<Record<Priority, number>> = { P1: 30, P2: 18, P3: 8, P4: 0 };
const USUAL_TICKETS = 3;
const LATE_POINTS = 15;
const MOST_LATE_POINTS = 60;
const SOON_HOURS = 24;

function dueParts({ priority, dueAt, slot, now }: SlotFacts): Part[] {
  const pressing: Part = { points: PRIORITY_POINTS[priority], rule: `priority ${priority}` };
  if (dueAt === null) return [pressing, { points: 0, rule: 'due at no set time' }];
  const left = dueAt - now;
  const spare = dueAt - slot.to;
  const points = DUE_POINTS.find(([hours]) => left <= hours * HOUR)?.[1] ?? 4;
  const said = formatMinutes(Math.floor(Math.abs(spare) / 60));
  const due: Part = { points, rule: `due in ${formatMinutes(Math.floor(left / 60))}` };
  if (left <= 0) return [pressing, { points, rule: 'missed already', word: 'missed already' }];
  if (spare < 0) {
    const lost = Math.min(MOST_LATE_POINTS, LATE_POINTS + Math.ceil(-spare / HOUR));
    return [pressing, due, { points: -lost, rule: `would end ${said} after it is due`, word: `${said} late` }];
  }
  return [pressing, due, { points: 0, rule: `ends ${said} before it is due`, word: left < 8 * HOUR ? 'due first' : undefined }];
}

/** Of the same work, what can begin sooner is better. */
function soonPart({ slot, now }: SlotFacts): Part {
  const hours = Math.max(0, Math.floor((slot.from - now) / HOUR));
  return { points: Math.max(0, SOON_HOURS - hours), rule: hours ? `begins in ${hours} h` : 'begins within the hour' };
}

function skillPart({ skill }: SlotFacts): Part {
  if (!skill) return { points: 6, rule: 'asks for no skill' };
  return { points: skill.level * 4, rule: `knows ${skill.name} at level ${skill.level}`, word: `knows ${skill.name}` };
}

function travelPart({ travelMinutes }: SlotFacts): Part {
  if (travelMinutes === undefined) return { points: 12, rule: 'no way to go' };
  const word = travelMinutes ? `${travelMinutes} min on the way` : 'on site already';
  return { points: Math.max(0, 12 - Math.floor(travelMinutes / 5)), rule: word, word };
}

function peopleParts({ assigned, ticketsOfClient, load }: SlotFacts): Part[] {
  return [
    assigned ? { points: 14, rule: 'the ticket is theirs', word: 'theirs' } : { points: 0, rule: 'the ticket is not theirs' },
    ticketsOfClient >= USUAL_TICKETS
      ? { points: 8, rule: `usual technician: ${ticketsOfClient} tickets of the client in 90 days`, word: 'usual technician' }
      : { points: ticketsOfClient, rule: `${ticketsOfClient} tickets of the client in 90 days` },
    { points: Math.floor(Math.max(0, 100 - load) / 10), rule: `${load} % of the day is booked` },
  ];
}

/** Ranks by due time, skill, site and travel, who usually serves the client, and load. Source: docs/calculations.md, What fits. */
export function scoreSlot(facts: SlotFacts): Fit {
  const parts = [...dueParts(facts), soonPart(facts), skillPart(facts), travelPart(facts), ...peopleParts(facts)];
  const words = parts.flatMap((p) => (p.word ? [p.word] : []));
  return {
    points: parts.reduce((sum, p) => sum + p.points, 0),
    says: words.slice(0, 3).join(' · ') || 'fits',
    why: parts.map((p) => ({ rule: `${p.rule}: ${p.points} points` })),
  };
}
