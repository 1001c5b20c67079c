/** Where recorded time, or an expense, stands: returned asks its person for a change, approved is locked. */
export const APPROVALS = ['open', 'approved', 'returned'] as const;
export type Approval = (typeof APPROVALS)[number];

export const TIME_DECISIONS = ['approve', 'return', 'take back'] as const;
export type TimeDecision = (typeof TIME_DECISIONS)[number];

/** Which decisions each state takes. */
export const DECISIONS_OF = {
  open: ['approve', 'return'],
  returned: ['approve'],
  approved: ['take back'],
} as const satisfies Record<Approval, readonly TimeDecision[]>;

export const APPROVAL_AFTER: Readonly<Record<TimeDecision, Approval>> = { approve: 'approved', return: 'returned', 'take back': 'open' };

export function takesDecision(state: Approval, decision: TimeDecision): boolean {
  return (DECISIONS_OF[state] as readonly TimeDecision[]).includes(decision);
}
