import { type Id, type Refusal, ticketIdOf, type WorkKind } from '@core/ground';
import { barTicketActivity, beginTicket, bookTicket, followTicketBookings, refuseTicketBooking } from '../desk/tickets/ticket-work';
import type { HouseBook } from '../house/house/house-book';
import type { WorkFacts } from '../ground/work/work-facts';
import { refuseInternalBooking } from '../time/internal-work/refuse-booking';
import type { Work } from './work';

/** What is done on work of one kind leads to, or is refused for, besides what holds for all work. */
export interface WorkRules {
  /** Why it cannot be booked as it is, if there is anything. */
  readonly refuseBooking?: (work: Work, workId: Id<'work'>) => Promise<Refusal | undefined>;
  /** A booking that is sure stands for it, of somebody or of nobody yet. */
  readonly becomeBooked?: (work: Work, workId: Id<'work'>, personId: Id<'person'> | null) => Promise<void>;
  /** A booking of it was done, cancelled or brought back. */
  readonly followBookings?: (work: Work, workId: Id<'work'>, now: StandingBookings) => Promise<void>;
  /** Somebody works on it from now. */
  readonly begin?: (work: Work, workId: Id<'work'>) => Promise<void>;
  /** Why an activity is not for it, if there is anything. */
  readonly barActivity?: (book: HouseBook, facts: WorkFacts, activityId: Id<'activity'>) => Refusal | undefined;
}

/** Whether a sure booking still stands, and what became of the one that changed. */
export interface StandingBookings {
  readonly stands: boolean;
  readonly to: 'planned' | 'done' | 'cancelled';
}

const ofTicket =
  <Rest extends readonly unknown[], Done>(rule: (work: Work, ticketId: Id<'ticket'>, ...rest: Rest) => Done) =>
  (work: Work, workId: Id<'work'>, ...rest: Rest): Done =>
    rule(work, ticketIdOf(workId), ...rest);

/** The rules of each kind of work. */
export function rulesOf(kind: WorkKind): WorkRules {
  switch (kind) {
    case 'ticket':
      return {
        refuseBooking: ofTicket(refuseTicketBooking),
        becomeBooked: ofTicket(bookTicket),
        followBookings: ofTicket(followTicketBookings),
        begin: ofTicket(beginTicket),
        barActivity: barTicketActivity,
      };
    case 'internal work':
      return { refuseBooking: refuseInternalBooking };
    case 'project task':
      return {};
  }
}
