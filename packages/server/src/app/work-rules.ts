import type { Refusal, WorkKind } from '@core/ground';
import { barTicketActivity, beginTicket, bookTicket, followTicketBookings, refuseTicketBooking } from '../desk/tickets/ticket-work';
import type { HouseBook } from '../house/house/house-book';
import type { WorkFacts } from '../ground/work/work-facts';
import { refuseInternalBooking } from '../time/internal-work/refuse-booking';
import type { Work } from './work';

/** What is done on work of one kind leads to, or is refused for, besides what holds for all work. */
export interface WorkRules {
  /** Why it cannot be booked as it is, if there is anything. */
  readonly refuseBooking?: (work: Work, workId: string) => Promise<Refusal | undefined>;
  /** A booking that is sure stands for it, of somebody or of nobody yet. */
  readonly becomeBooked?: (work: Work, workId: string, personId: string | null) => Promise<void>;
  /** A booking of it was done, cancelled or brought back. */
  readonly followBookings?: (work: Work, workId: string, now: StandingBookings) => Promise<void>;
  /** Somebody works on it from now. */
  readonly begin?: (work: Work, workId: string) => Promise<void>;
  /** Why an activity is not for it, if there is anything. */
  readonly barActivity?: (book: HouseBook, facts: WorkFacts, activityId: string) => Refusal | undefined;
}

/** Whether a sure booking still stands, and what became of the one that changed. */
export interface StandingBookings {
  readonly stands: boolean;
  readonly to: 'planned' | 'done' | 'cancelled';
}

/** The rules of each kind of work. */
export function rulesOf(kind: WorkKind): WorkRules {
  switch (kind) {
    case 'ticket':
      return {
        refuseBooking: refuseTicketBooking,
        becomeBooked: bookTicket,
        followBookings: followTicketBookings,
        begin: beginTicket,
        barActivity: barTicketActivity,
      };
    case 'internal work':
      return { refuseBooking: refuseInternalBooking };
    case 'project task':
      return {};
  }
}
