export const INSIDE_REACHES = ['house', 'team'] as const;
/** Whom a desk's inside notes and raw mail are open to: everybody of the provider, or who staffs it. */
export type InsideReach = (typeof INSIDE_REACHES)[number];

export interface InsideQuestion {
  readonly reach: InsideReach;
  /** Manages the house, or books its work. */
  readonly manages: boolean;
  /** Is in a team that staffs a line of the desk. */
  readonly staffs: boolean;
  /** Has the ticket, or follows it. */
  readonly works: boolean;
}

/** Whether somebody may read what is inside of a desk's ticket. */
export function seesInside({ reach, manages, staffs, works }: InsideQuestion): boolean {
  return reach === 'house' || manages || staffs || works;
}
